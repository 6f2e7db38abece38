import { byteAt } from '../bytes/byte-at'
/** A packet of an elementary stream (ISO/IEC 13818-1 §2.4.3.6). */
export interface PesHeader {
  readonly streamId: number
  /** Presentation time in ticks of 90 kHz, or null. */
  readonly pts: number | null
  /** Bytes from the start code to the payload. */
  readonly headerLength: number
  /** Stated length behind the first six bytes; 0 where left open. */
  readonly packetLength: number
}

/** Streams whose packets carry no header extension. */
const plain = new Set([0xbc, 0xbe, 0xbf, 0xf0, 0xf1, 0xf2, 0xf8, 0xff])

/** Reads the header of a packet that starts at `at`; null where none does. */
export function readPes(bytes: Uint8Array, at: number): PesHeader | null {
  if (at + 9 > bytes.length || bytes[at] !== 0 || bytes[at + 1] !== 0 || bytes[at + 2] !== 1) return null
  const streamId = byteAt(bytes, at + 3)
  if (streamId < 0xbc) return null
  const packetLength = byteAt(bytes, at + 4) * 256 + byteAt(bytes, at + 5)
  if (plain.has(streamId)) return { streamId, pts: null, headerLength: 6, packetLength }
  if (byteAt(bytes, at + 6) >> 6 === 2) {
    const hasPts = (byteAt(bytes, at + 7) & 0x80) !== 0 && at + 14 <= bytes.length
    return {
      streamId,
      pts: hasPts ? ptsAt(bytes, at + 9) : null,
      headerLength: 9 + byteAt(bytes, at + 8),
      packetLength,
    }
  }
  return readMpeg1(bytes, at, streamId, packetLength)
}

/** MPEG-1 packets: stuffing, buffer size, then times told by their first bits. */
function readMpeg1(bytes: Uint8Array, start: number, streamId: number, packetLength: number): PesHeader {
  let at = start + 6
  while (bytes[at] === 0xff && at < start + 22) at++
  if (byteAt(bytes, at) >> 6 === 1) at += 2
  if (byteAt(bytes, at) >> 4 === 2)
    return { streamId, pts: ptsAt(bytes, at), headerLength: at + 5 - start, packetLength }
  if (byteAt(bytes, at) >> 4 === 3)
    return { streamId, pts: ptsAt(bytes, at), headerLength: at + 10 - start, packetLength }
  return { streamId, pts: null, headerLength: at + 1 - start, packetLength }
}

function ptsAt(bytes: Uint8Array, at: number): number | null {
  if (at + 5 > bytes.length) return null
  return (
    ((byteAt(bytes, at) >> 1) & 7) * 2 ** 30 +
    byteAt(bytes, at + 1) * 2 ** 22 +
    (byteAt(bytes, at + 2) >> 1) * 2 ** 15 +
    byteAt(bytes, at + 3) * 2 ** 7 +
    (byteAt(bytes, at + 4) >> 1)
  )
}
