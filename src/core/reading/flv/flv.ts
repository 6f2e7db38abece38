import { toNumber } from '../../rational/rational'
import { type WrapperReading, assemblePicture, cutOff, makeReading } from '../assemble'
import { adtsFrame, mpegAudioFrame } from '../audio/frames'
import { byteAt } from '../bytes/byte-at'
import { claimsOfStream } from '../bitstream/frame-claims'
import { Cursor } from '../bytes/cursor'
import type { FileWindow } from '../bytes/source'
import { ReadingFault } from '../fault'
import type { AudioFacts } from '../reading'
import { type RateFacts, rateFromDurations, runsFromTimes } from '../timing'

/** Tags at the beginning tell what there is; the last one, when it ends. */
const headLength = 200 * 1024
const videoCodecs: Readonly<Record<number, string>> = {
  2: 'Sorenson H.263',
  4: 'VP6',
  5: 'VP6',
  7: 'H.264',
  12: 'HEVC',
}
const soundCodecs: Readonly<Record<number, string>> = {
  0: 'PCM',
  1: 'ADPCM',
  2: 'MP3',
  3: 'PCM',
  6: 'Nellymoser',
  7: 'A-law',
  8: 'µ-law',
  10: 'AAC',
  11: 'Speex',
  14: 'MP3',
}
const aacRates = [
  96_000, 88_200, 64_000, 48_000, 44_100, 32_000, 24_000, 22_050, 16_000, 12_000, 11_025, 8000, 7350,
]

/** Reads FLV by its published layout: tags of picture, sound and description, each with its time in milliseconds. */
export async function readFlv(file: FileWindow): Promise<WrapperReading> {
  const bytes = (await file.some(0, headLength)).slice()
  const isWhole = bytes.length === file.size
  const cursor = new Cursor(bytes)
  cursor.skip(5)
  cursor.at = Math.min(cursor.u32(), bytes.length)
  cursor.skip(Math.min(4, cursor.left))
  const times: number[] = []
  let [codec, setup, frame]: [string | null, Uint8Array, Uint8Array] = [
    null,
    new Uint8Array(0),
    new Uint8Array(0),
  ]
  let sound: AudioFacts | null = null
  const stated = new Map<string, number>()
  while (cursor.left >= 15) {
    const type = cursor.u8() & 0x1f
    const length = cursor.u24()
    const time = cursor.u24() + cursor.u8() * 2 ** 24
    cursor.skip(3)
    if (length > cursor.left) break
    const body = cursor.sub(length)
    if (cursor.left >= 4) cursor.skip(4)
    if (type === 9 && body.left >= 5) {
      const kind = body.u8() & 15
      codec ??= videoCodecs[kind] ?? `unknown (${kind})`
      if (kind === 7 || kind === 12) {
        const packet = body.u8()
        const offset = (body.u24() << 8) >> 8
        if (packet === 0) setup = body.slice(body.left)
        if (packet !== 1) continue
        times.push(time + offset)
      } else times.push(time)
      if (frame.length === 0) frame = body.slice(body.left)
    } else if (type === 8 && body.left >= 2) sound ??= soundOf(body)
    else if (type === 18) for (const [name, value] of numbersIn(body)) stated.set(name, value)
  }
  if (codec === null && sound === null)
    throw new ReadingFault('damaged', 'Neither picture nor sound is found at its start. Copy it again.', 9)
  // The last tag says when it begins; the description, where it fits, when it ends.
  const last = await lastTimes(file)
  const [begins, described] = [last.any, stated.get('duration') ?? null]
  const fits = described !== null && begins !== null && described >= begins && described < begins + 1
  const duration = fits ? described : (begins ?? described)
  const sorted = [...new Set(times)].sort((a, b) => a - b)
  const settled = sorted.slice(0, Math.max(3, sorted.length - 4))
  const rate: RateFacts =
    settled.length > 2 ? rateFromDurations(runsFromTimes(settled), 1000) : { rate: null, rateMode: 'unknown' }
  const perSecond = rate.rate ? (rate.meanRate ?? toNumber(rate.rate)) : null
  const stream = codec === null ? null : claimsOfStream(codec, frame, setup)
  const [width, height] = [stated.get('width'), stated.get('height')]
  const picture =
    codec === null
      ? null
      : assemblePicture({
          codec,
          claims: [
            ...(stream?.claims ?? []),
            { layer: 'wrapper', origin: 'onMetaData', facts: width && height ? { width, height } : {} },
          ],
          rate,
          rateOrigin: 'times of tags',
          frameCount: isWhole
            ? sorted.length
            : perSecond && last.picture !== null
              ? Math.round((last.picture - (sorted[0] ?? 0) / 1000) * perSecond) + 1
              : null,
        })
  // A steady picture is on as long as its frames are, also where sound or the description end before.
  const counted =
    rate.rate && rate.rateMode === 'constant' ? (picture?.video.frameCount ?? 0) / toNumber(rate.rate) : 0
  const lasts = duration === null && counted === 0 ? null : Math.max(duration ?? 0, counted)
  return {
    reading: makeReading({
      kind: picture ? 'video' : 'audio',
      container: 'FLV',
      sizeBytes: file.size,
      durationSec: lasts,
      video: picture?.video ?? null,
      audio: sound ? [sound] : [],
      notes: picture?.notes ?? [],
    }),
    origins: { ...picture?.origins, durationSec: 'times of tags' },
    fault: cutOff(file.size, Math.max(0, (stated.get('filesize') ?? 0) - file.size)),
  }
}

function soundOf(body: Cursor): AudioFacts {
  const flags = body.u8()
  const kind = flags >> 4
  const codec = soundCodecs[kind] ?? 'unknown'
  const bytes = body.slice(body.left)
  if (kind === 10 && bytes[0] === 0 && bytes.length >= 3) {
    const code = (byteAt(bytes, 1) << 8) | byteAt(bytes, 2)
    return {
      codec,
      channels: (code >> 3) & 15 || null,
      sampleRate: aacRates[(code >> 7) & 15] ?? null,
      bitDepth: null,
    }
  }
  const own = mpegAudioFrame(bytes)?.facts ?? adtsFrame(bytes)?.facts
  if (own) return own
  return {
    codec,
    channels: flags & 1 ? 2 : 1,
    sampleRate: [5512, 11_025, 22_050, 44_100][(flags >> 2) & 3] ?? null,
    bitDepth: codec === 'PCM' ? (flags & 2 ? 16 : 8) : null,
  }
}

/** Numbers of the description, by their names. */
function* numbersIn(body: Cursor): Generator<readonly [string, number]> {
  const bytes = body.bytes
  for (const name of ['duration', 'width', 'height', 'filesize']) {
    const marked = [0, name.length, ...name].map((c) => (typeof c === 'string' ? c.charCodeAt(0) : c))
    const at = bytes.findIndex((_, i) => marked.every((code, k) => bytes[i + k] === code))
    const value = at < 0 ? null : new Cursor(bytes.subarray(at + marked.length))
    if (value && value.left >= 9 && value.u8() === 0) {
      const number = value.f64()
      if (Number.isFinite(number) && number > 0) yield [name, number]
    }
  }
}

/** So many tags are gone back over: sound may follow the last picture. */
const mostBack = 400
const tailLength = 64 * 1024

/** The times of the last tag and of the last picture, in seconds: the length of each tag stands behind it, so that they are gone back over. */
async function lastTimes(file: FileWindow): Promise<{ any: number | null; picture: number | null }> {
  const from = Math.max(0, file.size - tailLength)
  const tail = (await file.some(from, file.size - from)).slice()
  const found: { any: number | null; picture: number | null } = { any: null, picture: null }
  let end = tail.length
  for (let n = 0; n < mostBack && end >= 15 && found.picture === null; n++) {
    const length = new Cursor(tail.subarray(end - 4, end)).u32()
    const at = end - 4 - length
    if (length < 11 || at < 0) break
    const tag = new Cursor(tail.subarray(at, at + 13))
    const type = tag.u8() & 0x1f
    tag.skip(3)
    const seconds = (tag.u24() + tag.u8() * 2 ** 24) / 1000
    if (type === 8 || type === 9) found.any = Math.max(found.any ?? 0, seconds)
    // A packet that only ends a sequence shows nothing.
    const isEnd = tag.left >= 5 && (byteAt(tag.bytes, 11) & 15) === 7 && byteAt(tag.bytes, 12) === 2
    if (type === 9 && !isEnd) found.picture = seconds
    end = at
  }
  return found
}
