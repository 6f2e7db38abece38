import { byteAt } from '../bytes/byte-at'
import { rational } from '../../rational/rational'
import { Bits } from '../bytes/bits'
import type { PictureClaim, ClaimedFacts } from '../claims'
import { startCodeUnits } from './nal'
import { pixelAspectFromIdc } from './vui'

/** What an MPEG-4 Visual stream says in its video object layer (ISO/IEC 14496-2 §6.2.3). */
export function claimsOfMpeg4(stream: Uint8Array): PictureClaim[] {
  let profile: string | null = null
  for (const unit of startCodeUnits(stream)) {
    if (unit[0] === 0xb0 && unit.length >= 2) profile = profileName(byteAt(unit, 1))
    if (byteAt(unit, 0) < 0x20 || byteAt(unit, 0) > 0x2f || unit.length < 8) continue
    const facts = readLayer(new Bits(unit.subarray(1)))
    return facts
      ? [
          {
            layer: 'stream',
            origin: 'video object layer',
            facts: { profile, bitDepth: 8, chroma: '4:2:0', ...facts },
          },
        ]
      : []
  }
  return []
}

function profileName(indication: number): string | null {
  if (indication <= 0x08) return 'Simple'
  if (indication >= 0xf0 && indication <= 0xf7) return 'Advanced Simple'
  return null
}

function readLayer(bits: Bits): ClaimedFacts | null {
  bits.skip(1 + 8)
  if (bits.flag()) bits.skip(4 + 3)
  const facts: ClaimedFacts = {}
  const shapeCode = bits.u(4)
  if (shapeCode === 15) {
    const [num, den] = [bits.u(8), bits.u(8)]
    if (num && den) facts.pixelAspect = rational(num, den)
  } else {
    // Only the first five codes agree with H.273.
    const shape = shapeCode <= 5 ? pixelAspectFromIdc(shapeCode) : null
    if (shape) facts.pixelAspect = shape
  }
  if (bits.flag()) {
    bits.skip(3)
    if (bits.flag()) bits.skip(79)
  }
  if (bits.u(2) !== 0) return null
  bits.skip(1)
  const resolution = bits.u(16)
  bits.skip(1)
  if (bits.flag()) bits.skip(Math.max(1, Math.ceil(Math.log2(Math.max(2, resolution)))))
  bits.skip(1)
  const width = bits.u(13)
  bits.skip(1)
  const height = bits.u(13)
  bits.skip(1)
  if (!width || !height) return null
  facts.scan = bits.flag() ? 'interlaced' : 'progressive'
  return { ...facts, width, height }
}
