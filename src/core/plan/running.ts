import type { Format } from '../format/format'
import { pictureOfFormat } from '../format/format'
import { type ClipTiming } from '../motion/timing'
import type { Running } from '../motion/shown'
import { type Picture, factsKey, pictureOf } from '../picture/picture'
import type { FrameSize } from '../picture/size'
import { rational } from '../rational/rational'
import { type Settled, settleToll } from '../toll/toll'
import { tollFrom } from '../toll/charge'
import { meets } from '../treatment/rule'
import { type Treatment, treated } from '../treatment/treatment'
import type { Run } from '../treatment/run'
import type { Clip } from '../model/clip'
import { type Doc, formatOf, weightsOf } from '../model/project'
import { ownTreatment, shapeOf } from '../model/shape'
import { timingOf } from '../model/timing'
import { type Placement, type Timeline, lengthOf, mostFrames } from '../model/timeline'

/** The picture that a placement shows; null for sound, and where nothing is known of it. */
export function pictureOfPlacement(doc: Doc, { source }: Placement): Picture | null {
  switch (source.kind) {
    case 'clip': {
      const video = doc.clips[source.clipId]?.reading?.video
      return video ? pictureOf(video) : null
    }
    case 'timeline': {
      const inner = doc.timelines[source.timelineId]
      const format = inner && formatOf(doc, inner)
      return format ? pictureOfFormat(format) : null
    }
    case 'figure': {
      const { size, rate, scan } = source
      const unknown = {
        offNominalShare: null,
        minRate: null,
        maxRate: null,
        leftOutShare: 0,
        primaries: null,
        transfer: null,
      }
      const fieldOrder = scan === 'interlaced' ? ('top-first' as const) : null
      return {
        ...size,
        rotation: 0,
        rate,
        scan,
        fieldOrder,
        firstLine: 0,
        ...unknown,
        matrix: null,
        bitDepth: null,
        combs: false,
        pulldownPhase: null,
        pulldownOut: false,
        detail: null,
      }
    }
  }
}

/** When the frames of what a placement shows are on. A timeline within another has frames of its own rate. */
export function timingOfPlacement(doc: Doc, { source }: Placement): ClipTiming {
  switch (source.kind) {
    case 'clip': {
      const clip = doc.clips[source.clipId]
      return clip ? timingOf(clip) : { kind: 'still' }
    }
    case 'timeline': {
      const inner = doc.timelines[source.timelineId]
      return inner?.rate
        ? { kind: 'constant', rate: inner.rate, count: Math.max(1, lengthOf(inner)), counted: true }
        : { kind: 'still' }
    }
    case 'figure':
      return { kind: 'constant', rate: source.rate, count: mostFrames, counted: true }
  }
}

/** What a timeline treats a picture with, whoever shows it: its defaults, then its rules in order. */
export function treatmentFor(timeline: Timeline, picture: Picture | null): Treatment {
  const rules = picture ? timeline.rules.filter(({ on, when }) => on && meets(picture, when)) : []
  return treated([timeline.treatment, ...rules.map(({ set }) => set)])
}

/** What a placement is treated with in a frame: as its timeline says, then what is its own there. */
export const treatmentOf = (
  timeline: Timeline,
  placement: Placement,
  picture: Picture | null,
  frame: FrameSize | null,
): Treatment => treated([ownTreatment(placement, frame)], treatmentFor(timeline, picture))

const plainWay: Run = {
  passing: { kind: 'in-time', factor: rational(1) },
  taking: { kind: 'frames', mixed: false },
}
/** Sound pays nothing, and is as fast as it is told to be; it has no frames of which each could be counted. */
function heardAs({ motion }: Treatment): Settled {
  const factor = motion.kind === 'speed' && motion.pace.kind === 'factor' ? motion.pace.factor : rational(1)
  return { toll: tollFrom([]), way: { ...plainWay, passing: { kind: 'in-time', factor } } }
}

/** A placement settled in a format: what it is treated with, what it pays, and how it runs. */
export interface SettledPlacement extends Settled {
  readonly picture: Picture | null
  readonly treatment: Treatment
}

/** Settles a placement; sound, and anything while there is no format, pays nothing and runs as it is. */
export function settlePlacement(
  doc: Doc,
  timeline: Timeline,
  placement: Placement,
  format: Format | null,
): SettledPlacement {
  const picture = pictureOfPlacement(doc, placement)
  const treatment = treatmentOf(timeline, placement, picture, format)
  const settled =
    picture && format ? settleToll(picture, format, treatment, weightsOf(doc.project)) : heardAs(treatment)
  return { ...settled, picture, treatment }
}

/** Numbers for values that are alike, given once to each object: values do not change, and numbers are told apart in no time. */
function numbering<T extends object>(keyOf: (value: T) => string): (value: T) => number {
  const numbers = new Map<string, number>()
  const given = new WeakMap<T, number>()
  return (value) => {
    let number = given.get(value)
    if (number === undefined) {
      const key = keyOf(value)
      number = numbers.get(key) ?? numbers.size
      numbers.set(key, number)
      given.set(value, number)
    }
    return number
  }
}
const numberOfPicture = numbering(({ reading }: Clip) => (reading?.video ? factsKey(reading.video) : ''))
/** Most placements have none of their own. */
const numberOfTreatment = numbering((treatment: object) => JSON.stringify(treatment))

/** As `settlePlacement`, for many placements of a timeline: those that stand alike and are treated alike are settled once. */
export function settling(
  doc: Doc,
  timeline: Timeline,
  format: Format | null,
): (placement: Placement) => SettledPlacement {
  const known = new Map<string, SettledPlacement>()
  const shape = format && shapeOf(format)
  const keyOf = ({ source, treatment, framingByShape }: Placement): string | null => {
    const clip = source.kind === 'clip' ? doc.clips[source.clipId] : undefined
    if (!clip) return null
    const forShape = shape === null ? undefined : framingByShape[shape]
    const own = `${numberOfPicture(clip)} ${numberOfTreatment(treatment)}`
    return forShape ? `${own} ${numberOfTreatment(forShape)}` : own
  }
  return (placement) => {
    const key = keyOf(placement)
    const settled = (key !== null && known.get(key)) || settlePlacement(doc, timeline, placement, format)
    if (key !== null) known.set(key, settled)
    return settled
  }
}

/** What decides which frames a placement shows. */
export function runningOf(
  doc: Doc,
  timeline: Timeline,
  placement: Placement,
  format = formatOf(doc, timeline),
): Running {
  const { way, picture } = settlePlacement(doc, timeline, placement, format)
  return {
    sourceIn: placement.sourceIn,
    way,
    fieldOrder: picture?.fieldOrder ?? null,
    shownOrder: format?.fieldOrder ?? null,
  }
}
