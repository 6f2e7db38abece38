import type { Shown, ShownField, ShownFrame } from '../../core/motion/shown'
import type { Parity } from '../../core/picture/scan'

/**
 * What is shown as playing counts it: each picture that is drawn has one number, for its frame and the field of it that is drawn
 * alone. Two fields of one frame of the timeline are seen together as a screen shows them, one with the other.
 */
const fieldCodes = { top: 1, bottom: 2 } as const

const code = (index: number, field: Parity | null): ShownFrame => ({
  kind: 'frame',
  index: 4 * index + (field ? fieldCodes[field] : 0),
})

/** The frame and the field of a code. */
export const ofCode = (code: number): { readonly index: number; readonly field: Parity | null } => ({
  index: code >> 2,
  field: (code & 3) === 1 ? 'top' : (code & 3) === 2 ? 'bottom' : null,
})

const single = (part: ShownFrame | ShownField): ShownFrame =>
  part.kind === 'frame'
    ? code(part.index, null)
    : code(part.frame, part.method === 'blend' ? null : part.parity)

/** @param stored the index of a frame in its file */
export function coded(shown: Shown, stored: (index: number) => number = (index) => index): Shown {
  switch (shown.kind) {
    case 'frame':
      return code(stored(shown.index), null)
    case 'field':
      return single({ ...shown, frame: stored(shown.frame) })
    case 'mix': {
      const at = (part: ShownFrame | ShownField) =>
        single(
          part.kind === 'frame'
            ? { ...part, index: stored(part.index) }
            : { ...part, frame: stored(part.frame) },
        )
      return { ...shown, a: at(shown.a), b: at(shown.b) }
    }
    case 'fields': {
      const { top, bottom } = shown
      return {
        kind: 'mix',
        a: code(stored(top.frame), top.parity),
        b: code(stored(bottom.frame), bottom.parity),
        weightOfB: 0.5,
      }
    }
    case 'nothing':
      return shown
  }
}
