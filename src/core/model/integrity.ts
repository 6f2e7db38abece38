import { parseQuickly } from '../quick-check'
import type * as z from 'zod'
import { equal } from '../rational/rational'
import { departure } from '../words/reason'
import { Clip } from './clip'
import { type Doc, Project, formatOf } from './project'
import { Placement, Timeline, Track, mostFrames } from './timeline'

/**
 * What a document may not say although every part of it has the right shape: names that lead nowhere, twice the same
 * name, placements that overlap or stand out of order, frames of another rate than the format's, a timeline inside itself.
 * @returns what is wrong, in a sentence; null where nothing is
 */
export function nonsenseOf(doc: Doc): string | null {
  return (
    orderNonsense('clip', doc.project.clipOrder, doc.clips) ??
    orderNonsense('timeline', doc.project.timelineOrder, doc.timelines) ??
    firstOf(Object.values(doc.timelines), (timeline) => timelineNonsense(timeline, doc)) ??
    deliverableNonsense(doc) ??
    loopNonsense(doc)
  )
}

const firstOf = <T>(items: readonly T[], wrong: (item: T) => string | null): string | null => {
  for (const item of items) {
    const found = wrong(item)
    if (found) return found
  }
  return null
}

function orderNonsense(
  what: string,
  order: readonly string[],
  held: Readonly<Record<string, unknown>>,
): string | null {
  const listed = new Set<string>()
  for (const id of order) {
    if (listed.has(id)) return `The ${what} “${id}” is listed twice.`
    if (!Object.hasOwn(held, id)) return `A ${what} “${id}” is listed and not there.`
    listed.add(id)
  }
  const lost = Object.keys(held).find((id) => !listed.has(id))
  return lost === undefined ? null : `The ${what} “${lost}” is there and not listed.`
}

/** What is wrong with one timeline, in a sentence; null where nothing is. */
export function timelineNonsense(timeline: Timeline, doc: Doc): string | null {
  const ids = new Set<string>()
  for (const track of timeline.tracks) {
    for (const id of [track.id, ...track.placements.map((placement) => placement.id)]) {
      if (ids.has(id)) return `“${timeline.name}” holds “${id}” twice.`
      ids.add(id)
    }
    const wrong = trackNonsense(track, doc)
    if (wrong) return `“${timeline.name}” ${wrong}`
  }
  const rate = rateNonsense(timeline, doc)
  return rate && `“${timeline.name}” ${rate}`
}

/** The names on a track and of it, kept for as long as the track is as it is: of an edit only one of them is another. */
const namesOnTrack = new WeakMap<Track, ReadonlySet<string>>()
function namesOn(track: Track): ReadonlySet<string> {
  let names = namesOnTrack.get(track)
  if (!names) namesOnTrack.set(track, (names = new Set([track.id, ...track.placements.map(({ id }) => id)])))
  return names
}

/** What is wrong with a timeline that was right before: only the tracks that changed are looked at. */
function nonsenseSince(before: Timeline | undefined, timeline: Timeline, doc: Doc): string | null {
  const same = new Set(before?.tracks)
  const changed = timeline.tracks.filter((track) => !same.has(track))
  const twice = firstOf(changed, (track) => {
    const names = namesOn(track)
    if (names.size <= track.placements.length) return `holds a name twice on ${track.name}.`
    const was = namesOn(before?.tracks.find(({ id }) => id === track.id) ?? track)
    const added = was === names ? [...names] : [...names].filter((id) => !was.has(id))
    const others = timeline.tracks.filter((other) => other !== track)
    const found = added.find((id) => others.some((other) => namesOn(other).has(id)))
    return found === undefined ? null : `holds “${found}” twice.`
  })
  const wrong = twice ?? firstOf(changed, (track) => trackNonsense(track, doc)) ?? rateNonsense(timeline, doc)
  return wrong && `“${timeline.name}” ${wrong}`
}

/** Frames belong to the rate of the format, wherever there is one. */
function rateNonsense(timeline: Timeline, doc: Doc): string | null {
  const format = formatOf(doc, timeline)
  if (format && timeline.rate && !equal(format.rate, timeline.rate))
    return 'counts frames at another rate than its format has.'
  const placed = timeline.tracks.some(({ placements }) => placements.length > 0)
  return !timeline.rate && (placed || format) ? 'does not say at which rate its frames are counted.' : null
}

function trackNonsense(track: Track, doc: Doc): string | null {
  let end = 0
  for (const placement of track.placements) {
    const { id, start, length } = placement
    const lost = lostSource(placement, doc)
    if (lost) return `places a ${lost} that is not there.`
    if (start < end)
      return `places “${id}” at frame ${start}, where another runs until ${end}: placements stand in order and do not overlap.`
    if (start + length > mostFrames) return `places “${id}” beyond frame 2⁴⁰.`
    end = start + length
  }
  return null
}

/** The source of a placement that is not there, by kind and name; null where it is. */
export function lostSource({ source }: Placement, { clips, timelines }: Pick<Doc, 'clips' | 'timelines'>) {
  if (source.kind === 'clip' && !Object.hasOwn(clips, source.clipId)) return `clip “${source.clipId}”`
  if (source.kind === 'timeline' && !Object.hasOwn(timelines, source.timelineId))
    return `timeline “${source.timelineId}”`
  return null
}

function deliverableNonsense({ project, timelines }: Doc): string | null {
  const ids = new Set<string>()
  return firstOf(project.deliverables, ({ id, name, timelineId }) => {
    if (ids.size === ids.add(id).size) return `The deliverable “${id}” is there twice.`
    return timelineId !== null && !Object.hasOwn(timelines, timelineId)
      ? `“${name}” delivers a timeline “${timelineId}” that is not there.`
      : null
  })
}

const shownBy = new WeakMap<Timeline, ReadonlySet<string>>()

/** The timelines that a timeline shows, each once. Of one that is frozen, and does not change any more, it is looked for once. */
export function timelinesWithin(timeline: Timeline): ReadonlySet<string> {
  const known = shownBy.get(timeline)
  if (known) return known
  const shown = new Set<string>()
  for (const { placements } of timeline.tracks)
    for (const { source } of placements) if (source.kind === 'timeline') shown.add(source.timelineId)
  if (Object.isFrozen(timeline)) shownBy.set(timeline, shown)
  return shown
}

/** Whether a timeline shows another, or itself, at any depth. */
export function showsTimeline(doc: Pick<Doc, 'timelines'>, id: string, sought: string): boolean {
  const seen = new Set<string>()
  const open = [id]
  for (let at = open.pop(); at !== undefined; at = open.pop()) {
    const timeline = doc.timelines[at]
    for (const within of timeline ? timelinesWithin(timeline) : []) {
      if (within === sought) return true
      if (seen.size !== seen.add(within).size) open.push(within)
    }
  }
  return false
}

const loopNonsense = (doc: Doc): string | null =>
  firstOf(Object.values(doc.timelines), ({ id, name }) =>
    showsTimeline(doc, id, id) ? `“${name}” is placed inside itself.` : null,
  )

const BareTrack = Track.unwrap().omit({ placements: true })
const BareTimeline = Timeline.unwrap().omit({ tracks: true })

/**
 * What of a document could not be kept any more since it was another: only what changed is looked at, so that an edit of one
 * placement among a hundred thousand takes no longer than one among ten.
 * @param before a document that can be kept
 * @returns what is wrong, in a sentence; null where nothing is
 */
export function wrongSince(before: Doc, after: Doc): string | null {
  if (before === after) return null
  const changed = Object.values(after.timelines).filter(
    (timeline) => before.timelines[timeline.id] !== timeline,
  )
  return (
    (before.project === after.project ? null : departed('The project', Project, after.project)) ??
    firstOf(before.clips === after.clips ? [] : Object.values(after.clips), (clip) => {
      const was = before.clips[clip.id]
      return was && was !== clip ? departed(`“${clip.name}”`, Clip, clip) : null
    }) ??
    firstOf(changed, (timeline) => departedTimeline(before.timelines[timeline.id], timeline)) ??
    (before.clips === after.clips && before.project === after.project
      ? null
      : orderNonsense('clip', after.project.clipOrder, after.clips)) ??
    orderNonsense('timeline', after.project.timelineOrder, after.timelines) ??
    firstOf(changed, (timeline) => nonsenseSince(before.timelines[timeline.id], timeline, after)) ??
    // What stays as it is may show what is gone, or count at another rate than the project’s.
    (before.clips === after.clips &&
    before.project.format === after.project.format &&
    Object.keys(before.timelines).every((id) => id in after.timelines)
      ? null
      : firstOf(Object.values(after.timelines), (timeline) => timelineNonsense(timeline, after))) ??
    deliverableNonsense(after) ??
    // A loop closes in a timeline that was changed, and shows another.
    (changed.some(showsTimelines) ? loopNonsense(after) : null)
  )
}

const showsTimelines = ({ tracks }: Timeline): boolean =>
  tracks.some(({ placements }) => placements.some(({ source }) => source.kind === 'timeline'))

const departed = (what: string, schema: z.ZodType, value: unknown): string | null => {
  const parsed = parseQuickly(schema, value)
  return parsed.success ? null : `${what} could not be kept so: ${departure(parsed.error)}.`
}

function departedTimeline(before: Timeline | undefined, timeline: Timeline): string | null {
  const name = `“${timeline.name}”`
  const { tracks: _tracks, ...bare } = timeline
  const known = new Map(before?.tracks.map((track) => [track.id, track]))
  return (
    departed(name, BareTimeline, bare) ??
    firstOf(timeline.tracks, (track) => {
      const was = known.get(track.id)
      if (was === track) return null
      const { placements, ...bareTrack } = track
      const same = new Set(was?.placements)
      return (
        departed(`Track ${track.name} of ${name}`, BareTrack, bareTrack) ??
        firstOf(placements, (placement) =>
          same.has(placement) ? null : departed(`A placement of ${name}`, Placement, placement),
        )
      )
    })
  )
}
