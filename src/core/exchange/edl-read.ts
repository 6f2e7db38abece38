import { type Result, failure } from '../result'
import { type Clip, claimsOf } from '../model/clip'
import { withTimeline } from '../edit/carrying'
import { fileClock, secondsInFile } from '../model/timing'
import type { NewTimelineNames } from '../edit/nesting'
import { newTimeline } from '../edit/placing'
import { shortened } from '../model/id'
import { type Doc } from '../model/project'
import { nonsenseOf } from '../model/integrity'
import { type Placement, Timeline, type Track } from '../model/timeline'
import type { Format } from '../format/format'
import { type Rate, rateName, standardRates } from '../rate/rate'
import { canDropFrame, frameToTimecode, framesOfDay, nominalRate } from '../rate/timecode'
import { type Rational, divide, equal, rational, toNumber } from '../rational/rational'
import { departure } from '../words/reason'
import { counted } from '../words/figures'
import { momentOf, recordFrame, whyNoFrame } from './edl-labels'
import { clipFinder } from './edl-clips'
import { speedIn } from './edl-speed'
import { type EdlText, type EventLine, type Label, readEdlText } from './edl-text'

export type EdlRead = Result<{ timeline: Timeline; notes: readonly string[] }>

const refused = (error: string): EdlRead => failure(`${error} Nothing was changed.`)

/** Where a line of the list stands on the timeline, in frames of the day on which it begins. */
interface Placed {
  readonly event: EventLine
  readonly start: number
  readonly length: number
}

/**
 * A timeline out of an edit decision list (CMX 3600), for a document whose clips it shows. A list says no rate: its times count at that of
 * a format that is told, else at the project’s, else at the one that its labels and its clips prove.
 * @returns refused with the line where a label cannot be at that rate, or what came of it could not be kept
 */
export function fromEdl(
  text: string,
  doc: Doc,
  making: NewTimelineNames,
  stated: Format | null = null,
): EdlRead {
  const list = readEdlText(text)
  const { events, lostEffects, unknown } = list
  if (events.length === 0) return refused('It holds no event of an edit decision list.')
  const format = stated ?? doc.project.format
  const rate = format?.rate ?? rateProvenBy(list, doc)
  const frames = onTheRecord(events, rate)
  if (!frames.ok) return frames
  const { placed, first, day } = frames
  const notes: string[] = []
  if (unknown) notes.push(`Not understood: ${counted(unknown, 'line')}.`)
  for (const { line, reel } of lostEffects)
    notes.push(`Line ${line}: no event before it is of reel ${reel}: its speed is not read.`)
  if (events.some(({ recordIn }) => recordIn.drops) && !canDropFrame(rate))
    notes.push(
      `It says drop-frame, which ${rateName(rate)} frames a second do not have: no number is dropped.`,
    )

  const find = clipFinder(Object.values(doc.clips))
  const onTrack: Record<Track['kind'], Placement[][]> = { video: [[]], audio: [[]] }
  let softened = 0
  for (const { event, start, length } of placed) {
    const at = `Event ${event.number}, line ${event.line}`
    if (/^(BL|BLACK)$/i.test(event.reel) || length === 0) continue
    if (!/^C$/i.test(event.edit)) softened++
    const found = find(event, rate)
    if (!found.ok) {
      notes.push(`${at}: ${found.error}: a gap stands in its place.`)
      continue
    }
    if (!event.picture && event.sounds.size === 0) notes.push(`${at}: it names no channel, and was left out.`)
    const result = placementOf(event, found.clip, { start: start - first, length, rate }, making, at)
    if (!result.ok) return refused(result.error)
    const { placement } = result
    const { motion } = placement.treatment
    if (event.effect && event.effect.perSecond <= 0)
      notes.push(`${at}: a speed that stands or runs backwards is not understood; it runs forwards.`)
    else if (
      motion?.kind === 'speed' &&
      motion.pace.kind === 'factor' &&
      !(toNumber(motion.pace.factor) <= 1000)
    )
      return refused(
        `${at}: ${event.effect?.perSecond} frames a second is more than a thousand times as fast.`,
      )
    const both = event.picture && event.sounds.size > 0
    const pairId = both ? making.newId() : null
    if (event.picture && !put(onTrack.video, 0, 1, { ...placement, pairId }))
      notes.push(`${at}: it lies over another event and was left out.`)
    if (event.sounds.size > 0) {
      const { track, channels } = channelsOf(event.sounds, found.clip)
      const sound = { ...placement, id: making.newId(), channels, pairId }
      put(onTrack.audio, track, Infinity, sound)
    }
  }
  if (softened)
    notes.push(`Not understood: ${counted(softened, 'dissolve or wipe', 'dissolves and wipes')}, cuts here.`)
  const drops =
    canDropFrame(rate) && (placed.find(({ start }) => start === first)?.event.recordIn.drops ?? false)
  const timeline = timelineOf(list, doc, making, { rate, format: stated, drops, first: first % day, onTrack })
  const parsed = Timeline.safeParse(timeline)
  if (!parsed.success) return refused(`It cannot be kept so: ${departure(parsed.error)}.`)
  const wrong = nonsenseOf(withTimeline(doc, timeline))
  return wrong ? refused(wrong) : { ok: true, timeline, notes }
}

function timelineOf(
  { title }: EdlText,
  doc: Doc,
  making: NewTimelineNames,
  {
    rate,
    format,
    drops,
    first,
    onTrack,
  }: {
    readonly rate: Rate
    readonly format: Format | null
    readonly drops: boolean
    readonly first: number
    readonly onTrack: Readonly<Record<Track['kind'], readonly (readonly Placement[])[]>>
  },
): Timeline {
  const follows = !format || (doc.project.format !== null && equal(doc.project.format.rate, format.rate))
  const nestedTimeline = newTimeline(
    making.newId(),
    shortened(title ?? making.name),
    making.at,
    follows ? null : format,
  )
  const tracks = (['video', 'audio'] as const).flatMap((kind) =>
    onTrack[kind].map((placements, i): Track => {
      const letter = kind === 'video' ? 'v' : 'a'
      const name = `${letter.toUpperCase()}${i + 1}`
      const state = { hidden: false, muted: false, locked: false }
      return {
        id: `${nestedTimeline.id}-${letter}${i + 1}`,
        kind,
        name,
        ...state,
        placements: [...placements].sort((a, b) => a.start - b.start),
      }
    }),
  )
  return {
    ...nestedTimeline,
    rate,
    startTimecode: frameToTimecode(first, rate, drops),
    dropFrame: drops,
    tracks,
  }
}

/** The slowest rate at which all labels can be; that of the first clip that is named, where they can be at it. */
function rateProvenBy({ events }: EdlText, doc: Doc): Rate {
  const labels = events.flatMap(({ recordIn, recordOut }) => [recordIn, recordOut])
  const most = Math.max(...labels.map(({ text }) => Number(text.split(/[:;.]/)[3])))
  const drops = labels.some((label) => label.drops)
  const can = (rate: Rate) => nominalRate(rate) > most && (!drops || canDropFrame(rate))
  const find = clipFinder(Object.values(doc.clips))
  for (const event of events) {
    const found = find(event, null)
    const rate = found.ok ? found.clip.reading?.video?.rate : null
    if (rate && can(rate)) return rate
  }
  const usual = [rational(25), ...standardRates]
  return usual.find(can) ?? rational(1000)
}

/** The lines of a list by the frames that they fill: from where the first begins, over midnight too. */
function onTheRecord(
  events: readonly EventLine[],
  rate: Rate,
): Result<{ placed: readonly Placed[]; first: number; day: number }> {
  const day = framesOfDay(
    rate,
    events.some(({ recordIn }) => recordIn.drops),
  )
  const placed: Placed[] = []
  for (const event of events) {
    const frames: number[] = []
    for (const label of [event.recordIn, event.recordOut]) {
      const frame = recordFrame(label.text, rate, label.drops)
      if (frame === null) return failure(`${noLabel(event, label, rate)} Nothing was changed.`)
      frames.push(frame)
    }
    const [start = 0, end = 0] = frames
    placed.push({ event, start, length: (((end - start) % day) + day) % day })
  }
  // What lies more than half a day before the rest comes after midnight.
  const starts = [...new Set(placed.map(({ start }) => start))].sort((a, b) => a - b)
  let [first, widest] = [starts[0] ?? 0, day / 2]
  starts.forEach((start, i) => {
    const gap = start - (starts[i - 1] ?? start)
    if (gap > widest) [first, widest] = [start, gap]
  })
  return {
    ok: true,
    first,
    day,
    placed: placed.map((placed) =>
      placed.start < first ? { ...placed, start: placed.start + day } : placed,
    ),
  }
}

const noLabel = ({ number, line }: EventLine, { text }: Label, rate: Rate): string =>
  `Event ${number}, line ${line}: ${text} ${whyNoFrame(text, rate)}: it cannot be at ${rateName(rate)} frames a second.`

/** What a line places, without its link; why it cannot be, in a sentence. */
function placementOf(
  event: EventLine,
  clip: Clip,
  { start, length, rate }: { readonly start: number; readonly length: number; readonly rate: Rate },
  making: NewTimelineNames,
  at: string,
): Result<{ placement: Placement }> {
  const [from, to] = [event.sourceIn, event.sourceOut].map(({ text }) => momentOf(clip, text, rate))
  if (!from) return failure(`${at}: ${event.sourceIn.text} is no label of “${clip.name}”.`)
  const lasting: Rational | null = to && to.num >= 0 ? rational(to.num, to.den) : null
  const source = lasting && { from, to: lasting }
  const correction = fileClock(clip).factor ?? rational(1)
  const factor = speedIn(event.effect?.perSecond ?? null, source, { length, rate, correction })
  const placement: Placement = {
    id: making.newId(),
    source: { kind: 'clip', clipId: clip.id },
    start,
    length,
    sourceIn: from.num < 0 ? rational(0) : from,
    treatment: equal(factor, rational(1))
      ? {}
      : { motion: { kind: 'speed', pace: { kind: 'factor', factor }, wanted: true, keepPitch: false } },
    framingByShape: {},
    gain: 0,
    channels: null,
    pairId: null,
  }
  return { ok: true, placement }
}

/**
 * The track that channels of sound stand for, and what of a clip sounds there: the first two are a pair and the next two another; one
 * alone is that one of the clip’s.
 */
function channelsOf(sounds: ReadonlySet<number>, clip: Clip): { track: number; channels: number[] | null } {
  const all = [...sounds].sort((a, b) => a - b)
  const [first = 1, second] = all
  const count = claimsOf(clip)?.audio.reduce((sum, { channels }) => sum + (channels ?? 2), 0) ?? 0
  const named = all.map((channel) => channel - 1)
  if (second !== undefined)
    return { track: first > 2 ? 1 : 0, channels: first > 2 && count > 2 ? named : null }
  return { track: first - 1, channels: count > 1 && first <= count ? named : null }
}

/** Puts a placement on the first track from one on where there is room. @returns whether there was */
function put(tracks: Placement[][], from: number, most: number, placement: Placement): boolean {
  const end = placement.start + placement.length
  const isFree = (track: readonly Placement[]) =>
    track.every(
      (neighbour) => neighbour.start >= end || placement.start >= neighbour.start + neighbour.length,
    )
  for (let i = from; i < most; i++) {
    while (tracks.length <= i) tracks.push([])
    const track = tracks[i]
    if (!track || !isFree(track)) continue
    track.push(placement)
    return true
  }
  return false
}

/** How long a clip lasts in its file, for what lies within it. */
export const lastingOf = (clip: Clip): Rational =>
  divide(rational(Math.ceil(secondsInFile(clip) * 1000)), rational(1000))
