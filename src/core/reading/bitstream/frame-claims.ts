import { byteAt } from '../bytes/byte-at'
import type { PictureClaim } from '../claims'
import { type Fault, ReadingFault } from '../fault'
import { concat } from '../bytes/concat'
import { claimOfAv1, claimsOfAv1Configuration, statedRateOfAv1 } from './av1'
import { claimOfDnx } from './dnx'
import { claimsOfDv } from './dv'
import { claimOfFfv1 } from './ffv1'
import { claimsOfH264 } from './h264'
import { claimsOfHevc } from './hevc'
import { factsOfJpeg } from './jpeg'
import { claimOfJpeg2000 } from './jpeg2000'
import { claimsOfMpeg2 } from './mpeg2'
import { claimsOfMpeg4 } from './mpeg4'
import { lengthPrefixedUnits, startCodeUnits } from './nal'
import { claimOfProRes } from './prores'
import { claimOfVp8, claimOfVp9 } from './vp9'

/** What a stream's first bytes came to, whatever wrapper they stood in. */
export interface StreamFacts {
  readonly claims: readonly PictureClaim[]
  /** The codec as the stream itself tells it, where the wrapper leaves it open (DNxHD or DNxHR, MPEG-1 or MPEG-2). */
  readonly codec?: string
  /** Frames a second that the stream states; wrappers' times come first. */
  readonly statedRate?: number | null
  /** Whether the stream says that it keeps that rate. */
  readonly statedIsFixed?: boolean
  readonly timecode?: { readonly text: string; readonly dropFrame: boolean } | null
  /** Why the stream could not be read, where its headers are damaged: what the wrapper states still stands. */
  readonly fault?: Fault
  /** Fields are coded one by one: two pictures of the stream are one frame. */
  readonly fieldCoded?: boolean
}

/** Some encoders state the clock of their times as the rate: no picture runs as fast. */
const mostStated = 500

/** The rate that a stream states, in frames a second; null where it states none, or none that can be. */
export const statedRateOf = ({ statedRate }: StreamFacts): number | null =>
  statedRate && statedRate <= mostStated ? statedRate : null

const nothing: StreamFacts = { claims: [] }
const claimed = (claim: PictureClaim | null): StreamFacts => ({ claims: claim ? [claim] : [] })

/**
 * What the bitstream says of the picture. Damaged headers are a fault beside what the wrapper states, not instead of it.
 * @param codec as in `reading.video.codec`
 * @param frame the first bytes of the first frame, or of the elementary stream
 * @param setup the codec's configuration record as the wrapper keeps it (`avcC`, `hvcC`, `av1C`, or plain headers)
 */
export function claimsOfStream(
  codec: string,
  frame: Uint8Array,
  setup: Uint8Array = new Uint8Array(0),
): StreamFacts {
  try {
    return factsOfStream(codec, frame, setup)
  } catch (error) {
    if (!(error instanceof ReadingFault)) throw error
    const message = `The ${codec} headers inside are damaged: ${error.message} What the wrapper states is kept; the picture may not play. Copy it again.`
    return { claims: [], fault: { code: 'damaged', message } }
  }
}

function factsOfStream(codec: string, frame: Uint8Array, setup: Uint8Array): StreamFacts {
  switch (codec) {
    case 'H.264': {
      const { units } = nalUnits(frame, setup, avcSets)
      return claimsOfH264(units)
    }
    case 'HEVC':
      return claimsOfHevc(nalUnits(frame, setup, hevcSets).units)
    case 'MPEG-1':
    case 'MPEG-2': {
      const { claims, statedRate, isMpeg2, timecode } = claimsOfMpeg2(concat([setup, frame]))
      if (claims.length === 0) return nothing
      return {
        claims,
        codec: isMpeg2 ? 'MPEG-2' : 'MPEG-1',
        statedRate: statedRate && statedRate.num / statedRate.den,
        statedIsFixed: true,
        timecode: timecode && { text: groupTimecode(timecode), dropFrame: timecode.dropFrame },
      }
    }
    case 'MPEG-4 Visual':
      return { claims: claimsOfMpeg4(concat([setup, frame])) }
    case 'DV': {
      const dv = claimsOfDv(frame)
      return dv
        ? { claims: dv.claims, statedRate: dv.rate.num / dv.rate.den, timecode: dv.timecode }
        : nothing
    }
    case 'ProRes':
      return claimed(claimOfProRes(frame))
    case 'DNxHD':
    case 'DNxHR': {
      const dnx = claimOfDnx(frame)
      return dnx ? { claims: [dnx.claim], codec: dnx.codec } : nothing
    }
    case 'VP8':
      return claimed(claimOfVp8(frame))
    case 'VP9':
      return claimed(claimOfVp9(frame))
    case 'AV1': {
      const configured = claimsOfAv1Configuration(setup)
      if (configured.length) return { claims: configured }
      return { ...claimed(claimOfAv1(frame)), statedRate: statedRateOfAv1(frame) }
    }
    case 'Motion JPEG': {
      const jpeg = factsOfJpeg(frame)
      if (!jpeg) return nothing
      const { rotation: _r, takenAt: _t, camera: _c, ...facts } = jpeg
      // One picture a frame is a whole frame, unless a marker tells of fields; samples go from 0 to 255 (ITU-T T.871).
      return claimed({
        layer: 'stream',
        origin: 'JPEG markers',
        facts: { scan: 'progressive', range: 'full', ...facts },
      })
    }
    case 'FFV1':
      return claimed(claimOfFfv1(frame, setup))
    case 'JPEG 2000':
      return claimed(claimOfJpeg2000(frame))
    default:
      return nothing
  }
}

const groupTimecode = (t: {
  hours: number
  minutes: number
  seconds: number
  pictures: number
  dropFrame: boolean
}) => {
  const two = (n: number) => String(n).padStart(2, '0')
  return `${two(t.hours)}:${two(t.minutes)}:${two(t.seconds)}${t.dropFrame ? ';' : ':'}${two(t.pictures)}`
}

type Sets = (record: Uint8Array) => { lengthSize: number; units: Uint8Array[] } | null

/** Units led by their length where a configuration record says so, else led by start codes. */
function nalUnits(frame: Uint8Array, setup: Uint8Array, setsOf: Sets): { units: Uint8Array[] } {
  const record = setup.length > 4 && setup[0] === 1 ? setsOf(setup) : null
  if (record) return { units: [...record.units, ...lengthPrefixedUnits(frame, record.lengthSize)] }
  return { units: [...startCodeUnits(setup), ...startCodeUnits(frame)] }
}

/** The sequence parameter sets of an `avcC` record (ISO/IEC 14496-15 §5.3.3). */
const avcSets: Sets = (record) => {
  if (record.length < 7) return null
  return { lengthSize: (byteAt(record, 4) & 3) + 1, units: unitsIn(record, 6, byteAt(record, 5) & 31).units }
}

/** All parameter sets of an `hvcC` record (ISO/IEC 14496-15 §8.3.3). */
const hevcSets: Sets = (record) => {
  if (record.length < 23) return null
  const units: Uint8Array[] = []
  let at = 23
  for (let arrays = byteAt(record, 22); arrays > 0 && at + 3 <= record.length; arrays--) {
    const found = unitsIn(record, at + 3, byteAt(record, at + 1) * 256 + byteAt(record, at + 2))
    units.push(...found.units)
    at = found.end
  }
  return { lengthSize: (byteAt(record, 21) & 3) + 1, units }
}

function unitsIn(record: Uint8Array, start: number, count: number): { units: Uint8Array[]; end: number } {
  const units: Uint8Array[] = []
  let at = start
  for (let n = count; n > 0 && at + 2 <= record.length; n--) {
    const length = byteAt(record, at) * 256 + byteAt(record, at + 1)
    at += 2
    if (length === 0 || at + length > record.length) break
    units.push(record.subarray(at, at + length))
    at += length
  }
  return { units, end: at }
}
