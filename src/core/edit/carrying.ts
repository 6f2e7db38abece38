import { type Format } from '../format/format'
import { divide, equal } from '../rational/rational'
import { type CarriedBoundary, carriedBoundaries, carriedTimecode, carryPlacements } from './carry'
import { beyond, faster, fieldsInFull } from './flatten'
import type { Draft } from './draft'
import type { FramingPlan } from './reframe'
import { type NewTimelineNames, nestedIn } from './nesting'
import { listTimeline } from './operations'
import { type Decision, type Doc, formatOf, timelinesOf } from '../model/project'
import { nameIn, reframed } from './reformat'
import { settlePlacement, timingOfPlacement, treatmentFor } from '../plan/running'
import { timelinesWithin } from '../model/integrity'
import { type FormatOrigin, type Placement, type Timeline, type Track } from '../model/timeline'

/** The ways in which a cut is carried to another format. */
export const carryWays = ['recut', 'nested', 'new-project', 'slowed'] as const
export type CarryWay = (typeof carryWays)[number]

/** What is wished of a cut that is carried. */
export interface CarryWish {
  readonly format: Format
  /** Where the format comes from, for what bears it. */
  readonly origin: FormatOrigin | null
  /** What becomes of where pictures lie; as usual where nothing is said. */
  readonly plan?: FramingPlan
  /** Whether frame numbers are dropped where they can be; as it was where nothing is said. */
  readonly dropFrame?: boolean
  /** Whether what is slowed or sped keeps its pitch. */
  readonly keepPitch: boolean
}

/** A cut that was carried: the document with it, and what that did. */
export interface CarriedCut {
  /** The project that it is in: for a new project that one, as it begins. */
  readonly doc: Doc
  readonly timeline: Timeline
  readonly boundaries: readonly CarriedBoundary[]
  /** Placements that reach beyond the end of their source. */
  readonly runOut: readonly Placement[]
  /** Placements that cannot be slowed as they run: what was mixed or pulled down is held. */
  readonly held: readonly Placement[]
}

/** A timeline with names of its own for all that is in it, and so a copy that can stand beside the old one. */
export function copyOf(timeline: Timeline, { name, at, newId }: NewTimelineNames): Timeline {
  const pairs = new Map<string, string>()
  const names = new Map<string, string>()
  const named = (known: Map<string, string>, old: string) => {
    const fresh = known.get(old) ?? newId()
    known.set(old, fresh)
    return fresh
  }
  return {
    ...timeline,
    id: newId(),
    name,
    createdAt: at,
    tracks: timeline.tracks.map((track) => ({
      ...track,
      id: newId(),
      placements: track.placements.map((placement) => ({
        ...placement,
        id: named(names, placement.id),
        pairId: placement.pairId === null ? null : named(pairs, placement.pairId),
      })),
    })),
    accepted: timeline.accepted.flatMap((accepted) => {
      const placementId = names.get(accepted.placementId)
      return placementId ? [{ ...accepted, placementId }] : []
    }),
  }
}

/** A document with a timeline in its place, or as the last one. */
export const withTimeline = (doc: Doc, timeline: Timeline): Doc => ({
  ...doc,
  project: doc.timelines[timeline.id]
    ? doc.project
    : { ...doc.project, timelineOrder: [...doc.project.timelineOrder, timeline.id] },
  timelines: { ...doc.timelines, [timeline.id]: timeline },
})

const inFormat = (timeline: Timeline, { format, origin }: CarryWish): Timeline => ({
  ...timeline,
  ownFormat: format,
  formatOrigin: origin,
})

/** Re-cut: every boundary on the frame of the new rate that is nearest to its time. In place, or as a copy where one is made. */
export function recut(
  doc: Doc,
  timeline: Timeline,
  wish: CarryWish,
  copy: NewTimelineNames | null,
): CarriedCut {
  const {
    timeline: carried,
    boundaries,
    runOut,
  } = reframed(doc, doc, timeline, inFormat(timeline, wish), wish.plan)
  const counted = { ...carried, ...countedAnew(timeline, wish) }
  const result = copy ? copyOf(counted, copy) : counted
  return { doc: withTimeline(doc, result), timeline: result, boundaries, runOut, held: [] }
}

/** How frames are numbered at the new rate. */
const countedAnew = (timeline: Timeline, { format, dropFrame }: CarryWish) =>
  timeline.rate ? carriedTimecode(timeline, timeline.rate, format.rate, dropFrame) : {}

/** Nested: the old timeline runs as it is inside a new one. No boundary moves; those that fall between frames are told. */
export function nested(doc: Doc, timeline: Timeline, wish: CarryWish, making: NewTimelineNames): CarriedCut {
  const outer = nestedIn(timeline, wish.format, wish.origin, making, wish.dropFrame)
  return {
    doc: withTimeline(doc, outer),
    timeline: outer,
    boundaries: boundariesAt(timeline, wish.format),
    runOut: [],
    held: [],
  }
}

/** Where the boundaries of a cut would lie at the rate of a format. */
function boundariesAt({ tracks, rate }: Timeline, format: Format): CarriedBoundary[] {
  if (!rate || equal(rate, format.rate)) return []
  return tracks.flatMap(({ placements }) =>
    carriedBoundaries(placements, carryPlacements(placements, rate, format.rate), rate, format.rate),
  )
}

/** Slowed or sped: every frame stays the frame that it is and is shown as long as one of the new rate. */
export function slowed(
  doc: Doc,
  timeline: Timeline,
  wish: CarryWish,
  copy: NewTimelineNames | null,
): CarriedCut {
  const { format } = wish
  const was = formatOf(doc, timeline)
  const { rate } = timeline
  const framed =
    was &&
    reframed(
      doc,
      doc,
      timeline,
      inFormat(timeline, { ...wish, format: { ...format, rate: was.rate } }),
      wish.plan,
    ).timeline
  const held: Placement[] = []
  const passed = inFormat(framed ?? timeline, wish)
  const by = rate && divide(format.rate, rate)
  const slow = (placement: Placement): Placement => {
    const before = settlePlacement(doc, framed ?? timeline, placement, framed ? framed.ownFormat : was)
    const timing = timingOfPlacement(doc, placement)
    if (!rate || !by || before.picture?.rate === null || (timing.kind === 'still' && before.picture))
      return placement
    const { passing, taking } = before.way
    if (
      ('mixed' in taking && taking.mixed) ||
      taking.kind === 'pulldown' ||
      taking.kind === 'remove-pulldown'
    )
      held.push(placement)
    // One of its frames on one of the timeline's is that at any rate.
    const treatment =
      passing.kind === 'step-by-step'
        ? { ...before.treatment, fields: fieldsInFull(before) }
        : faster(before, by, wish.keepPitch, timing, rate)
    return { ...placement, treatment: { ...placement.treatment, ...motionIn(treatment, before.picture) } }
  }
  const motionIn = (treatment: ReturnType<typeof faster>, picture: Parameters<typeof treatmentFor>[1]) => {
    const { motion, fields } = beyond(treatment, treatmentFor(passed, picture))
    return { ...(motion ? { motion } : {}), ...(fields ? { fields } : {}) }
  }
  const result: Timeline = {
    ...passed,
    rate: format.rate,
    ...countedAnew(timeline, wish),
    tracks: passed.tracks.map((track): Track => ({ ...track, placements: track.placements.map(slow) })),
    name: nameIn(doc, timeline, was, format),
  }
  const own = copy ? copyOf(result, copy) : result
  return { doc: withTimeline(doc, own), timeline: own, boundaries: [], runOut: [], held }
}

/** A new project: it takes over the clips, the cut re-cut in the new format, and what is placed in it. The old one stays as it is. */
export function newProjectWith(
  doc: Doc,
  timeline: Timeline,
  wish: CarryWish,
  { name, at, newId }: NewTimelineNames,
  reason: string,
): CarriedCut {
  const { timeline: carried, boundaries, runOut } = recut(doc, timeline, wish, null)
  const cut: Timeline = { ...carried, ownFormat: null, formatOrigin: null }
  const within = withinDeep(doc, timeline)
  const others = timelinesOf(doc)
    .filter(({ id }) => within.has(id))
    // What followed the old project keeps what it ran in.
    .map((inner): Timeline => ({ ...inner, ownFormat: formatOf(doc, inner) }))
  const kept = [cut, ...others]
  const decision: Decision = { at, setBy: wish.origin?.setBy ?? 'tried', format: wish.format, reason }
  const begun: Doc = {
    ...doc,
    project: {
      ...doc.project,
      id: newId(),
      name,
      createdAt: at,
      format: wish.format,
      decisions: [decision],
      deliverables: doc.project.deliverables.map((deliverable) => ({
        ...deliverable,
        timelineId:
          deliverable.timelineId !== null && kept.some(({ id }) => id === deliverable.timelineId)
            ? deliverable.timelineId
            : null,
      })),
      timelineOrder: kept.map(({ id }) => id),
    },
    timelines: Object.fromEntries(kept.map((timeline) => [timeline.id, timeline])),
  }
  return { doc: begun, timeline: cut, boundaries, runOut, held: [] }
}

/** All that a timeline shows of other timelines, at any depth. */
function withinDeep(doc: Doc, timeline: Timeline): Set<string> {
  const found = new Set<string>()
  const open = [...timelinesWithin(timeline)]
  for (let id = open.pop(); id !== undefined; id = open.pop()) {
    const inner = doc.timelines[id]
    if (!inner || found.has(id)) continue
    found.add(id)
    open.push(...timelinesWithin(inner))
  }
  return found
}

/** Puts what a carried cut made into the project that it came from, as the edit of one step. */
export function takeCarried(doc: Draft<Doc>, { timeline }: CarriedCut): void {
  if (doc.timelines[timeline.id]) doc.timelines[timeline.id] = timeline as Draft<Timeline>
  else listTimeline(doc, timeline as Draft<Timeline>)
}
