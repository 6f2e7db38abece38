import { type Format, formatKey, formatName } from '../format/format'
import { sameSize } from '../picture/size'
import { equal } from '../rational/rational'
import { type CarriedBoundary, carriedBoundaries, carriedTimecode, carryPlacements } from './carry'
import { type FramingPlan, reframedPlacement, sameShape, scaledOverride, usualPlan } from './reframe'
import { type Doc, formatOf } from '../model/project'
import { pictureOfPlacement, runningOf, timingOfPlacement, treatmentFor } from '../plan/running'
import { framesLeft } from '../motion/shown'
import { shapeOf } from '../model/shape'
import { type Placement, type Timeline } from '../model/timeline'

/** A timeline brought to another format, and what that did to its cut. */
export interface Reframed {
  readonly timeline: Timeline
  /** Empty where the rate stays. */
  readonly boundaries: readonly CarriedBoundary[]
  /** Placements that now reach beyond the end of their source. */
  readonly runOut: readonly Placement[]
}

/**
 * A timeline as it is in a document where it has another format: its pictures come into the new frame, its frames belong to the new
 * rate, its cut is carried there. What is told before and what is done come from here.
 * @param before the document as it is
 * @param after the document in which it would run; the same where only the timeline changes
 * @param plan what becomes of where pictures lie; as usual where nothing is said
 */
export function reframed(
  before: Doc,
  after: Doc,
  timeline: Timeline,
  changed = timeline,
  plan?: FramingPlan,
): Reframed {
  const [was, is] = [formatOf(before, timeline), formatOf(after, changed)]
  const named = { ...changed, name: nameIn(after, timeline, was, is) }
  const framed = was && is ? inFrame(before, timeline, named, { was, is }, plan) : named
  const [from, to] = [timeline.rate, is?.rate ?? timeline.rate]
  if (!from || !to || equal(from, to))
    return { timeline: { ...framed, rate: to }, boundaries: [], runOut: [] }
  const tracks = framed.tracks.map((track) => ({
    ...track,
    placements: carryPlacements(track.placements, from, to),
  }))
  const carried: Timeline = {
    ...framed,
    ...carriedTimecode(framed, from, to),
    rate: to,
    tracks,
  }
  return {
    timeline: carried,
    boundaries: timeline.tracks.flatMap((track, i) =>
      carriedBoundaries(track.placements, tracks[i]?.placements ?? [], from, to),
    ),
    runOut: tracks.flatMap(({ placements }) => placements.filter((p) => runsOut(after, carried, p))),
  }
}

/** A timeline whose pictures have come from one frame into another. */
function inFrame(
  doc: Doc,
  timeline: Timeline,
  changed: Timeline,
  { was, is }: { readonly was: Format; readonly is: Format },
  plan: FramingPlan = usualPlan(was, is),
): Timeline {
  if (sameSize(was, is)) return changed
  const scaled = sameShape(was, is)
  const set = (override: Timeline['treatment']) => (scaled ? scaledOverride(override, was, is) : override)
  const rasters = scaled
    ? timeline.rasters
    : { ...timeline.rasters, [shapeOf(was)]: frameIn(was), [shapeOf(is)]: frameIn(is) }
  const into: Timeline = {
    ...changed,
    treatment: set(changed.treatment),
    rules: changed.rules.map((rule) => ({ ...rule, set: set(rule.set) })),
    rasters,
  }
  const tracks = into.tracks.map((track) =>
    track.kind === 'video'
      ? {
          ...track,
          placements: track.placements.map((placement) => {
            const picture = pictureOfPlacement(doc, placement)
            const coming = {
              placement,
              picture,
              before: treatmentFor(timeline, picture),
              after: treatmentFor(into, picture),
              was,
              is,
              rasters: timeline.rasters,
            }
            return reframedPlacement(coming, plan.by?.[placement.id] ?? plan.all, plan.lookAt?.[placement.id])
          }),
        }
      : track,
  )
  return { ...into, tracks }
}

const frameIn = ({ width, height, pixelAspect }: Format) => ({ width, height, pixelAspect })

/** Whether a placement reaches beyond the end of what it shows. */
export function runsOut(doc: Doc, timeline: Timeline, placement: Placement): boolean {
  if (!timeline.rate) return false
  const running = runningOf(doc, timeline, placement)
  const left = framesLeft(running, timingOfPlacement(doc, placement), timeline.rate)
  return left !== null && placement.length > left
}

const nameFor = (format: Format | null) => (format ? `Cut ${formatName(format)}` : 'Cut')
const isProposed = (name: string, format: Format) => name.replace(/ \(\d+\)$/, '') === nameFor(format)

/** What a timeline is called in another format: a name that was proposed for the old one would lie about the new one. */
export function nameIn(doc: Doc, { name }: Timeline, was: Format | null, is: Format | null): string {
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
