import { byteAt } from '../bytes/byte-at'
import { Bits } from '../bytes/bits'
import type { PictureClaim, ClaimedFacts } from '../claims'

const matrices: Record<number, string> = {
  1: 'bt601-625',
  2: 'bt709',
  3: 'bt601-525',
  4: 'smpte240m',
  5: 'bt2020',
  7: 'rgb',
}

/** What the first key frame of a VP9 stream says (uncompressed header, bitstream specification §6.2). */
export function claimOfVp9(frame: Uint8Array): PictureClaim | null {
  if (frame.length < 10) return null
  const bits = new Bits(frame)
  if (bits.u(2) !== 2) return null
  const profile = bits.u(1) + bits.u(1) * 2
  if (profile === 3) bits.skip(1)
  if (bits.flag() || bits.u(1) !== 0) return null
  bits.skip(2)
  if (bits.u(24) !== 0x498342) return null
  const facts: ClaimedFacts = { profile: String(profile), scan: 'progressive' }
  facts.bitDepth = profile >= 2 ? (bits.flag() ? 12 : 10) : 8
  const space = bits.u(3)
  facts.matrix = matrices[space] ?? null
  if (space !== 7) {
    facts.range = bits.flag() ? 'full' : 'limited'
    if (profile === 1 || profile === 3) {
      const [x, y] = [bits.u(1), bits.u(1)]
      bits.skip(1)
      facts.chroma = x ? (y ? '4:2:0' : '4:2:2') : y ? '4:4:0' : '4:4:4'
    } else facts.chroma = '4:2:0'
  } else {
    facts.range = 'full'
    facts.chroma = '4:4:4'
    if (profile === 1 || profile === 3) bits.skip(1)
  }
  facts.width = bits.u(16) + 1
  facts.height = bits.u(16) + 1
  return { layer: 'stream', origin: 'frame header', facts }
}

/** The size that the first key frame of a VP8 stream states (RFC 6386 §9.1). */
export function claimOfVp8(frame: Uint8Array): PictureClaim | null {
  if (
    frame.length < 10 ||
    byteAt(frame, 0) & 1 ||
    frame[3] !== 0x9d ||
    frame[4] !== 0x01 ||
    frame[5] !== 0x2a
  )
    return null
  const width = (byteAt(frame, 6) | (byteAt(frame, 7) << 8)) & 0x3fff
  const height = (byteAt(frame, 8) | (byteAt(frame, 9) << 8)) & 0x3fff
  if (!width || !height) return null
  return {
    layer: 'stream',
    origin: 'frame header',
    facts: { width, height, bitDepth: 8, chroma: '4:2:0', scan: 'progressive' },
  }
}
