import { av1FileOf, temporalUnits } from './av1-units'
import { elementaryCodec } from './elementary-codec'
import { ivfFrames } from './ivf'
import { exactRate, snapToStandard } from '../../rate/rate'
import { toNumber } from '../../rational/rational'
import { type WrapperReading, assemblePicture, makeReading } from '../assemble'
import { claimsOfStream, statedRateOf } from '../bitstream/frame-claims'
import { codedPictures } from '../bitstream/pictures'
import { Cursor } from '../bytes/cursor'
import type { FileWindow } from '../bytes/source'
import { ReadingFault } from '../fault'
import type { Note } from '../reading'
import type { RateFacts } from '../timing'

/** A stream of no more than this is counted; of a longer one its pictures are reckoned from so much at its beginning. */
const headLength = 240 * 1024
/** No IVF runs faster: some writers state the clock of its times. */
const mostStated = 500

/** Reads a stream of pictures without a wrapper: its own headers say nearly all; a rate that they do not say is asked. */
export async function readElementary(file: FileWindow): Promise<WrapperReading> {
  const isWhole = file.size <= headLength
  const bytes = (await file.some(0, headLength)).slice()
  const codec = elementaryCodec(bytes) ?? ''
  const kind = av1FileOf(bytes)
  const units = kind ? [...temporalUnits(bytes, kind)] : []
  const stream = claimsOfStream(codec, kind ? (units[0]?.bytes() ?? bytes.subarray(0)) : bytes)
  if (stream.fault) throw new ReadingFault(stream.fault.code, stream.fault.message, 0)
  if (stream.claims.length === 0)
    throw new ReadingFault(
      'damaged',
      `It begins like ${codec}, but says nothing of its picture. Copy it again.`,
      0,
    )
  const pictures = kind ? units : (codedPictures(stream.codec ?? codec, bytes) ?? [])
  const stated = statedRateOf(stream)
  const rate: RateFacts = stated
    ? { rate: snapToStandard(stated) ?? exactRate(stated), rateMode: 'constant' }
    : { rate: null, rateMode: 'unknown' }
  const frames = isWhole ? pictures.length : reckoned(pictures, file.size)
  const picture = assemblePicture({
    codec: stream.codec ?? codec,
    claims: stream.claims,
    rate,
    rateOrigin: 'stream',
    frameCount: frames && frames > 0 ? frames : null,
  })
  const notes: Note[] = [...picture.notes]
  if (!rate.rate)
    notes.push({
      code: 'rate-not-said',
      message: 'The stream does not say its rate: set it by a correction.',
    })
  if (!isWhole && frames) notes.push(reckonedNote(frames))
  return {
    reading: makeReading({
      kind: 'video',
      container: 'elementary stream',
      sizeBytes: file.size,
      durationSec: frames && rate.rate ? frames / toNumber(rate.rate) : null,
      video: picture.video,
      timecode: stream.timecode
        ? { start: stream.timecode.text, dropFrame: stream.timecode.dropFrame }
        : null,
      notes,
    }),
    origins: { ...picture.origins, 'video.frameCount': isWhole ? 'pictures, counted' : 'pictures, reckoned' },
    fault: null,
  }
}

/** How many pictures a file has, if it goes on as it begins; null where too few are at hand. */
function reckoned(pictures: readonly { readonly at: number }[], sizeBytes: number): number | null {
  const [first, last] = [pictures[0], pictures.at(-1)]
  if (!first || !last || first === last) return null
  return Math.round(((pictures.length - 1) * (sizeBytes - first.at)) / (last.at - first.at))
}

const reckonedNote = (frames: number): Note => ({
  code: 'reckoned-count',
  message: `${frames} frames are reckoned from those at the beginning: nothing in it counts them.`,
})

const ivfCodecs: Readonly<Record<string, string>> = { AV01: 'AV1', VP90: 'VP9', VP80: 'VP8' }

/** Reads IVF: a head of 32 bytes, then frames with their times. */
export async function readIvf(file: FileWindow): Promise<WrapperReading> {
  const head = new Cursor(await file.exactly(0, 32))
  head.skip(8)
  const code = head.code()
  const [width, height] = [head.u16(true), head.u16(true)]
  const [perSecond, scale, counted] = [head.u32(true), head.u32(true), head.u32(true)]
  const codec = ivfCodecs[code]
  if (!codec) throw new ReadingFault('unsupported', `An IVF of “${code.trim()}” is not read here.`, 8)
  const bytes = (await file.some(0, headLength)).slice()
  const frames = [...ivfFrames(bytes)]
  const { begin = 44, end = bytes.length } = frames[0] ?? {}
  const stream = claimsOfStream(codec, bytes.subarray(begin, end))
  const isRate = perSecond > 0 && scale > 0 && perSecond / scale <= mostStated
  const rate = isRate ? (snapToStandard(perSecond / scale) ?? exactRate(perSecond / scale)) : null
  const isWhole = file.size <= headLength
  // Writers that cannot go back to the head leave its count empty.
  const isCounted = counted > 0 && counted <= file.size / 12
  const count = isWhole ? frames.length : isCounted ? counted : reckoned(frames, file.size)
  const isReckoned = !isWhole && !isCounted && count !== null
  const picture = assemblePicture({
    codec: stream.codec ?? codec,
    claims: [...stream.claims, { layer: 'wrapper', origin: 'IVF header', facts: { width, height } }],
    rate: rate ? { rate, rateMode: 'constant' } : { rate: null, rateMode: 'unknown' },
    rateOrigin: 'IVF header',
    frameCount: count,
  })
  return {
    reading: makeReading({
      kind: 'video',
      container: 'IVF',
      sizeBytes: file.size,
      durationSec: count && rate ? count / toNumber(rate) : null,
      video: picture.video,
      notes: [...picture.notes, ...(isReckoned ? [reckonedNote(count)] : [])],
    }),
    origins: {
      ...picture.origins,
      'video.frameCount': isWhole ? 'frames, counted' : isReckoned ? 'frames, reckoned' : 'IVF header',
    },
    fault: stream.fault ?? null,
  }
}
