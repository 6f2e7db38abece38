import { byteAt } from '../bytes/byte-at'
import { av1FileOf } from './av1-units'

/** A stream of pictures without a wrapper, by the codec whose headers it begins with; null where it is none. */
export function elementaryCodec(head: Uint8Array): string | null {
  const lead =
    head[0] === 0 && head[1] === 0 ? (head[2] === 1 ? 3 : head[2] === 0 && head[3] === 1 ? 4 : 0) : 0
  if (lead === 0) return av1FileOf(head) ? 'AV1' : null
  const code = byteAt(head, lead)
  if (code === 0xb3) return 'MPEG-2'
  if (code === 0x0f) return 'VC-1'
  if (code === 0xb0 || code === 0x00) return code === 0xb0 ? 'MPEG-4 Visual' : null
  // HEVC has two bytes of header, the second of which is 1 in the base layer.
  const type = (code >> 1) & 63
  if ((code & 0x81) === 0 && byteAt(head, lead + 1) === 1 && (type === 32 || type === 33 || type === 35))
    return 'HEVC'
  return code === 0x09 || (code & 0x9f) === 7 ? 'H.264' : null
}
