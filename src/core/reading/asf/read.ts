import { exactRate, snapToStandard } from '../../rate/rate'
import { toNumber } from '../../rational/rational'
import { type WrapperReading, assemblePicture, cutOff, makeReading } from '../assemble'
import { videoCodec } from '../codecs'
import { Cursor } from '../bytes/cursor'
import type { FileWindow } from '../bytes/source'
import { ReadingFault } from '../fault'
import type { AudioFacts } from '../reading'
import { readWaveFormat } from '../wave/format'

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
  let [duration, size]: [number | null, number] = [null, 0]
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
        duration = played > 0 ? Math.max(0, played - inside.u64(true) / 1000) : null
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
  const rate = average ? (snapToStandard(1e7 / average) ?? exactRate(1e7 / average)) : null
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
        rate: rate ? { rate, rateMode: 'unknown' } : { rate: null, rateMode: 'unknown' },
        rateOrigin: 'extended stream properties',
        frameCount: rate && duration !== null ? Math.round(duration * toNumber(rate)) : null,
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
      notes: picture?.notes ?? [],
    }),
    origins: { ...picture?.origins, durationSec: 'file properties' },
    fault: cutOff(file.size, Math.max(0, size - file.size)),
  }
}

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
