import { exactRate } from '../../rate/rate'
import { toNumber } from '../../rational/rational'
import { type WrapperReading, assemblePicture, cutOff, makeReading } from '../assemble'
import { claimsOfStream } from '../bitstream/frame-claims'
import { Cursor } from '../bytes/cursor'
import type { FileWindow } from '../bytes/source'
import { ReadingFault } from '../fault'
import { startingAt } from '../sound-start'
import { type RateFacts, filmNote, filmRateOfTimes, rateFromDurations, runsFromTimes } from '../timing'
import { walkBlocks } from './blocks'
import { elementsIn, float, mapOf, readVint, text, unsigned } from './ebml'
import { type MatroskaTrack, readTracks } from './tracks'

/** What the head of a segment says, before its clusters. */
interface Segment {
  info: Map<number, Cursor>
  tracks: MatroskaTrack[]
  tags: Map<string, string>
  firstCluster: number
  end: number
  missingBytes: number
}

const largestElement = 4 * 1024 * 1024
/** A tick of a second: no writer keeps time more coarsely. */
const longestTick = 1_000_000_000

/** Reads Matroska and WebM (RFC 9559): information, tracks, tags, and the times of blocks as far as they are cheap. */
export async function readMatroska(file: FileWindow): Promise<WrapperReading> {
  const { docType, segment } = await readHead(file)
  const video = segment.tracks.find((track) => track.kind === 'video')
  if (!video && !segment.tracks.some((track) => track.sound))
    throw new ReadingFault('damaged', 'The file names neither picture nor sound.')
  const scale = unsigned(segment.info.get(0x2ad7b1)) ?? 1_000_000
  if (scale < 1 || scale > longestTick) {
    const message = `TimestampScale is ${scale}; from 1 to ${longestTick} nanoseconds are expected. Copy the file again.`
    throw new ReadingFault('damaged', message)
  }
  const ticks = float(segment.info.get(0x4489))
  const stated = ticks !== undefined && Number.isFinite(ticks) && ticks > 0 ? (ticks * scale) / 1e9 : null

  const picture = video ? await readPicture(file, segment, video, scale, stated) : null
  const secondsOf = (ticks: number | undefined) => (ticks === undefined ? null : (ticks * scale) / 1e9)
  const sounds = segment.tracks.flatMap((track) =>
    track.sound
      ? startingAt(track.sound, secondsOf(picture?.begins.get(track.number)), picture?.firstShown ?? null)
      : [],
  )
  const timecode = [...segment.tags].find(([name]) => name === 'TIMECODE')?.[1]
  const reading = makeReading({
    kind: picture ? 'video' : 'audio',
    container: docType === 'webm' ? 'WebM' : 'Matroska',
    sizeBytes: file.size,
    durationSec: picture?.durationSec ?? stated,
    video: picture?.video ?? null,
    audio: sounds,
    timecode:
      timecode && /^\d\d:\d\d:\d\d[:;.]\d\d$/.test(timecode)
        ? { start: timecode, dropFrame: /[;.]\d\d$/.test(timecode) }
        : null,
    recordedAt: dateOf(segment.info.get(0x4461)),
    reel: segment.tags.get('REEL') ?? segment.tags.get('REEL_NAME') ?? null,
    notes: picture?.notes ?? [],
  })
  const fault = cutOff(file.size, segment.missingBytes) ?? picture?.fault ?? null
  return {
    reading,
    origins: { ...picture?.origins, durationSec: 'segment information', timecode: 'tag TIMECODE' },
    fault,
  }
}

async function readHead(file: FileWindow): Promise<{ docType: string; segment: Segment }> {
  const head = new Cursor(await file.some(0, 4096))
  readVint(head, true)
  const headerLength = readVint(head)
  if (!(headerLength <= head.left))
    throw new ReadingFault('damaged', 'The header is longer than it may be.', 0)
  const docType = text(mapOf(head.sub(headerLength)).get(0x4282)) ?? 'matroska'
  if (head.left < 12)
    throw new ReadingFault('truncated', 'The file ends before its segment. Copy it again.', file.size)
  if (readVint(head, true) !== 0x18538067)
    throw new ReadingFault('damaged', 'A segment is expected behind the header.', head.offset)
  const length = readVint(head)
  const start = head.at
  const end = Number.isFinite(length) ? Math.min(file.size, start + length) : file.size
  const missingBytes = Number.isFinite(length) ? Math.max(0, start + length - file.size) : 0
  const segment: Segment = {
    info: new Map(),
    tracks: [],
    tags: new Map(),
    firstCluster: -1,
    end,
    missingBytes,
  }
  await walkSegment(file, segment, start)
  if (segment.tracks.length === 0) throw new ReadingFault('damaged', 'The file names no tracks.', start)
  return { docType, segment }
}

/** Reads the elements before the first cluster, then those that the seek head says stand behind. */
async function walkSegment(file: FileWindow, segment: Segment, start: number): Promise<void> {
  const later: number[] = []
  let seen = new Set<number>()
  const visit = async (offset: number): Promise<number | null> => {
    const head = new Cursor(await file.some(offset, 12), offset)
    if (head.left < 2) return null
    const id = readVint(head, true)
    const size = head.left ? readVint(head) : Number.NaN
    if (Number.isNaN(id) || Number.isNaN(size)) return null
    const body = offset + head.at
    if (id === 0x1f43b675) {
      if (segment.firstCluster < 0) segment.firstCluster = offset
      return null
    }
    const wanted = [0x1549a966, 0x1654ae6b, 0x1254c367, 0x114d9b74].includes(id)
    if (wanted && size <= largestElement && !seen.has(offset)) {
      seen = seen.add(offset)
      const cursor = new Cursor((await file.some(body, size)).slice(), body)
      if (id === 0x1549a966) segment.info = mapOf(cursor)
      else if (id === 0x1654ae6b) segment.tracks = segment.tracks.length ? segment.tracks : readTracks(cursor)
      else if (id === 0x1254c367) readTags(cursor, segment.tags)
      else for (const place of seekPlaces(cursor)) later.push(start + place)
    }
    return body + size
  }
  let offset: number | null = start
  for (let n = 0; offset !== null && offset < segment.end && n < 1000; n++) offset = await visit(offset)
  for (const place of later.slice(0, 16))
    if (place > start && place < segment.end && !seen.has(place)) await visit(place)
}

/** Where the seek head says that information, tracks and tags stand. */
function* seekPlaces(body: Cursor): Generator<number> {
  for (const seek of elementsIn(body)) {
    if (seek.id !== 0x4dbb) continue
    const entry = mapOf(seek.body)
    const id = unsigned(entry.get(0x53ab))
    const place = unsigned(entry.get(0x53ac))
    if (place !== undefined && id !== undefined && [0x1549a966, 0x1654ae6b, 0x1254c367].includes(id))
      yield place
  }
}

function readTags(body: Cursor, tags: Map<string, string>): void {
  for (const tag of elementsIn(body)) {
    if (tag.id !== 0x7373) continue
    for (const simple of elementsIn(tag.body)) {
      if (simple.id !== 0x67c8) continue
      const entry = mapOf(simple.body)
      const name = text(entry.get(0x45a3))?.toUpperCase()
      const value = text(entry.get(0x4487))
      if (name && value && !tags.has(name)) tags.set(name, value)
    }
  }
}

/** Nanoseconds since 2001-01-01 UTC. */
function dateOf(body: Cursor | undefined): string | null {
  if (!body || body.length !== 8) return null
  const milliseconds = Date.UTC(2001, 0, 1) + new Cursor(body.bytes).i64() / 1e6
  return milliseconds > 0 && milliseconds < 4102444800000
    ? new Date(milliseconds).toISOString().replace(/\.\d+Z$/, 'Z')
    : null
}

async function readPicture(
  file: FileWindow,
  segment: Segment,
  track: MatroskaTrack,
  scale: number,
  stated: number | null,
) {
  const blocks =
    segment.firstCluster >= 0
      ? await walkBlocks(file, segment.firstCluster, segment.end, track)
      : { times: [], firstFrame: new Uint8Array(0), begins: new Map<number, number>(), complete: false }
  const stream = claimsOfStream(track.codec, blocks.firstFrame, track.setup)
  const fallback = stream.statedRate
    ? { rate: exactRate(stream.statedRate), rateMode: 'unknown' as const }
    : null
  const sorted = [...(blocks.complete ? blocks.times : settledTimes(blocks.times))].sort((a, b) => a - b)
  const film = filmRateOfTimes(runsFromTimes(sorted), 1e9 / scale, stream.statedRate ?? null)
  const { rate, origin } = film
    ? { rate: { rate: film, rateMode: 'constant' as const }, origin: 'block times, repeat_first_field' }
    : rateOfBlocks(track, sorted, scale, fallback)
  const counted = segment.tags.get('NUMBER_OF_FRAMES')
  const frameCount = blocks.complete
    ? blocks.times.length
    : counted && /^\d+$/.test(counted)
      ? Number(counted)
      : stated && rate.rate && rate.rateMode === 'constant'
        ? Math.round(stated * toNumber(rate.rate))
        : null
  const picture = assemblePicture({
    fault: stream.fault,
    codec: stream.codec ?? track.codec,
    profile: track.profile,
    claims: [...stream.claims, ...track.claims],
    rate,
    rateOrigin: origin,
    frameCount,
    rotation: track.rotation,
  })
  // The segment's duration is that of its longest track; the picture's own is its frames.
  const exact =
    rate.rateMode === 'constant' && rate.rate && blocks.complete && frameCount
      ? frameCount / toNumber(rate.rate)
      : null
  const { times, begins } = blocks
  const firstShown = times.length ? (Math.min(...times.slice(0, 64)) * scale) / 1e9 : null
  const notes =
    film && stream.statedRate ? [filmNote(film, stream.statedRate), ...picture.notes] : picture.notes
  return { ...picture, notes, durationSec: exact ?? stated, begins, firstShown }
}

/**
 * The times between which nothing is missing, of a stream that was left somewhere: what was stored last may be shown behind pictures that
 * are stored after it.
 * @param times in the order stored
 */
export function settledTimes(times: readonly number[]): number[] {
  let [before, most] = [-Infinity, -Infinity]
  for (const time of times) if (time > most) [before, most] = [most, time]
  return times.filter((time) => time <= before)
}

/** Times of blocks decide, if enough of them were seen; else the duration that the track states. */
function rateOfBlocks(
  track: MatroskaTrack,
  sorted: readonly number[],
  scale: number,
  fallback: RateFacts | null,
): { rate: RateFacts; origin: string } {
  const clock = 1e9 / scale
  const stated =
    track.defaultDuration && track.defaultDuration > 1000 ? exactRate(1e9 / track.defaultDuration) : null
  const measured = sorted.length >= 3 ? rateFromDurations(runsFromTimes(sorted), clock) : null
  if (measured?.rateMode === 'variable') return { rate: measured, origin: 'block times' }
  // What is stated is what was meant; blocks that come steadily at another rate are what there is.
  const differs = stated && measured?.rate && Math.abs(toNumber(measured.rate) / toNumber(stated) - 1) > 0.02
  if (stated && !differs) return { rate: { rate: stated, rateMode: 'constant' }, origin: 'DefaultDuration' }
  if (measured?.rate) return { rate: measured, origin: 'block times' }
  return { rate: fallback ?? { rate: null, rateMode: 'unknown' }, origin: 'stream' }
}
