import { type Format, formatKey, formatName } from '../format/format'
import { equal } from '../rational/rational'
import { type CarriedBoundary, carriedBoundaries, carryPlacements } from './carry'
import { type Doc, formatOf } from './project'
import { runningOf, timingOfPlacement } from './running'
import { framesLeft } from '../motion/shown'
import { type Placement, type Timeline } from './timeline'

/** A timeline brought to another format, and what that did to its cut. */
export interface Reframed {
  readonly timeline: Timeline
  /** Empty where the rate stays. */
  readonly boundaries: readonly CarriedBoundary[]
  /** Placements that now reach beyond the end of their source. */
  readonly runOut: readonly Placement[]
}

/**
 * A timeline as it is in a document where it has another format: its frames belong to the new rate, its cut is carried there.
 * What is told before and what is done come from here.
 * @param before the document as it is
 * @param after the document in which it would run; the same where only the timeline changes
 */
export function reframed(before: Doc, after: Doc, timeline: Timeline, changed = timeline): Reframed {
  const [was, is] = [formatOf(before, timeline), formatOf(after, changed)]
  const named = { ...changed, name: renamed(after, timeline, was, is) }
  const [from, to] = [timeline.rate, is?.rate ?? timeline.rate]
  if (!from || !to || equal(from, to)) return { timeline: { ...named, rate: to }, boundaries: [], runOut: [] }
  const tracks = timeline.tracks.map((track) => ({
    ...track,
    placements: carryPlacements(track.placements, from, to),
  }))
  const carried: Timeline = { ...named, rate: to, tracks }
  return {
    timeline: carried,
    boundaries: timeline.tracks.flatMap((track, i) =>
      carriedBoundaries(track.placements, tracks[i]?.placements ?? [], from, to),
    ),
    runOut: tracks.flatMap(({ placements }) => placements.filter((p) => runsOut(after, carried, p))),
  }
}

/** Whether a placement reaches beyond the end of what it shows. */
export function runsOut(doc: Doc, timeline: Timeline, placement: Placement): boolean {
  if (!timeline.rate) return false
  const running = runningOf(doc, timeline, placement)
  const left = framesLeft(running, timingOfPlacement(doc, placement), timeline.rate)
  return left !== null && placement.length > left
}

const nameFor = (format: Format | null) => (format ? `Cut ${formatName(format)}` : 'Cut')
const isProposed = (name: string, format: Format) => name.replace(/ \(\d+\)$/, '') === nameFor(format)

/** A name that was proposed for the old format would lie about the new one. */
function renamed(doc: Doc, { name }: Timeline, was: Format | null, is: Format | null): string {
  const lies = was && is && isProposed(name, was) && formatKey(was) !== formatKey(is)
  return lies && nameFor(was) !== nameFor(is) ? proposeName(doc, is) : name
}

/** A name for a timeline from its format, not yet taken by another. */
export function proposeName(doc: Doc, format: Format | null): string {
  const base = nameFor(format)
  const taken = new Set(Object.values(doc.timelines).map((t) => t.name))
  for (let n = 1; ; n++) {
    const name = n === 1 ? base : `${base} (${n})`
    if (!taken.has(name)) return name
  }
}
