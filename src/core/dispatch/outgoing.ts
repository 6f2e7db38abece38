import type { Deliverable } from '../model/deliverable'
import type { FramingPlan } from '../edit/reframe'
import { nestedIn } from '../edit/nesting'
import { framesThere } from '../edit/placing'
import { type Doc, formatOf } from '../model/project'
import { reframed } from '../edit/reformat'
import { runningOf, timingOfPlacement } from '../plan/running'
import { type Timeline, lengthOf } from '../model/timeline'
import { type Format, sameFormat } from '../format/format'
import { type Shown, shownAt } from '../motion/shown'
import { equal } from '../rational/rational'
import type { Override } from '../treatment/treatment'

/**
 * A deliverable as it is made: a timeline in its format, of which every frame goes out. Where only the raster is another, that is the
 * cut itself on the new raster, so that each picture is scaled once, from its source straight to the deliverable. Another rate or scan is
 * made from the frames of the cut, which lies whole in a timeline of that rate.
 */
export interface Outgoing {
  /** The document with the timelines that are made for it. */
  readonly doc: Doc
  /** The cut as it stands in the project. */
  readonly source: Timeline
  readonly sourceFormat: Format
  /** The cut on the raster of the deliverable, at its own rate and scan. */
  readonly cut: Timeline
  /** What goes out. */
  readonly timeline: Timeline
  readonly format: Format
  /** Frames of it that go out: from the first to before the last. */
  readonly range: { readonly from: number; readonly to: number }
}

/** The timeline that a deliverable is made of: the one it names, or the only one that there is. */
export function timelineOfDeliverable(doc: Doc, { timelineId }: Deliverable): Timeline | null {
  const [only, second] = doc.project.timelineOrder
  const id = timelineId ?? (second === undefined ? only : undefined)
  return (id !== undefined && doc.timelines[id]) || null
}

/** How the pictures come into a frame of another shape: as a deliverable says, for all; else as they are framed for it. */
function planOf({ treatment }: Deliverable): FramingPlan | undefined {
  switch (treatment.framing?.mode?.kind) {
    case 'fill':
      return { all: 'fill-shape' }
    case 'fit':
      return { all: 'keep' }
    default:
      return undefined
  }
}

/** How the frames of the cut become those of another rate or scan. */
const inTime = ({ motion, fields, shiftOrder }: Override): Override => ({
  ...(motion ? { motion } : {}),
  ...(fields ? { fields } : {}),
  ...(shiftOrder === undefined ? {} : { shiftOrder }),
})

/** @returns null while it is not said which timeline goes out, or that one has no format yet */
export function outgoing(doc: Doc, deliverable: Deliverable): Outgoing | null {
  const source = timelineOfDeliverable(doc, deliverable)
  const sourceFormat = source && formatOf(doc, source)
  if (!source || !sourceFormat) return null
  const { format, id, name } = deliverable
  const runsAlike = equal(format.rate, sourceFormat.rate) && format.scan === sourceFormat.scan
  const raster: Format = runsAlike
    ? format
    : {
        ...format,
        rate: sourceFormat.rate,
        scan: sourceFormat.scan,
        fieldOrder: sourceFormat.fieldOrder,
      }
  const own = { ...source, id: `${id} cut`, ownFormat: raster }
  const cut = sameFormat(raster, sourceFormat)
    ? { ...own, ownFormat: sourceFormat }
    : reframed(doc, doc, source, own, planOf(deliverable)).timeline
  const timeline = runsAlike ? cut : laidIn(doc, cut, deliverable)
  const length = lengthOf(timeline)
  const { from, to } = deliverable.range ?? { from: 0, to: length }
  return {
    doc: { ...doc, timelines: { ...doc.timelines, [cut.id]: cut, [timeline.id]: timeline } },
    source,
    sourceFormat,
    cut,
    timeline: { ...timeline, name },
    format,
    range: { from: Math.min(from, length), to: Math.min(to, length) },
  }
}

/** A cut that lies whole in a timeline of another rate or scan: as long as all of it takes there. */
function laidIn(doc: Doc, cut: Timeline, { id, name, format, treatment }: Deliverable): Timeline {
  let made = 0
  const making = { name, at: cut.createdAt, newId: () => `${id} out${made++ || ''}` }
  const nested = { ...nestedIn(cut, format, null, making), treatment: inTime(treatment) }
  const within = { ...doc, timelines: { ...doc.timelines, [cut.id]: cut, [nested.id]: nested } }
  const tracks = nested.tracks.map((track) => ({
    ...track,
    placements: track.placements.map((placement) => ({
      ...placement,
      length: framesThere(within, nested, placement) ?? placement.length,
    })),
  }))
  return { ...nested, tracks }
}

/** Which frames or fields of the cut a frame that goes out shows: the list that a render makes and a proof looks for. */
export function framesOfCut({ doc, cut, timeline }: Outgoing, n: number): Shown {
  const [whole] = timeline.tracks.flatMap(({ kind, placements }) => (kind === 'video' ? placements : []))
  if (cut.id === timeline.id || !whole || !timeline.rate) return { kind: 'frame', index: n }
  return shownAt(runningOf(doc, timeline, whole), timingOfPlacement(doc, whole), timeline.rate, n)
}
