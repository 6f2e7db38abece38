import { elementaryCodec } from './elementary-codec'
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
  const stream = claimsOfStream(codec, bytes)
  if (stream.fault) throw new ReadingFault(stream.fault.code, stream.fault.message, 0)
  if (stream.claims.length === 0)
    throw new ReadingFault(
      'damaged',
      `It begins like ${codec}, but says nothing of its picture. Copy it again.`,
      0,
    )
  const pictures = codedPictures(stream.codec ?? codec, bytes) ?? []
  const stated = statedRateOf(stream)
  const rate: RateFacts = stated
    ? { rate: snapToStandard(stated) ?? exactRate(stated), rateMode: 'constant' }
    : { rate: null, rateMode: 'unknown' }
  const last = pictures.at(-1)?.at ?? 0
  const frames = isWhole
    ? pictures.length
    : pictures.length > 1
      ? Math.round(((pictures.length - 1) * file.size) / last)
      : null
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
  if (!isWhole && frames)
    notes.push({
      code: 'reckoned-count',
      message: `${frames} frames are reckoned from those at the beginning: nothing in it counts them.`,
    })
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
  const start = 44
  const length = file.size > start ? new Cursor(await file.some(32, 4)).u32(true) : 0
  const stream = claimsOfStream(codec, (await file.some(start, Math.min(length, 32 * 1024))).slice())
  const isRate = perSecond > 0 && scale > 0 && perSecond / scale <= mostStated
  const rate = isRate ? (snapToStandard(perSecond / scale) ?? exactRate(perSecond / scale)) : null
  const frames = counted > 0 && counted <= file.size / 12 ? counted : null
  const picture = assemblePicture({
    codec: stream.codec ?? codec,
    claims: [...stream.claims, { layer: 'wrapper', origin: 'IVF header', facts: { width, height } }],
    rate: rate ? { rate, rateMode: 'constant' } : { rate: null, rateMode: 'unknown' },
    rateOrigin: 'IVF header',
    frameCount: frames,
  })
  return {
    reading: makeReading({
      kind: 'video',
      container: 'IVF',
      sizeBytes: file.size,
      durationSec: frames && rate ? frames / toNumber(rate) : null,
      video: picture.video,
      notes: picture.notes,
    }),
    origins: picture.origins,
    fault: stream.fault ?? null,
  }
}
