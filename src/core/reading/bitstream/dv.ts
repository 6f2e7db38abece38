import { byteAt } from '../bytes/byte-at'
import { rational } from '../../rational/rational'
import type { PictureClaim, ClaimedFacts } from '../claims'

/** What the first frame of a DV stream says. */
export interface DvFacts {
  readonly claims: PictureClaim[]
  readonly rate: { num: number; den: number }
  readonly timecode: { text: string; dropFrame: boolean } | null
}

const blockLength = 80

/**
 * Reads the header, subcode and auxiliary blocks of the first DIF sequence: IEC 61834-2 (DV25), SMPTE ST 314 (DV50),
 * SMPTE ST 370 (DV100).
 * @returns null where the bytes are no DV frame.
 */
export function claimsOfDv(frame: Uint8Array): DvFacts | null {
  if (
    frame.length < blockLength * 6 ||
    byteAt(frame, 0) >> 5 !== 0 ||
    (byteAt(frame, 0) & 0x1f) !== 0x1f ||
    frame[1] !== 0x07
  )
    return null
  const is625 = (byteAt(frame, 3) & 0x80) !== 0
  const packs = [...auxiliaryPacks(frame)]
  const source = packs.find((pack) => pack[0] === 0x60)
  const control = packs.find((pack) => pack[0] === 0x61)
  const type = source ? byteAt(source, 3) & 0x1f : 0
  const wide = control ? (byteAt(control, 2) & 7) === 2 || (byteAt(control, 2) & 7) === 7 : false
  const rate = is625 ? rational(25) : rational(30000, 1001)
  const facts: ClaimedFacts = { bitDepth: 8, scan: 'interlaced', ...rasterOf(type, is625, wide) }
  // The interlace bit is clear where a frame was taken at once.
  if (control && (byteAt(control, 3) & 0x10) === 0)
    Object.assign(facts, { scan: 'progressive', fieldOrder: null })
  const hd720 = type === 0x18
  return {
    claims: [{ layer: 'stream', origin: 'DIF header', facts }],
    rate: hd720 ? rational(rate.num * 2, rate.den) : rate,
    timecode: readTimecode(frame),
  }
}

function rasterOf(type: number, is625: boolean, wide: boolean): ClaimedFacts {
  if (type === 0x14) {
    const width = is625 ? 1440 : 1280
    const pixelAspect = is625 ? rational(4, 3) : rational(3, 2)
    return { profile: 'DV100', width, height: 1080, pixelAspect, chroma: '4:2:2', fieldOrder: 'top-first' }
  }
  if (type === 0x18)
    return {
      profile: 'DV100',
      width: 960,
      height: 720,
      pixelAspect: rational(4, 3),
      chroma: '4:2:2',
      scan: 'progressive',
      fieldOrder: null,
    }
  const pixelAspect = is625
    ? rational(wide ? 64 : 16, wide ? 45 : 15)
    : rational(wide ? 32 : 8, wide ? 27 : 9)
  const height = is625 ? 576 : 480
  const dv50 = type === 4
  return {
    profile: dv50 ? 'DV50' : 'DV25',
    width: 720,
    height,
    pixelAspect,
    chroma: dv50 ? '4:2:2' : is625 ? '4:2:0' : '4:1:1',
    fieldOrder: 'bottom-first',
  }
}

/** Packs of five bytes in the three VAUX blocks of a DIF sequence. */
function* auxiliaryPacks(frame: Uint8Array): Generator<Uint8Array> {
  for (let block = 3; block < 6; block++) {
    const start = block * blockLength
    if (byteAt(frame, start) >> 5 !== 2) continue
    for (let pack = 0; pack < 15; pack++) yield frame.subarray(start + 3 + pack * 5, start + 8 + pack * 5)
  }
}

/** The time code pack (0x13) among the subcode blocks; digits are binary coded decimals. */
function readTimecode(frame: Uint8Array): DvFacts['timecode'] {
  for (let block = 1; block < 3; block++) {
    for (let sync = 0; sync < 6; sync++) {
      const at = block * blockLength + 3 + sync * 8 + 3
      if (frame[at] !== 0x13) continue
      const digits = (byte: number, mask: number) => `${(byte & mask) >> 4}${byte & 15}`
      const parts = [
        digits(byteAt(frame, at + 4), 0x30),
        digits(byteAt(frame, at + 3), 0x70),
        digits(byteAt(frame, at + 2), 0x70),
        digits(byteAt(frame, at + 1), 0x30),
      ]
      const dropFrame = (byteAt(frame, at + 1) & 0x40) !== 0
      const valid =
        parts.every((part) => /^\d\d$/.test(part)) &&
        Number(parts[0]) < 24 &&
        Number(parts[1]) < 60 &&
        Number(parts[2]) < 60
      if (valid)
        return { text: `${parts.slice(0, 3).join(':')}${dropFrame ? ';' : ':'}${parts[3]}`, dropFrame }
    }
  }
  return null
}
