import { present } from '../../assert'
import { kilobytes, upTo } from '../../words/figures'
import { Rate, rateName, snapToStandard } from '../../rate/rate'
import { equal, rational, toNumber } from '../../rational/rational'
import { frameToTimecode } from '../../rate/timecode'
import { type WrapperReading, assemblePicture } from '../assemble'
import type { PictureClaim } from '../claims'
import { claimsOfStream } from '../bitstream/frame-claims'
import { Cursor, utf8 } from '../bytes/cursor'
import type { FileWindow } from '../bytes/source'
import { type Fault, ReadingFault } from '../fault'
import type { AudioFacts, Note, Origins, Reading, VideoFacts } from '../reading'
import { startingAt } from '../sound-start'
import { type FrameTimes, frameTimesFrom, mostListed } from '../frame-times'
import {
  type DurationRun,
  type RateFacts,
  oddIntervalNote,
  rateFromDurations,
  runsFromTimes,
} from '../timing'
import { auditIndex } from './audit'
import { mpegAudioFrame } from '../audio/frames'
import { boxesIn, findBox, readFullBox } from './box'
import { captureRateIn } from './capture-rate'
import { type FragmentedSamples, readFragments } from './fragments'
import { type Layout, readLayout } from './layout'
import { samplePlaces, samplesWithin } from './samples'
import { type IsoTrack, readTrack } from './track'

/**
 * Reads MP4 and QuickTime files: plain, fragmented, index in front or at the end, 32 and 64 bit.
 * ISO/IEC 14496-12 (boxes), 14496-14, QuickTime File Format (`fiel`, `tmcd`, sound versions).
 */
export async function readIsobmff(file: FileWindow): Promise<WrapperReading> {
  const layout = await readLayout(file)
  if (!layout.movie) throw missingIndex(layout, file.size)
  const tracks: IsoTrack[] = []
  for (const box of boxesIn(layout.movie.body)) {
    if (box.type !== 'trak') continue
    const track = readTrack(box.body, layout.tables)
    if (track) tracks.push(track)
  }
  const movie = new Cursor(layout.movie.body.bytes, layout.movie.body.base)
  const video = tracks.find((track) => track.visual)
  if (!video && !tracks.some((track) => track.sound)) {
    throw new ReadingFault('unsupported', 'the index names neither picture nor sound', layout.movie.offset)
  }
  const header = readMovieHeader(movie)
  const fragments = new Map(
    layout.fragments.length
      ? tracks.map((track) => [track, readFragments(movie, layout.fragments, track.id)])
      : [],
  )
  const picture = video
    ? await readPicture(file, layout, fragments.get(video) ?? null, video, header.timescale)
    : null
  const counted = await readTimecode(file, tracks)
  const beginning = (track: IsoTrack) =>
    beginningOf(track, fragments.get(track)?.begins ?? null, header.timescale)
  const pictureBegins = video ? beginning(video) : null
  const sounds: AudioFacts[] = []
  for (const track of tracks)
    if (track.sound)
      sounds.push(startingAt(await ownSound(file, track, track.sound), beginning(track), pictureBegins))
  const longest = tracks.reduce(
    (most, t) => (t.sound ? Math.max(most, t.duration / (t.timescale || 1)) : most),
    0,
  )
  const reading: Reading = {
    kind: video ? 'video' : 'audio',
    container: layout.brand === null || layout.brand.startsWith('qt') ? 'QuickTime' : 'MP4',
    sizeBytes: file.size,
    durationSec: picture ? picture.durationSec : longest || null,
    video: picture?.video ?? null,
    audio: sounds,
    timecode: counted?.timecode ?? picture?.timecode ?? null,
    recordedAt: header.recordedAt ?? statedDate(movie),
    reel: tracks.find((track) => track.timecode?.reel)?.timecode?.reel ?? null,
    notes: [
      ...(picture?.notes ?? []),
      ...timecodeNotes(counted, picture?.video.rate ?? null),
      ...auditIndex(layout, file.size),
    ],
  }
  const origins: Origins = { ...picture?.origins, durationSec: 'sample durations', timecode: 'tmcd' }
  return {
    reading,
    origins,
    fault: mediaCutOff(layout, video, file.size) ?? picture?.fault ?? null,
    frameTimes: picture?.frameTimes ?? null,
  }
}

/** Sound whose frames count its channels themselves: beside MPEG audio the sample entry's count is a template. */
async function ownSound(file: FileWindow, { samples }: IsoTrack, facts: AudioFacts): Promise<AudioFacts> {
  const [first] = samplePlaces(samples, 1)
  if (!/^MP[23]$/.test(facts.codec) || !first) return facts
  return mpegAudioFrame(await file.some(first.offset, Math.min(first.size, 8)))?.facts ?? facts
}

function missingIndex(layout: Layout, size: number): ReadingFault {
  if (layout.missingBytes > 0) {
    const kept = `${kilobytes(size)} of ${kilobytes(size + layout.missingBytes)}`
    const message = `Cut off after ${kept} or more, inside the box “${layout.lastBox}”; the index stood behind it and is lost. Copy it again.`
    return new ReadingFault('truncated', message, size)
  }
  const last = layout.lastBox || 'none'
  return new ReadingFault(
    'damaged',
    `No index (moov) is there; the last box is “${last}”. Copy it again, or repair it with the recorder.`,
    size,
  )
}

/** A file whose media data ends too early still has its index: it says how much is lost. */
function mediaCutOff(layout: Layout, video: IsoTrack | undefined, size: number): Fault | null {
  if (layout.missingBytes <= 0) return null
  const kept = `Cut off after ${kilobytes(size)} of ${kilobytes(size + layout.missingBytes)}`
  if (!video) return { code: 'truncated', message: `${kept}. Copy it again.`, offset: size }
  const share = size / (size + layout.missingBytes)
  const { within } = video.samples.placesAll
    ? samplesWithin(video.samples, size)
    : { within: Math.floor(video.samples.count * share) }
  return {
    code: 'truncated',
    message: `${kept}: the index says ${video.samples.count} frames, ${within} are there. Copy it again.`,
    offset: size,
  }
}

function readMovieHeader(movie: Cursor): { timescale: number; recordedAt: string | null } {
  const box = findBox(movie, 'mvhd')
  if (!box) return { timescale: 0, recordedAt: null }
  const { version } = readFullBox(box.body)
  const created = version === 1 ? box.body.u64() : box.body.u32()
  box.body.skip(version === 1 ? 8 : 4)
  return { timescale: box.body.u32(), recordedAt: dateSince1904(created) }
}

/** Times in the headers count seconds from 1904-01-01 UTC; 0 means not stated. */
function dateSince1904(seconds: number): string | null {
  const unix = seconds - 2082844800
  if (unix <= 0 || unix > 4102444800) return null
  return new Date(unix * 1000).toISOString().replace('.000Z', 'Z')
}

/** A date among the user data (`©day`). */
function statedDate(movie: Cursor): string | null {
  const box = findBox(movie, 'udta', '©day')
  if (!box || box.body.left < 5) return null
  const text = utf8(box.body.skip(4).slice(box.body.left)).trim()
  return /^\d{4}-\d{2}-\d{2}/.test(text) && !Number.isNaN(Date.parse(text)) ? text : null
}

/** What the descriptions say of how it was recorded. */
function recordedClaims({ movie, metas }: Layout): PictureClaim[] {
  const own = [['meta'], ['udta', 'meta']].flatMap(
    (path) => (movie && findBox(new Cursor(movie.body.bytes, movie.body.base), ...path)) ?? [],
  )
  const captureRate = captureRateIn([...own, ...metas])
  return captureRate ? [{ layer: 'wrapper', origin: 'meta', facts: { captureRate } }] : []
}

/** Pictures are looked into this far: parameter sets, messages and the first slice headers lie in front. */
const firstBytes = 32 * 1024

async function readPicture(
  file: FileWindow,
  layout: Layout,
  fragments: FragmentedSamples | null,
  track: IsoTrack,
  movieTimescale: number,
): Promise<{
  video: VideoFacts
  origins: Origins
  notes: Note[]
  durationSec: number | null
  fault: Fault | null
  timecode: Reading['timecode']
  frameTimes: FrameTimes | null
}> {
  const visual = present(track.visual, 'a picture is read of a track that has one')
  const fragmented = fragments !== null && fragments.count > 0
  const runs = [...track.samples.durations, ...(fragments?.durations ?? [])]
  const first = [...samplePlaces(track.samples, 1)][0] ?? fragments?.firstSample ?? null
  const frame = first ? await file.some(first.offset, Math.min(first.size, firstBytes)) : new Uint8Array(0)
  const stream = claimsOfStream(visual.codec, frame, visual.configuration?.bytes)

  const notes: Note[] = []
  const total =
    fragmented && layout.skipped
      ? fragments.span
      : runs.reduce((sum, run) => sum + run.count * run.duration, 0)
  const listed = presentationTimes(track)
  const shown = fragmented ? null : editedFrames(track, listed, movieTimescale, notes)
  const rate = rateOfTrack(track, runs, listed)
  const picture = assemblePicture({
    fault: stream.fault,
    codec: stream.codec ?? visual.codec,
    profile: visual.profile,
    claims: [...stream.claims, ...visual.claims, ...recordedClaims(layout)],
    rate,
    rateOrigin: fragmented ? 'trun' : 'stts',
    frameCount:
      shown?.frames ??
      (layout.skipped
        ? framesIn(total / track.timescale, rate)
        : track.samples.count + (fragments?.count ?? 0) || null),
    rotation: track.rotation,
  })
  const shownRuns =
    listed && listed.length <= mostSorted ? runsFromTimes([...listed].sort((a, b) => a - b)) : runs
  const odd = oddIntervalNote(shownRuns, track.timescale, rate)
  if (odd) notes.push({ code: 'odd-interval', message: odd })
  if (track.mirrored) notes.push({ code: 'mirrored', message: 'The picture is stored mirrored.' })
  notes.push(...cleanAperture(visual, picture.video))
  return {
    ...picture,
    origins: { ...picture.origins, 'video.rotation': 'tkhd' },
    notes: [...picture.notes, ...notes],
    timecode: stream.timecode ? { start: stream.timecode.text, dropFrame: stream.timecode.dropFrame } : null,
    // Of fragments, and of what an edit list leaves of a clip, only a walk tells.
    frameTimes:
      rate.rateMode === 'variable' && !fragmented && !shown && listed ? frameTimesOf(track, listed) : null,
    durationSec: shown?.seconds ?? (total > 0 && track.timescale > 0 ? total / track.timescale : null),
  }
}

/**
 * When the first sample of a track is on, in seconds of the movie: empty edits put it off, and an edit that begins later in the
 * media leaves out what a decoder needs before it (ISO/IEC 14496-12 §8.6.6).
 * @param fragmented when the first sample in fragments is shown, where there are some
 */
function beginningOf(track: IsoTrack, fragmented: number | null, movieTimescale: number): number | null {
  const { timescale, edits, samples } = track
  if (timescale <= 0) return null
  const first = samples.count > 0 ? firstShown(samples) : fragmented
  if (first === null) return null
  const from = edits.findIndex((edit) => edit.mediaTime >= 0)
  const empty = edits.slice(0, Math.max(0, from)).reduce((sum, edit) => sum + edit.duration, 0)
  const into = edits[from]?.mediaTime ?? 0
  return (empty > 0 ? empty / (movieTimescale || 1) : 0) + Math.max(0, first - into) / timescale
}

/** Pictures are sorted over no more samples than these. */
const mostReordered = 64

/** The earliest presentation time of the first samples, in the media's clock. */
function firstShown({ durations, compositionOffsets }: IsoTrack['samples']): number {
  const offsets = compositionOffsets.flatMap(({ count, duration }) =>
    Array<number>(Math.min(count, mostReordered)).fill(duration),
  )
  let [at, decoded, earliest] = [0, 0, Infinity]
  for (const { count, duration } of durations)
    for (let i = 0; i < count && at < mostReordered; i++, at++, decoded += duration)
      earliest = Math.min(earliest, decoded + (offsets[at] ?? 0))
  return Number.isFinite(earliest) ? earliest : 0
}

/** Frames that a constant rate has in a time; null where it is not constant. */
const framesIn = (seconds: number, { rate, rateMode }: RateFacts): number | null =>
  rate && rateMode === 'constant' && Number.isFinite(seconds) ? Math.round(seconds * toNumber(rate)) : null

/** A clean aperture smaller than the picture is worth a word: some programs crop to it, others do not. */
function cleanAperture(visual: NonNullable<IsoTrack['visual']>, { width, height }: VideoFacts): Note[] {
  const clean = visual.cleanAperture
  if (!clean || (clean.width === width && clean.height === height)) return []
  return [
    {
      code: 'clean-aperture',
      message: `The clean aperture is ${upTo(clean.width, 2)}×${upTo(clean.height, 2)} of ${width}×${height}.`,
    },
  ]
}

/** A million frames are enough to tell how variable a clip is; sorting more would take long. */
const mostSorted = 1_000_000

/** Decoding times give the rate at once when steady; where they vary and pictures are reordered, shown times decide. */
function rateOfTrack(track: IsoTrack, runs: readonly DurationRun[], listed: Float64Array | null): RateFacts {
  const rate = rateFromDurations(runs, track.timescale)
  const reordered = track.samples.compositionOffsets.length > 0
  if (rate.rateMode !== 'variable' || !reordered || !listed || listed.length > mostSorted) return rate
  return rateFromDurations(runsFromTimes([...listed].sort((a, b) => a - b)), track.timescale)
}

/** When each sample is shown, in the order of the file; null where the index does not list all. */
function presentationTimes({ samples }: IsoTrack): Float64Array | null {
  const counted = samples.durations.reduce((sum, run) => sum + run.count, 0)
  if (samples.count === 0 || samples.count > mostListed || counted < samples.count) return null
  const times = new Float64Array(samples.count)
  let [index, time] = [0, 0]
  for (const { count, duration } of samples.durations) {
    for (let i = 0; i < count && index < times.length; i++) {
      times[index++] = time
      time += duration
    }
  }
  index = 0
  for (const { count, duration } of samples.compositionOffsets)
    for (let i = 0; i < count && index < times.length; i++) {
      times[index] = (times[index] ?? 0) + duration
      index++
    }
  return times
}

/** The frame times of a track; its last frame lasts as long as its sample says. */
function frameTimesOf({ samples, timescale }: IsoTrack, listed: Float64Array): FrameTimes | null {
  const last = listed.reduce((most, time) => Math.max(most, time), 0)
  const lasts = samples.durations.at(-1)?.duration ?? 0
  return frameTimesFrom(listed, rational(timescale), lasts > 0 ? last + lasts : null)
}

/** What an edit list leaves of the clip, where it leaves frames out; null where it shows all. */
function editedFrames(
  track: IsoTrack,
  listed: Float64Array | null,
  movieTimescale: number,
  notes: Note[],
): { frames: number; seconds: number } | null {
  const shown = track.edits.filter((edit) => edit.mediaTime >= 0 && edit.duration > 0)
  if (shown.length === 0 || movieTimescale <= 0 || track.timescale <= 0) return null
  const seconds = shown.reduce((sum, edit) => sum + edit.duration, 0) / movieTimescale
  const total =
    track.samples.durations.reduce((sum, run) => sum + run.count * run.duration, 0) / track.timescale
  const perFrame = total / Math.max(1, track.samples.count)
  const frames = listed
    ? shown.reduce((sum, edit) => sum + framesWithin(track, listed, edit, movieTimescale), 0)
    : Math.round(seconds / perFrame)
  if (!Number.isFinite(frames) || frames >= track.samples.count || total - seconds < perFrame * 0.75)
    return null
  notes.push({
    code: 'edit-list',
    message: `The file holds ${track.samples.count} frames; its edit list shows ${frames} of them.`,
  })
  return { frames, seconds }
}

/** Frames that are on during an edit: a part of a frame at either end shows it, but for what rounding makes (§8.6.6). */
function framesWithin(
  { timescale, samples }: IsoTrack,
  listed: Float64Array,
  { mediaTime, duration }: IsoTrack['edits'][number],
  movieTimescale: number,
): number {
  const end = mediaTime + (duration * timescale) / movieTimescale
  // The movie's clock is coarser than the media's: what it cannot say is no frame.
  const grain = Math.max(1, timescale / movieTimescale)
  const sorted = Float64Array.from(listed).sort()
  const last = samples.durations.at(-1)?.duration ?? 0
  let count = 0
  for (let i = 0; i < sorted.length; i++) {
    const begins = sorted[i] ?? 0
    const ends = sorted[i + 1] ?? begins + last
    if (begins < end - grain && ends > mediaTime + grain) count++
  }
  return count
}

/** The start timecode: the first sample of the timecode track is a frame number. */
async function readTimecode(
  file: FileWindow,
  tracks: readonly IsoTrack[],
): Promise<{ timecode: NonNullable<Reading['timecode']>; rate: Rate } | null> {
  const track = tracks.find((t) => t.timecode)
  const place = track ? [...samplePlaces(track.samples, 1)][0] : undefined
  if (!track?.timecode || !place || place.offset + 4 > file.size) return null
  const { timescale, frameDuration, framesPerSecond, dropFrame } = track.timecode
  const frame = new Cursor(await file.exactly(place.offset, 4)).u32()
  const stated = timescale > 0 && frameDuration > 0 ? rational(timescale, frameDuration) : null
  // A rate that no clock counts at is none: the whole number beside it stands.
  const rate =
    stated && Rate.safeParse(stated).success
      ? (snapToStandard(toNumber(stated)) ?? stated)
      : rational(framesPerSecond || 25)
  return { timecode: { start: frameToTimecode(frame, rate, dropFrame), dropFrame }, rate }
}

/** Timecode that counts at another rate than the picture runs at is counted at its own, and that is told. */
function timecodeNotes(counted: { rate: Rate } | null, picture: Rate | null): Note[] {
  if (!counted || !picture || equal(counted.rate, picture)) return []
  return [
    {
      code: 'timecode-rate',
      message: `The timecode counts ${rateName(counted.rate)} frames a second, the picture has ${rateName(picture)}: it is read at its own rate.`,
    },
  ]
}
