import { rational, toNumber } from '../../rational/rational'
import { type Rate, exactRate, snapToStandard } from '../../rate/rate'
import { type WrapperReading, assemblePicture, cutOff, makeReading } from '../assemble'
import { claimsOfStream } from '../bitstream/frame-claims'
import { Cursor } from '../bytes/cursor'
import type { FileWindow } from '../bytes/source'
import type { PictureClaim } from '../claims'
import { videoCodec } from '../codecs'
import { ReadingFault } from '../fault'
import type { AudioFacts } from '../reading'
import { startingAt } from '../sound-start'
import { readWaveFormat } from '../wave/format'

/** One `strl` list: a stream with its header and format. */
interface Stream {
  readonly kind: 'vids' | 'auds' | 'iavs' | 'other'
  readonly rate: Rate | null
  /** Frames, or blocks of sound. */
  readonly length: number
  /** When it begins, in seconds. */
  readonly begins: number
  readonly code: string
  readonly claims: PictureClaim[]
  readonly sound: AudioFacts | null
  readonly setup: Uint8Array
}

const largestHeader = 1024 * 1024
const firstBytes = 32 * 1024

/** Reads AVI files: RIFF with `hdrl` and `movi` lists, and the OpenDML extensions (`dmlh`, `vprp`, files over 1 GB). */
export async function readAvi(file: FileWindow): Promise<WrapperReading> {
  const lists = await findLists(file)
  if (!lists.header)
    throw new ReadingFault('damaged', 'An AVI begins with the list “hdrl”, and this has none.', 12)
  const { streams, totalFrames } = readHeader(
    new Cursor(await file.exactly(lists.header.start, lists.header.length), lists.header.start),
  )
  const index = streams.findIndex((stream) => stream.kind === 'vids' || stream.kind === 'iavs')
  const video = streams[index]
  const sounds = streams.flatMap(({ sound, begins }) =>
    sound ? startingAt(sound, begins, video?.begins ?? null) : [],
  )
  if (!video && sounds.length === 0)
    throw new ReadingFault('damaged', 'The header names neither picture nor sound.', 12)

  const frames = totalFrames || video?.length || null
  const picture = video ? await readPicture(file, video, index, lists.movie, frames) : null
  const reading = makeReading({
    kind: picture ? 'video' : 'audio',
    container: 'AVI',
    sizeBytes: file.size,
    durationSec: picture?.video.rate && frames ? frames / toNumber(picture.video.rate) : null,
    video: picture?.video ?? null,
    audio: sounds,
    timecode: picture?.timecode ?? null,
    notes: picture?.notes ?? [],
  })
  const fault = cutOff(file.size, lists.missingBytes) ?? picture?.fault ?? null
  return { reading, origins: { ...picture?.origins, durationSec: 'strh' }, fault }
}

/** Finds the header list and the start of the frames among the outermost chunks. */
async function findLists(file: FileWindow) {
  let header: { start: number; length: number } | null = null
  let movie: { start: number; end: number } | null = null
  const riffLength = new Cursor(await file.exactly(4, 4)).u32(true)
  const missingBytes = Math.max(0, 8 + riffLength - file.size)
  const end = Math.min(file.size, 8 + riffLength)
  for (let offset = 12, n = 0; offset + 12 <= end && n < 10_000 && file.canStep; n++) {
    const head = new Cursor(await file.some(offset, 12), offset)
    const kind = head.code()
    const length = head.u32(true)
    const form = head.code()
    if (kind === 'LIST' && form === 'hdrl')
      header ??= {
        start: offset + 12,
        length: Math.max(0, Math.min(length - 4, largestHeader, file.size - offset - 12)),
      }
    if (kind === 'LIST' && form === 'movi') {
      movie ??= { start: offset + 12, end: Math.min(file.size, offset + 8 + length) }
      if (header) break
    }
    offset += 8 + length + (length % 2)
  }
  return { header, movie, missingBytes }
}

/** The chunks that stand side by side in a stretch of memory. */
function* chunksIn(body: Cursor): Generator<{ kind: string; body: Cursor }> {
  while (body.left >= 8) {
    const kind = body.code()
    const length = body.u32(true)
    yield { kind, body: body.sub(Math.min(length, body.left)) }
    if (length % 2 && body.left) body.skip(1)
  }
}

function readHeader(header: Cursor): { streams: Stream[]; totalFrames: number } {
  const streams: Stream[] = []
  let totalFrames = 0
  for (const { kind, body } of chunksIn(header)) {
    if (kind !== 'LIST' || body.left < 4) continue
    const form = body.code()
    if (form === 'strl') streams.push(readStream(body))
    // OpenDML: the first RIFF's own count stops at 1 GB, this one does not.
    if (form === 'odml')
      for (const inner of chunksIn(body))
        if (inner.kind === 'dmlh' && inner.body.left >= 4) totalFrames = inner.body.u32(true)
  }
  return { streams, totalFrames }
}

function readStream(list: Cursor): Stream {
  let stream: Stream = {
    kind: 'other',
    rate: null,
    length: 0,
    begins: 0,
    code: '',
    claims: [],
    sound: null,
    setup: new Uint8Array(0),
  }
  for (const { kind, body } of chunksIn(list)) {
    if (kind === 'strh' && body.left >= 36) {
      const type = body.code()
      const handler = body.code()
      body.skip(12)
      const [scale, rate] = [body.u32(true), body.u32(true)]
      const start = body.u32(true)
      const known = type === 'vids' || type === 'auds' || type === 'iavs' ? type : 'other'
      stream = {
        ...stream,
        kind: known,
        code: handler,
        rate: scale > 0 && rate > 0 ? rateOverScale(rate, scale) : null,
        length: body.u32(true),
        begins: scale > 0 && rate > 0 ? (start * scale) / rate : 0,
      }
    } else if (kind === 'strf' && stream.kind === 'vids' && body.left >= 40) {
      body.skip(4)
      const [width, height] = [body.i32(true), Math.abs(body.i32(true))]
      body.skip(2)
      const bits = body.u16(true)
      const code = body.code()
      body.skip(20)
      if (width > 0 && height > 0)
        stream.claims.push({
          layer: 'wrapper',
          origin: 'strf',
          facts: { width, height, alpha: bits === 32 && !videoCodec(code) },
        })
      stream = {
        ...stream,
        code: code.trim() && !/^\0/.test(code) ? code : stream.code,
        setup: body.slice(body.left),
      }
    } else if (kind === 'strf' && stream.kind === 'auds') {
      stream = { ...stream, sound: readWaveFormat(body)?.facts ?? null }
    } else if (kind === 'vprp' && body.left >= 36) stream.claims.push(readVideoProperties(body))
  }
  return stream
}

const rateOverScale = (rate: number, scale: number): Rate =>
  snapToStandard(rate / scale) ?? (rate < 2 ** 31 ? rational(rate, scale) : exactRate(rate / scale))

/** OpenDML `vprp`: the shape of the frame as shown, and its fields. */
function readVideoProperties(body: Cursor): PictureClaim {
  body.skip(20)
  const aspect = body.u32(true)
  const [width, height, fields] = [body.u32(true), body.u32(true), body.u32(true)]
  const [across, down] = [aspect >> 16, aspect & 0xffff]
  const facts: PictureClaim['facts'] = {}
  if (across && down && width && height && width < 65536 && height < 65536)
    facts.pixelAspect = rational(across * height, down * width)
  if (fields === 2) facts.scan = 'interlaced'
  return { layer: 'wrapper', origin: 'vprp', facts }
}

async function readPicture(
  file: FileWindow,
  video: Stream,
  index: number,
  movie: { start: number; end: number } | null,
  frameCount: number | null,
) {
  const known = video.kind === 'iavs' ? { codec: 'DV' } : videoCodec(video.code)
  const codec =
    known?.codec ??
    (/^[\0 ]*$/.test(video.code) || video.code === 'DIB ' ? 'uncompressed' : `unknown (${video.code.trim()})`)
  const frame = movie ? await firstFrame(file, movie, index) : new Uint8Array(0)
  const stream = claimsOfStream(codec, frame, video.setup)
  const { codec: _, profile, ...ofCode } = known ?? { codec }
  const picture = assemblePicture({
    fault: stream.fault,
    codec: stream.codec ?? codec,
    profile,
    claims: [
      ...stream.claims,
      ...video.claims,
      { layer: 'wrapper', origin: `code ${video.code.trim()}`, facts: ofCode },
    ],
    rate: { rate: video.rate, rateMode: video.rate ? 'constant' : 'unknown' },
    rateOrigin: 'strh',
    frameCount,
  })
  const { timecode } = stream
  return { ...picture, timecode: timecode ? { start: timecode.text, dropFrame: timecode.dropFrame } : null }
}

/** The first bytes of the first frame of a stream: chunks named `00dc`, `00db` after the stream's number. */
async function firstFrame(
  file: FileWindow,
  movie: { start: number; end: number },
  index: number,
): Promise<Uint8Array> {
  const number = String(index).padStart(2, '0')
  for (let offset = movie.start, n = 0; offset + 8 <= movie.end && n < 2000 && file.canStep; n++) {
    const head = new Cursor(await file.some(offset, 8), offset)
    const kind = head.code()
    const length = head.u32(true)
    if (kind === 'LIST') {
      offset += 12
      continue
    }
    if (kind.startsWith(number) && /[dw][cb]$/.test(kind) && length > 0)
      return file.some(offset + 8, Math.min(length, firstBytes))
    offset += 8 + length + (length % 2)
  }
  return new Uint8Array(0)
}
