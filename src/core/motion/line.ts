import { deepEqual } from '../equality'
import type { Shown, ShownField, ShownFrame } from './shown'

/** What a frame of a timeline shows, and of what. */
export interface LineFrame {
  readonly n: number
  /** What it is a frame of; null for a gap. */
  readonly id: string | null
  readonly shown: Shown
}

/** A frame of the line of motion: what it shows, as short as it goes, and what of the source was passed over before it. */
export interface LineCell {
  readonly n: number
  /** `40`, `40t` for a field, `40` with `41` below for a mixture or a pair of fields. */
  readonly text: string
  readonly below: string | null
  /** Shown again, mixed of two, made of a field or of two, or as it is. */
  readonly mark: 'whole' | 'again' | 'mixed' | 'made' | 'nothing'
  /** Whether it is the first of another source. */
  readonly begins: boolean
  /** Source frames between those shown before and here that are shown nowhere. */
  readonly lost: readonly number[]
}

const letter = { top: 't', bottom: 'b' } as const
const short = (part: ShownFrame | ShownField): string =>
  part.kind === 'frame'
    ? String(part.index)
    : `${part.frame}${part.method === 'blend' ? '' : letter[part.parity]}`

/** The first and the last source frame of what is shown. */
function reach(shown: Shown): readonly [number, number] | null {
  switch (shown.kind) {
    case 'frame':
      return [shown.index, shown.index]
    case 'field':
      return [shown.frame, shown.frame]
    case 'mix': {
      const [a, b] = [reach(shown.a), reach(shown.b)]
      return a && b && [a[0], b[1]]
    }
    case 'fields': {
      const { top, bottom } = shown
      return [Math.min(top.frame, bottom.frame), Math.max(top.frame, bottom.frame)]
    }
    case 'nothing':
      return null
  }
}

/** So many source frames that are left out at once are counted; more are another place, not a skip. */
const longestSkip = 12

/** The line of motion of frames that follow each other. */
export function motionLine(frames: readonly LineFrame[]): LineCell[] {
  return frames.map(({ n, id, shown }, i) => {
    const before = frames[i - 1]
    const begins = id !== null && before?.id !== id
    const [reachNow, last] = [reach(shown), before && !begins ? reach(before.shown) : null]
    const gap = reachNow && last ? reachNow[0] - last[1] - 1 : 0
    const lost =
      reachNow && last && gap > 0 && gap <= longestSkip
        ? Array.from({ length: gap }, (_, k) => last[1] + 1 + k)
        : []
    const isAgain = before !== undefined && !begins && deepEqual(before.shown, shown)
    return { n, begins, lost, ...cellOf(shown, isAgain) }
  })
}

function cellOf(shown: Shown, isAgain: boolean): Pick<LineCell, 'text' | 'below' | 'mark'> {
  const mark = <M extends LineCell['mark']>(mark: M) => (isAgain ? ('again' as const) : mark)
  switch (shown.kind) {
    case 'frame':
      return { text: short(shown), below: null, mark: mark('whole') }
    case 'field':
      return { text: short(shown), below: null, mark: mark('made') }
    case 'mix':
      return { text: short(shown.a), below: short(shown.b), mark: 'mixed' }
    case 'fields':
      return { text: `${shown.top.frame}t`, below: `${shown.bottom.frame}b`, mark: mark('made') }
    case 'nothing':
      return { text: '', below: null, mark: 'nothing' }
  }
}
