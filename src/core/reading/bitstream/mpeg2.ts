import { type Rational, multiply, rational } from '../../rational/rational'
import { Bits } from '../bytes/bits'
import type { PictureClaim, ClaimedFacts } from '../claims'
import { colourFromCodes } from '../colour'
import { startCodeUnits } from './nal'

/** Frame rates by code, ISO/IEC 13818-2 Table 6-4. */
const rates: readonly (Rational | null)[] = [
  null,
  rational(24000, 1001),
  rational(24),
  rational(25),
  rational(30000, 1001),
  rational(30),
  rational(50),
  rational(60000, 1001),
  rational(60),
]
/** Display shapes by code, Table 6-3. */
const displayShapes: Record<number, Rational> = {
  2: rational(4, 3),
  3: rational(16, 9),
  4: rational(221, 100),
}
/** Shapes of MPEG-1's pixels by code (ISO/IEC 11172-2 §2.4.3.2): it states height to width in four places, these are width to height. */
const mpeg1Shapes: Record<number, Rational> = {
  1: rational(1),
  2: rational(49, 33),
  3: rational(64, 45),
  4: rational(239, 182),
  5: rational(36, 29),
  6: rational(32, 27),
  7: rational(169, 151),
  8: rational(178, 163),
  9: rational(54, 53),
  10: rational(196, 201),
  11: rational(187, 200),
  12: rational(200, 219),
  13: rational(127, 147),
  14: rational(134, 161),
}
const profileNames: Record<number, string> = {
  1: 'High',
  2: 'Spatially scalable',
  3: 'SNR scalable',
  4: 'Main',
  5: 'Simple',
}

export interface Mpeg2Facts {
  readonly claims: PictureClaim[]
  readonly statedRate: Rational | null
  /** False for MPEG-1, which has no extensions. */
  readonly isMpeg2: boolean
  /** Time code of the first group of pictures, with its drop-frame flag. */
  readonly timecode: {
    hours: number
    minutes: number
    seconds: number
    pictures: number
    dropFrame: boolean
  } | null
}

/** What an MPEG-1 or MPEG-2 stream says (ISO/IEC 13818-2 §6.2): sequence, display and picture headers, group time code. */
export function claimsOfMpeg2(stream: Uint8Array): Mpeg2Facts {
  const facts: ClaimedFacts = {}
  let statedRate: Rational | null = null
  let timecode: Mpeg2Facts['timecode'] = null
  let isMpeg2 = false
  let progressiveSequence = false
  let shapeCode = 1
  const pictures = { progressive: 0, topFirst: 0, bottomFirst: 0 }
  for (const unit of startCodeUnits(stream)) {
    if (unit.length < 5) continue
    const bits = new Bits(unit.subarray(1))
    if (unit[0] === 0xb3 && unit.length >= 8 && facts.width === undefined) {
      facts.width = bits.u(12)
      facts.height = bits.u(12)
      shapeCode = bits.u(4)
      statedRate = rates[bits.u(4)] ?? null
    } else if (unit[0] === 0xb8 && !timecode) {
      const dropFrame = bits.flag()
      const [hours, minutes] = [bits.u(5), bits.u(6)]
      bits.skip(1)
      timecode = { hours, minutes, seconds: bits.u(6), pictures: bits.u(6), dropFrame }
    } else if (unit[0] === 0xb5) {
      const kind = bits.u(4)
      if (kind === 1 && unit.length >= 7 && !isMpeg2) {
        isMpeg2 = true
        const escape = bits.flag()
        const profile = bits.u(3)
        bits.skip(4)
        progressiveSequence = bits.flag()
        facts.profile = escape ? '4:2:2' : (profileNames[profile] ?? null)
        facts.chroma = [null, '4:2:0', '4:2:2', '4:4:4'][bits.u(2)]
        facts.width = (facts.width ?? 0) + bits.u(2) * 4096
        facts.height = (facts.height ?? 0) + bits.u(2) * 4096
        if (statedRate && bits.left >= 31) {
          bits.skip(12 + 1 + 8 + 1)
          statedRate = multiply(statedRate, rational(bits.u(2) + 1, bits.u(5) + 1))
        }
      } else if (kind === 2 && facts.primaries === undefined) {
        bits.skip(3)
        if (bits.flag()) Object.assign(facts, colourFromCodes(bits.u(8), bits.u(8), bits.u(8)))
      } else if (kind === 8) countPicture(bits, pictures)
    }
  }
  if (!facts.width || !facts.height) return { claims: [], statedRate: null, isMpeg2, timecode: null }
  facts.bitDepth = 8
  facts.chroma ??= '4:2:0'
  const shape = displayShapes[shapeCode]
  facts.pixelAspect = !isMpeg2
    ? (mpeg1Shapes[shapeCode] ?? rational(1))
    : shape
      ? multiply(shape, rational(facts.height, facts.width))
      : rational(1)
  const claims: PictureClaim[] = [{ layer: 'stream', origin: 'sequence header', facts }]
  const scan = scanOf(isMpeg2, progressiveSequence, pictures)
  if (scan) claims.push(scan)
  return { claims, statedRate, isMpeg2, timecode }
}

/** A picture coding extension, §6.2.3.1. */
function countPicture(bits: Bits, pictures: { progressive: number; topFirst: number; bottomFirst: number }) {
  bits.skip(16 + 2)
  const structure = bits.u(2)
  const topFieldFirst = bits.flag()
  bits.skip(7)
  const progressiveFrame = bits.flag()
  if (structure === 3 && progressiveFrame) pictures.progressive++
  else if (structure === 1 || (structure === 3 && topFieldFirst)) pictures.topFirst++
  else pictures.bottomFirst++
}

function scanOf(
  isMpeg2: boolean,
  progressiveSequence: boolean,
  { progressive, topFirst, bottomFirst }: { progressive: number; topFirst: number; bottomFirst: number },
): PictureClaim | null {
  if (!isMpeg2 || progressiveSequence)
    return { layer: 'stream', origin: 'sequence header', facts: { scan: 'progressive' } }
  if (progressive + topFirst + bottomFirst === 0) return null
  const origin = 'picture coding extension'
  if (topFirst + bottomFirst === 0) return { layer: 'stream', origin, facts: { scan: 'progressive' } }
  return {
    layer: 'stream',
    origin,
    facts: { scan: 'interlaced', fieldOrder: topFirst >= bottomFirst ? 'top-first' : 'bottom-first' },
  }
}
