import { byteAt } from '../bytes/byte-at'
import { Cursor } from '../bytes/cursor'

/** A page of an Ogg file (RFC 3533 §6). */
export interface Page {
  readonly serial: number
  /** Position at the end of the last packet that ends here; its meaning is the codec's. −1: none ends here. */
  readonly granule: bigint
  /** Whether a stream begins here. */
  readonly begins: boolean
  /** The first packet, as far as this page holds it. */
  readonly packet: Uint8Array
}

/** The pages that begin in a stretch of bytes; bytes between them are stepped over. */
export function* pagesIn(bytes: Uint8Array): Generator<Page> {
  for (let at = 0; at + 27 <= bytes.length;) {
    if (bytes[at] !== 0x4f || bytes[at + 1] !== 0x67 || bytes[at + 2] !== 0x67 || bytes[at + 3] !== 0x53) {
      at++
      continue
    }
    const segments = byteAt(bytes, at + 26)
    const table = bytes.subarray(at + 27, at + 27 + segments)
    let [length, first, ended] = [0, 0, false]
    for (const size of table) {
      length += size
      if (!ended) first += size
      if (size < 255) ended = true
    }
    const body = at + 27 + segments
    const header = new Cursor(bytes.subarray(at + 6, at + 18))
    const granule = new DataView(bytes.buffer, bytes.byteOffset + at + 6, 8).getBigInt64(0, true)
    header.skip(8)
    yield {
      serial: header.u32(true),
      granule,
      begins: (byteAt(bytes, at + 5) & 2) !== 0,
      packet: bytes.subarray(body, Math.min(bytes.length, body + first)),
    }
    at = body + length
  }
}
