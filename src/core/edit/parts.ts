import { present } from '../assert'
import { isCorrected } from '../reading/correct'
import type { FrameTimes } from '../reading/frame-times'
import { type Clip, type ClipFile, claimsOf } from '../model/clip'
import type { Draft } from './draft'
import { clipIdOf, placementsIn } from '../model/timeline'
import { timecodeToFrame } from '../rate/timecode'
import { framesOf, timeOf } from '../motion/timing'
import { type Rational, equal, toNumber } from '../rational/rational'
import { storedTimingOf } from '../model/timing'
import type { Reading, VideoFacts } from '../reading/reading'
import type { Doc } from '../model/project'

/** Clips that lie in several files: recordings that a camera split, and numbered pictures. */

/** A group of digits in a name: what stands around it, and its number. */
interface Numbered {
  readonly around: string
  readonly number: number
}

/** Cameras that count chapters put two digits in front of the recording's own number. */
const chapterDigits = 2

/** The numbers in a name, each with what stands around it: groups of digits, and chapters in front of one. */
const numbersIn = (name: string): Numbered[] =>
  [...name.matchAll(/\d+/g)].flatMap(({ 0: digits, index }) => {
    if (digits.length > 12) return []
    const numbered = (length: number) => ({
      around: `${name.slice(0, index)}\0${name.slice(index + length)}`,
      number: Number(digits.slice(0, length)),
    })
    const whole = numbered(digits.length)
    return digits.length > chapterDigits + 1 ? [whole, numbered(chapterDigits)] : [whole]
  })

/** Runs of clips whose names differ in one number alone, which counts on by one; longest runs first. */
function numberedRuns(clips: readonly Clip[], keyOf: (clip: Clip) => string | null): Clip[][] {
  const groups = new Map<string, { clip: Clip; number: number }[]>()
  // Keys are long and few: clips are grouped by the number of theirs.
  const kinds = new Map<string, number>()
  for (const clip of clips) {
    const key = keyOf(clip)
    if (key === null) continue
    const kind = kinds.get(key) ?? kinds.size
    kinds.set(key, kind)
    for (const { around, number } of numbersIn(clip.name)) {
      const name = `${clip.folder}\0${around}\0${kind}`
      const group = groups.get(name)
      if (group) group.push({ clip, number })
      else groups.set(name, [{ clip, number }])
    }
  }
  const runs: Clip[][] = []
  for (const group of groups.values()) {
    group.sort((a, b) => a.number - b.number)
    let run: Clip[] = []
    group.forEach(({ clip, number }, i) => {
      if (i > 0 && number === (group[i - 1]?.number ?? NaN) + 1) run.push(clip)
      else {
        if (run.length > 1) runs.push(run)
        run = [clip]
      }
    })
    if (run.length > 1) runs.push(run)
  }
  return runs.sort((a, b) => b.length - a.length)
}

/** Only what is one file, read whole and as it came can become a part. */
export const isSingle = (clip: Clip): boolean =>
  clip.parts.length === 0 && clip.fault === null && !isCorrected(clip.corrections) && clip.reading !== null

/** What two files of one recording have in common: all but their length. */
function cameraKey(clip: Clip): string | null {
  const reading = claimsOf(clip)
  if (!isSingle(clip) || reading?.kind !== 'video' || !reading.video?.rate) return null
  // All but what belongs to one file alone: its count of frames, and what was measured of them.
  const {
    frameCount: _count,
    minRate: _min,
    maxRate: _max,
    meanRate: _mean,
    medianRate: _median,
    offNominalShare: _share,
    ...picture
  } = reading.video
  return JSON.stringify([reading.container, reading.reel, reading.audio, picture])
}

/** Seconds within which two times are one: dates are whole seconds, at both ends. */
const sameMoment = 2
const secondsOfDay = 86_400

/** Whether one file begins where the other ends: by timecode to the frame, by date to the second; neither may contradict. */
function meets(before: Reading, after: Reading): boolean {
  const byCode = codesMeet(before, after)
  const byDate = datesMeet(before, after)
  return byCode !== false && byDate !== false && (byCode === true || byDate === 'follows')
}

function codesMeet(before: Reading, after: Reading): boolean | null {
  const { timecode: first, video } = before
  const { timecode: second } = after
  const rate = video?.rate
  if (!first || !second || !rate || !video.frameCount) return null
  const from = timecodeToFrame(first.start, rate, first.dropFrame)
  const to = timecodeToFrame(second.start, rate, second.dropFrame)
  if (from === null || to === null) return null
  const perDay = Math.round(toNumber(rate)) * secondsOfDay
  const gap = (((to - from - video.frameCount) % perDay) + perDay) % perDay
  return gap <= 1 || gap >= perDay - 1
}

/** Cameras stamp each file, or all files of a recording with its beginning: the latter alone proves nothing. */
function datesMeet(before: Reading, after: Reading): 'follows' | 'same' | false | null {
  if (!before.recordedAt || !after.recordedAt || before.durationSec === null) return null
  const between = (Date.parse(after.recordedAt) - Date.parse(before.recordedAt)) / 1000
  if (!Number.isFinite(between)) return null
  if (Math.abs(between - before.durationSec) <= sameMoment) return 'follows'
  return between === 0 ? 'same' : false
}

/** Recordings that a camera split over several files: same camera, numbers that follow, times that meet. */
export function splitRecordings(clips: readonly Clip[]): Clip[][] {
  const taken = new Set<string>()
  const found: Clip[][] = []
  for (const run of numberedRuns(clips, cameraKey)) {
    let chain: Clip[] = []
    const close = () => {
      if (chain.length > 1) {
        found.push(chain)
        chain.forEach((clip) => taken.add(clip.id))
      }
      chain = []
    }
    for (const clip of run) {
      const last = chain.at(-1)
      if (taken.has(clip.id) || (last?.reading && clip.reading && !meets(last.reading, clip.reading))) close()
      if (!taken.has(clip.id)) chain.push(clip)
    }
    close()
  }
  return found
}

export const partOf = (clip: Clip): ClipFile => ({
  id: clip.id,
  name: clip.name,
  folder: clip.folder,
  sizeBytes: clip.sizeBytes,
  hash: clip.hash,
  source: clip.source,
  reading: readingOf(clip),
  origins: clip.origins,
  frameTimes: clip.frameTimes,
})

/** Clips that become one: never none. */
type Several = readonly [Clip, ...Clip[]]
const several = (clips: readonly Clip[]): Several => {
  const [first, ...rest] = clips
  return [present(first, 'a clip is joined out of at least one'), ...rest]
}
const readingOf = (clip: Clip): Reading => present(claimsOf(clip), 'only what was read is joined')
const videoOf = (clip: Clip): VideoFacts => present(readingOf(clip).video, 'only pictures are joined')

/** A recording out of the files that a camera split it into: its facts are those of the first, its length that of all. */
export function joinRecording(files: readonly Clip[], id: string): Clip {
  const clips = several(files)
  const sum = (valueOf: (clip: Clip) => number | null) =>
    clips.reduce<number | null>((total, clip) => {
      const value = valueOf(clip)
      return total === null || value === null ? null : total + value
    }, 0)
  const reading: Reading = {
    ...readingOf(clips[0]),
    sizeBytes: sum((clip) => readingOf(clip).sizeBytes) ?? 0,
    durationSec: sum((clip) => readingOf(clip).durationSec),
    video: { ...videoOf(clips[0]), frameCount: sum((clip) => videoOf(clip).frameCount) },
  }
  const [first] = clips
  const message = `One recording in ${clips.length} files, ${first.name} to ${(clips.at(-1) ?? first).name}.`
  return {
    ...first,
    id,
    name: clips.length > 1 ? `${first.name} +${clips.length - 1}` : first.name,
    sizeBytes: clips.reduce((total, clip) => total + clip.sizeBytes, 0),
    hash: null,
    frameTimes: reading.video?.rateMode === 'variable' ? joinedTimes(clips) : null,
    evidence: null,
    claimed: null,
    reading: { ...reading, notes: [...reading.notes, { code: 'joined', message }] },
    parts: clips.map(partOf),
  }
}

/** Puts a joined clip where the first of its files stood, and takes the files out. */
export function putTogether(doc: Draft<Doc>, clip: Clip): void {
  const parts = new Set(clip.parts.map((part) => part.id))
  const at = doc.project.clipOrder.findIndex((id) => parts.has(id))
  for (const id of parts) delete doc.clips[id]
  doc.project.clipOrder = doc.project.clipOrder.flatMap((id, i) =>
    i === at ? [clip.id] : parts.has(id) ? [] : [id],
  )
  doc.clips[clip.id] = clip as Draft<Clip>
}

/** How often a clip is placed: what is placed cannot be taken apart. */
export const timesPlaced = (doc: Doc, clipId: string): number =>
  Object.values(doc.timelines).reduce(
    (count, timeline) => count + placementsIn(timeline).filter((p) => clipIdOf(p) === clipId).length,
    0,
  )

/** The files of a joined clip, each as a clip of its own, as it was read. */
export const singlesOf = (clip: Clip): Clip[] =>
  clip.parts.map(({ frames: _frames, ...part }) => ({
    ...clip,
    ...part,
    reading: part.reading ?? clip.parts[0]?.reading ?? null,
    corrections: {},
    evidence: null,
    claimed: null,
    fault: null,
    parts: [],
  }))

/** Takes a joined clip apart into its files, each a clip again where it stood. */
export function takeApart(doc: Draft<Doc>, clipId: string): void {
  const clip = doc.clips[clipId] as Clip | undefined
  if (!clip || clip.parts.length === 0 || timesPlaced(doc, clipId) > 0) return
  const singles = singlesOf(clip)
  doc.project.clipOrder = doc.project.clipOrder.flatMap((id) =>
    id === clipId ? singles.map((single) => single.id) : [id],
  )
  delete doc.clips[clipId]
  for (const single of singles) doc.clips[single.id] = single as Draft<Clip>
}

/** For how many frames a file of a clip is on: a numbered picture for one, or until the next that is there. */
export const framesOfFile = ({ reading, frameTimes, frames }: ClipFile): number => {
  if (frames !== undefined) return frames
  if (!reading || reading.kind === 'still') return 1
  const rate = reading.video?.rate
  return (
    frameTimes?.presentationTimes.length ??
    reading.video?.frameCount ??
    (rate && reading.durationSec ? Math.round(reading.durationSec * toNumber(rate)) : Infinity)
  )
}

/** Where a frame of a clip lies: in which of its files, and the how manieth it is there. Null where the clip is one file. */
export function partAt(clip: Clip, index: number): { part: ClipFile; index: number } | null {
  let left = Math.max(0, index)
  for (const [i, part] of clip.parts.entries()) {
    const frames = framesOfFile(part)
    if (left < frames) return { part, index: left }
    if (i === clip.parts.length - 1) return { part, index: Math.max(0, frames - 1) }
    left -= frames
  }
  return null
}

/** When the first frame of each file of a clip is on, in seconds of the whole, whatever was corrected; of one file 0. */
export function partOffsets(clip: Clip): Rational[] {
  const steps = framesOf(storedTimingOf(clip))
  let before = 0
  return (clip.parts.length ? clip.parts : [null]).map((part) => {
    const offset = timeOf(steps, before)
    if (part) before += framesOfFile(part)
    return offset
  })
}

/** The frame times of several files one after the other; null where none varies, and where their clocks differ. */
function joinedTimes(clips: readonly Clip[]): FrameTimes | null {
  const clock = clips.find(({ frameTimes }) => frameTimes)?.frameTimes?.clock
  if (!clock) return null
  const presentationTimes: number[] = []
  let end = 0
  for (const { frameTimes } of clips) {
    if (!frameTimes || !equal(frameTimes.clock, clock)) return null
    for (const time of frameTimes.presentationTimes) presentationTimes.push(end + time)
    end += frameTimes.end
  }
  return { clock, presentationTimes, end }
}
