import { Cursor } from '../bytes/cursor'

/** A box (atom) inside a stretch of memory: ISO/IEC 14496-12 §4.2. */
export interface Box {
  readonly type: string
  /** Where it starts in the file. */
  readonly offset: number
  readonly body: Cursor
}

/** What a box says of itself at its head; a size of 0 stands for the rest, or ends a list. */
export interface BoxHead {
  readonly type: string
  /** Of the whole box, in bytes. */
  readonly size: number
  /** Of the head alone. */
  readonly header: number
}

/** Reads a head of 32 or 64 bits; eight bytes at least are left in `body`. */
export function readBoxHead(body: Cursor): BoxHead {
  const size = body.u32()
  const type = body.code()
  return size === 1 && body.left >= 8 ? { type, size: body.u64(), header: 16 } : { type, size, header: 8 }
}

/**
 * The boxes that stand side by side in `body`. The last one may be cut short by a wrong size: it is given as far as it
 * goes, since its first fields may still be whole.
 */
export function* boxesIn(body: Cursor): Generator<Box> {
  while (body.left >= 8) {
    const offset = body.offset
    const { type, header, size: stated } = readBoxHead(body)
    // QuickTime ends some lists with a zero.
    const size = stated === 0 ? header + body.left : stated
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
