import { Cursor } from '../bytes/cursor'

/** A box (atom) inside a stretch of memory: ISO/IEC 14496-12 §4.2. */
export interface Box {
  readonly type: string
  /** Where it starts in the file. */
  readonly offset: number
  readonly body: Cursor
}

/**
 * The boxes that stand side by side in `body`. The last one may be cut short by a wrong size: it is given as far as it
 * goes, since its first fields may still be whole.
 */
export function* boxesIn(body: Cursor): Generator<Box> {
  while (body.left >= 8) {
    const offset = body.offset
    let size = body.u32()
    const type = body.code()
    let header = 8
    if (size === 1 && body.left >= 8) {
      size = body.u64()
      header = 16
    }
    // QuickTime ends some lists with a zero.
    if (size === 0) size = header + body.left
    if (size < header) return
    yield { type, offset, body: body.sub(Math.min(size - header, body.left)) }
  }
}

/** The first box on a path of types below `body`, or null. The cursor of the box is at its first byte. */
export function findBox(body: Cursor, ...path: string[]): Box | null {
  const [first, ...rest] = path
  for (const box of boxesIn(new Cursor(body.bytes.subarray(body.at), body.offset))) {
    if (box.type === first) return rest.length ? findBox(box.body, ...rest) : box
  }
  return null
}

/** Version and flags of a full box. */
export function readFullBox(body: Cursor): { version: number; flags: number } {
  return { version: body.u8(), flags: body.u24() }
}
