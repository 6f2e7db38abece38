import { type Rate, exactRate, snapToStandard } from '../../rate/rate'
import { equal, toNumber } from '../../rational/rational'
import { type WrapperReading, assemblePicture, cutOff, makeReading } from '../assemble'
import { videoCodec } from '../codecs'
import { Cursor } from '../bytes/cursor'
import type { FileWindow } from '../bytes/source'
import { ReadingFault } from '../fault'
import type { AudioFacts, Note } from '../reading'
import { type RateFacts, rateFromDurations, runsFromTimes } from '../timing'
import { readWaveFormat } from '../wave/format'
import { type Begun, begunIn } from './payloads'

/** Objects are named by 16 bytes; these are the first four of those that are read. */
const [fileProperties, streamProperties, extension, extended] = [
  'a1dcab8c',
  '9107dcb7',
  'b503bf5f',
  'cba5e614',
]
const [pictureStream, soundStream] = ['c0ef19bc', '409e69f8']
const mostHeader = 256 * 1024
const windowsMedia: Readonly<Record<string, string>> = {
  WMV1: 'Windows Media 7',
  WMV2: 'Windows Media 8',
  WMV3: 'Windows Media 9',
  WVC1: 'VC-1',
  WVP2: 'Windows Media 9',
  MP43: 'MPEG-4 (version 3)',
  MP42: 'MPEG-4 (version 2)',
}
const windowsSound: Readonly<Record<number, string>> = {
  0x160: 'Windows Media Audio',
  0x161: 'Windows Media Audio',
  0x162: 'Windows Media Audio Pro',
  0x163: 'Windows Media Audio Lossless',
}

/** Reads ASF (Windows Media) by its published layout: the header object says all that is said. */
export async function readAsf(file: FileWindow): Promise<WrapperReading> {
  const head = new Cursor(await file.exactly(0, 30))
  const length = head.skip(16).u64(true)
  if (length > mostHeader)
    throw new ReadingFault('unsupported', 'Its header is longer than is read here.', 16)
  const body = new Cursor((await file.some(30, Math.min(length, file.size) - 30)).slice(), 30)
  let [duration, size, packetLength]: [number | null, number, number] = [null, 0, 0]
  const pictures: { width: number; height: number; code: string; stream: number }[] = []
  const sounds: AudioFacts[] = []
  const frameTimes = new Map<number, number>()
  const walk = (objects: Cursor) => {
    for (const { name, body: inside } of objectsIn(objects)) {
      if (name === fileProperties && inside.left >= 80) {
        size = inside.skip(16).u64(true)
        inside.skip(16)
        const played = inside.u64(true) / 1e7
        inside.skip(8)
        const preroll = inside.u64(true) / 1000
        duration = played > 0 ? Math.max(0, played - preroll) : null
        packetLength = inside.left >= 8 ? inside.skip(4).u32(true) : 0
      } else if (name === streamProperties && inside.left >= 54) readStream(inside, pictures, sounds)
      else if (name === extension && inside.left >= 22) walk(new Cursor(inside.skip(22).slice(inside.left)))
      else if (name === extended && inside.left >= 64) {
        const number = inside.skip(48).u16(true)
        inside.skip(2)
        const average = inside.u64(true)
        if (average > 0) frameTimes.set(number, average)
      }
    }
  }
  walk(body)
  const [video] = pictures
  if (!video && sounds.length === 0)
    throw new ReadingFault('damaged', 'Its header names neither picture nor sound. Copy it again.', 0)
  const known = video ? videoCodec(video.code) : null
  const average = video ? frameTimes.get(video.stream) : undefined
  const stated = average ? (snapToStandard(1e7 / average) ?? exactRate(1e7 / average)) : null
  const seen = video ? await picturesOf(file, length, packetLength, video.stream) : nothing
  const rate = rateOf(seen, stated)
  const frames =
    rate.rate && duration !== null ? Math.round(duration * (rate.meanRate ?? toNumber(rate.rate))) : null
  const picture = video
    ? assemblePicture({
        codec: windowsMedia[video.code.toUpperCase()] ?? known?.codec ?? `unknown (${video.code.trim()})`,
        claims: [
          {
            layer: 'wrapper',
            origin: 'stream properties',
            facts: {
              width: video.width,
              height: video.height,
              ...(windowsMedia[video.code.toUpperCase()] ? { bitDepth: 8, chroma: '4:2:0' } : {}),
            },
          },
        ],
        rate,
        rateOrigin:
          stated && rate.rate && equal(stated, rate.rate)
            ? 'extended stream properties'
            : 'times of payloads',
        frameCount: seen.isWhole ? seen.begun.length : frames,
      })
    : null
  return {
    reading: makeReading({
      kind: picture ? 'video' : 'audio',
      container: 'ASF',
      sizeBytes: file.size,
      durationSec: duration,
      video: picture?.video ?? null,
      audio: sounds,
      notes: [
        ...(picture?.notes ?? []),
        ...(frames !== null && !seen.isWhole && rate.rateMode === 'variable' ? [reckonedNote(frames)] : []),
      ],
    }),
    origins: { ...picture?.origins, durationSec: 'file properties' },
    fault: cutOff(file.size, Math.max(0, size - file.size)),
  }
}

/** Pictures as they are begun, in the order shown, and whether all of the file was seen. */
interface Seen {
  readonly begun: readonly Begun[]
  /** One at the end of the file; null where none is found. */
  readonly last: Begun | null
  readonly isWhole: boolean
}
const nothing: Seen = { begun: [], last: null, isWhole: false }
/** What follows the header: a data object of so many bytes before its packets, which are counted in it. */
const [dataHead, countAt] = [50, 40]
const [mostAtHead, mostAtEnd] = [200 * 1024, 24 * 1024]

/** Pictures in the first packets of a file and in the last; all packets are as long. */
async function picturesOf(file: FileWindow, at: number, packetLength: number, stream: number): Promise<Seen> {
  if (packetLength < 16 || packetLength > 64 * 1024) return nothing
  const bytes = (await file.some(at, mostAtHead)).slice()
  if (bytes.length < dataHead) return nothing
  const count = new Cursor(bytes.subarray(countAt)).u64(true)
  const begun = begunInPackets(bytes.subarray(dataHead), packetLength, stream)
  const packets = Math.min(count, Math.floor((file.size - at - dataHead) / packetLength))
  const isWhole = begun.length > 0 && dataHead + packets * packetLength <= bytes.length
  const few = Math.max(1, Math.floor(mostAtEnd / packetLength))
  const from = at + dataHead + Math.max(0, packets - few) * packetLength
  const end = isWhole ? null : (await file.some(from, few * packetLength)).slice()
  const last = end ? begunInPackets(end, packetLength, stream).at(-1) : begun.at(-1)
  return { begun, last: last ?? null, isWhole }
}

/** Pictures that begin in packets, in the order shown, each once. */
function begunInPackets(bytes: Uint8Array, packetLength: number, stream: number): Begun[] {
  const begun = new Map<number, Begun>()
  try {
    for (let at = 0; at + packetLength <= bytes.length; at += packetLength)
      for (const object of begunIn(new Cursor(bytes.subarray(at, at + packetLength)), stream))
        begun.set(object.time, object)
  } catch (error) {
    // What follows the packets is an index; a torn one ends what is known.
    if (!(error instanceof ReadingFault)) throw error
  }
  return [...begun.values()].sort((a, b) => a.time - b.time)
}

/**
 * How many pictures come between two, by their numbers: those begin again after 256, and so the rate tells which of the counts it is.
 * @returns null where the numbers do not fit the rate
 */
function countBetween(first: Begun, last: Begun, rate: Rate): number | null {
  const about = ((last.time - first.time) / 1000) * toNumber(rate)
  const beyond = (last.number - first.number + first.wraps) % first.wraps
  const count = beyond + first.wraps * Math.round((about - beyond) / first.wraps)
  return count > 0 && Math.abs(count / about - 1) < 0.02 ? count : null
}

/** The rate by the times of pictures; what is stated where they do not tell another. */
function rateOf({ begun, last }: Seen, stated: Rate | null): RateFacts {
  const [first] = begun
  const times = begun.map(({ time }) => time)
  const measured = times.length > 2 ? rateFromDurations(runsFromTimes(times), 1000) : null
  if (!measured?.rate) return { rate: stated, rateMode: 'unknown' }
  if (measured.rateMode === 'variable') return measured
  if (!stated) {
    // A few frames in milliseconds fit 24 and 23.976 alike; all of the file does not.
    const count = first && last ? countBetween(first, last, measured.rate) : null
    const exact = count && first && last ? snapToStandard((1000 * count) / (last.time - first.time)) : null
    return exact ? { rate: exact, rateMode: 'constant' } : measured
  }
  const isAnother = Math.abs(toNumber(measured.rate) / toNumber(stated) - 1) > 0.02
  return isAnother ? measured : { rate: stated, rateMode: 'constant' }
}

const reckonedNote = (frames: number): Note => ({
  code: 'reckoned-count',
  message: `${frames} frames are reckoned from the times at the beginning: nothing in it lists them.`,
})

const nameAt = (bytes: Uint8Array, at: number): string =>
  [...bytes.subarray(at, at + 4)].map((byte) => byte.toString(16).padStart(2, '0')).join('')

function* objectsIn(body: Cursor): Generator<{ name: string; body: Cursor }> {
  while (body.left >= 24) {
    const name = nameAt(body.bytes, body.at)
    const length = body.skip(16).u64(true)
    if (length < 24) return
    yield { name, body: body.sub(Math.min(length - 24, body.left)) }
  }
}

function readStream(
  body: Cursor,
  pictures: { width: number; height: number; code: string; stream: number }[],
  sounds: AudioFacts[],
): void {
  const kind = nameAt(body.bytes, body.at)
  body.skip(40)
  const specific = body.u32(true)
  body.skip(4)
  const stream = body.u16(true) & 127
  body.skip(4)
  const inside = body.sub(Math.min(specific, body.left))
  if (kind === soundStream) {
    const tag = inside.left >= 2 ? new Cursor(inside.bytes).u16(true) : 0
    const format = readWaveFormat(inside)
    if (format) sounds.push(windowsSound[tag] ? { ...format.facts, codec: windowsSound[tag] } : format.facts)
  }
  if (kind === pictureStream && inside.left >= 11 + 40) {
    inside.skip(11 + 4)
    const [width, height] = [inside.i32(true), Math.abs(inside.i32(true))]
    inside.skip(2 + 2)
    if (width > 0 && height > 0) pictures.push({ width, height, code: inside.code(), stream })
  }
}
