import type { Cursor } from '../bytes/cursor'

/** A number of as many bytes as its two bits tell; of none it is nought. */
function number(cursor: Cursor, bits: number): number {
  switch (bits & 3) {
    case 1:
      return cursor.u8()
    case 2:
      return cursor.u16(true)
    case 3:
      return cursor.u32(true)
    default:
      return 0
  }
}

/** A picture that begins in a packet: when it is shown, in milliseconds, and its number, counted by the writer as far as it has room. */
export interface Begun {
  readonly time: number
  readonly number: number
  /** The number after which counting begins again. */
  readonly wraps: number
}

/**
 * When the objects of a stream are shown that begin in a packet of an ASF (its published layout, §5.2), in milliseconds, by its own clock.
 * @param packet from its first byte to its last
 * @throws ReadingFault where its numbers lead past its end
 */
export function begunIn(packet: Cursor, stream: number): Begun[] {
  const first = packet.u8()
  const isCorrected = (first & 0x80) !== 0
  if (isCorrected) packet.skip(first & 15)
  const lengths = isCorrected ? packet.u8() : first
  const properties = packet.u8()
  number(packet, lengths >> 5)
  number(packet, lengths >> 1)
  number(packet, lengths >> 3)
  packet.skip(6)
  const isSeveral = (lengths & 1) !== 0
  const counted = isSeveral ? packet.u8() : 0
  const wraps = [1, 256, 65_536, 2 ** 32][(properties >> 4) & 3] ?? 1
  const begun: Begun[] = []
  for (let left = isSeveral ? counted & 63 : 1; left > 0; left--) {
    const kind = packet.u8() & 127
    const object = number(packet, properties >> 4)
    const offset = number(packet, properties >> 2)
    const replicated = number(packet, properties)
    // One byte of replicated data: the offset is a time, and whole objects follow, each so many milliseconds after the one before.
    const isWhole = replicated === 1
    const apart = isWhole ? packet.u8() : 0
    let time = offset
    if (!isWhole && replicated >= 8) {
      packet.skip(4)
      time = packet.u32(true)
      packet.skip(replicated - 8)
    } else if (!isWhole) packet.skip(replicated)
    const length = isSeveral ? number(packet, counted >> 6) : packet.left
    const payload = packet.sub(Math.min(length, packet.left))
    if (kind !== stream) continue
    if (isWhole)
      for (let i = 0; payload.left > 0; i++) {
        begun.push({ time: time + i * apart, number: (object + i) % wraps, wraps })
        payload.skip(Math.min(payload.left, payload.u8()))
      }
    else if (offset === 0 && replicated >= 8) begun.push({ time, number: object, wraps })
  }
  return begun
}
