import {
  type CarriedCut,
  type CarryWay,
  type CarryWish,
  nested,
  newProjectWith,
  recut,
  slowed,
} from '../edit/carrying'
import type { CarriedBoundary } from '../edit/carry'
import type { NewTimelineNames } from '../edit/nesting'
import { type Doc } from '../model/project'
import { type Placement, type Timeline, lengthOf } from '../model/timeline'
import { everyFrame } from '../motion/speed'
import type { Rate } from '../rate/rate'
import { divide, rational, toNumber } from '../rational/rational'
import { type Grade, grades } from '../toll/grade'
import { type Check, type Finding, checkTimeline } from './check'
import { type PaysOtherwise, compared, nestedFindings } from './pays-otherwise'

/** One way of carrying a cut, priced from what it comes out as. */
export interface CarryPrice {
  readonly way: CarryWay
  readonly cut: CarriedCut
  readonly check: Check | null
  /** Boundaries that do not lie where they lay in time, the furthest first; for a nested cut those that fall inside a frame. */
  readonly moved: readonly CarriedBoundary[]
  /** How many boundaries there are. */
  readonly boundaries: number
  readonly length: readonly [before: LengthAt, after: LengthAt]
  readonly countByGrade: readonly [
    before: Readonly<Record<Grade, number>>,
    after: Readonly<Record<Grade, number>>,
  ]
  /** The worst first. */
  readonly paysMore: readonly PaysOtherwise[]
  readonly paysLess: readonly PaysOtherwise[]
  /** Pictures that can be zoomed less before pixels are invented, the most lost first. */
  readonly losesHeadroom: readonly HeadroomLost[]
  /** Semitones by which sound is shifted unless its pitch is kept; null where it stays as fast. */
  readonly pitch: number | null
}

/** The zoom that a picture allows before pixels are invented, before and after. */
export interface HeadroomLost {
  readonly name: string
  readonly before: number
  readonly after: number
}

/** A length in frames of a rate. */
export interface LengthAt {
  readonly frames: number
  readonly rate: Rate
  readonly seconds: number
}

const lengthAt = (timeline: Timeline): LengthAt => {
  const rate = timeline.rate ?? rational(25)
  const frames = lengthOf(timeline)
  return { frames, rate, seconds: toNumber(divide(rational(frames), rate)) }
}

/** Nearer than this, a boundary lies where it lay. */
const still = 0.01

/** One way, done on the side and priced. What is told before and what is done come from the same functions. */
export function carryPrice(
  doc: Doc,
  timeline: Timeline,
  { way, wish, reason = '' }: { readonly way: CarryWay; readonly wish: CarryWish; readonly reason?: string },
  making: NewTimelineNames,
): CarryPrice {
  const cut = carriedBy(doc, timeline, { way, wish, reason }, making)
  const [was, is] = [checkTimeline(doc, timeline), checkTimeline(cut.doc, cut.timeline)]
  const pays = was && is ? compared(was, way === 'nested' ? nestedFindings(was, is) : is.findings) : []
  const none: Record<Grade, number> = { free: 0, light: 0, heavy: 0, severe: 0 }
  const after = { ...none }
  for (const price of pays) after[price.grades[1]]++
  const byLoss = (price: PaysOtherwise) => (price.loss[1] - price.loss[0]) * price.before.placement.length
  const more = pays.filter((price) => byLoss(price) > 1e-9)
  const less = pays.filter((price) => byLoss(price) < -1e-9)
  const { rate } = timeline
  return {
    way,
    cut,
    check: is,
    moved: once(cut.boundaries)
      .filter(({ driftMs }) => Math.abs(driftMs) >= still)
      .sort((a, b) => Math.abs(b.driftMs) - Math.abs(a.driftMs)),
    boundaries: once(cut.boundaries).length || boundariesOf(timeline),
    length: [lengthAt(timeline), lengthAt(cut.timeline)],
    countByGrade: [was?.countByGrade ?? none, after],
    paysMore: [...more].sort(
      (a, b) => grades.indexOf(b.grades[1]) - grades.indexOf(a.grades[1]) || byLoss(b) - byLoss(a),
    ),
    paysLess: [...less].sort((a, b) => byLoss(a) - byLoss(b)),
    losesHeadroom: headroomLost(pays),
    pitch: way === 'slowed' && rate ? everyFrame(rate, wish.format.rate).pitch : null,
  }
}

function carriedBy(
  doc: Doc,
  timeline: Timeline,
  { way, wish, reason }: { readonly way: CarryWay; readonly wish: CarryWish; readonly reason: string },
  making: NewTimelineNames,
): CarriedCut {
  switch (way) {
    case 'recut':
      return recut(doc, timeline, wish, null)
    case 'nested':
      return nested(doc, timeline, wish, making)
    case 'new-project':
      return newProjectWith(doc, timeline, wish, making, reason)
    case 'slowed':
      return slowed(doc, timeline, wish, null)
  }
}

/** A boundary of picture and sound alike is one. */
const once = (boundaries: readonly CarriedBoundary[]): CarriedBoundary[] => [
  ...new Map(boundaries.map((boundary) => [`${boundary.frame} ${boundary.carried}`, boundary])).values(),
]

/** How many frames begin or end something. */
const boundariesOf = ({ tracks }: Timeline): number =>
  new Set(
    tracks.flatMap(({ placements }) =>
      placements.flatMap(({ start, length }: Placement) => [start, start + length]),
    ),
  ).size

/** The headroom that a charge tells of; 1 where nothing is reduced. */
const headroomIn = ({ toll }: Finding): number =>
  toll.charges.reduce((most, charge) => (charge.kind === 'reduce' ? charge.headroom : most), 1)

function headroomLost(pays: readonly PaysOtherwise[]): HeadroomLost[] {
  return pays
    .map(({ name, before, after }) => ({ name, before: headroomIn(before), after: headroomIn(after) }))
    .filter(({ before, after }) => after < before - 1e-9)
    .sort((a, b) => b.before / b.after - a.before / a.after)
}
