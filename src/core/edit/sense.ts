import { equal } from '../rational/rational'
import { type Doc, formatOf } from './project'
import { type Placement, type Timeline, type Track, mostFrames } from './timeline'

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

/** The timelines that a timeline shows, each once. */
export const timelinesWithin = ({ tracks }: Timeline): Set<string> =>
  new Set(
    tracks.flatMap(({ placements }) =>
      placements.flatMap(({ source }) => (source.kind === 'timeline' ? [source.timelineId] : [])),
    ),
  )

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
