import {
  type Rational,
  divide,
  equal,
  multiply,
  rational,
  roundHalfUp,
  subtract,
  toNumber,
} from '../rational/rational'
import type { Rate } from '../rate/rate'
import { canDropFrame, nominalRate, timecodeToFrame } from '../rate/timecode'
import type { Placement, Timeline } from '../model/timeline'

/** The frame at rate `to` that lies at the time of frame `f` at rate `from`, rounded half up. */
export const carryFrame = (f: number, from: Rate, to: Rate): number =>
  roundHalfUp(multiply(rational(f), divide(to, from)))

/** How far a frame of one rate lies from a frame of another, in milliseconds; later is positive. */
export const driftMs = (carried: number, to: Rate, f: number, from: Rate): number =>
  1000 * toNumber(subtract(divide(rational(carried), to), divide(rational(f), from)))

/**
 * Carries placements to another rate. Boundaries are rounded, not lengths: butt cuts stay butted, nothing overlaps,
 * and no placement gets shorter than a frame; what that pushes returns to its own frame as soon as there is room. In-points
 * stay in source time.
 * @param placements in order of their start
 */
export function carryPlacements(placements: readonly Placement[], from: Rate, to: Rate): Placement[] {
  if (equal(from, to)) return [...placements]
  let free = 0
  return placements.map((p) => {
    const start = Math.max(free, carryFrame(p.start, from, to))
    const end = Math.max(start + 1, carryFrame(p.start + p.length, from, to))
    free = end
    return { ...p, start, length: end - start }
  })
}

/** Where a boundary of the cut came to lie. */
export interface CarriedBoundary {
  readonly frame: number
  readonly carried: number
  /** Later is positive. */
  readonly driftMs: number
  /** Not on the frame nearest to its time, since a placement before it is kept at one frame. */
  readonly pushed: boolean
}

/** The boundaries of placements as they came out of being carried, each once, in order. */
export function carriedBoundaries(
  before: readonly Placement[],
  after: readonly Placement[],
  from: Rate,
  to: Rate,
): CarriedBoundary[] {
  const found = new Map<string, CarriedBoundary>()
  const add = (frame: number, carried: number) =>
    found.set(`${frame} ${carried}`, {
      frame,
      carried,
      driftMs: driftMs(carried, to, frame, from),
      pushed: carried !== carryFrame(frame, from, to),
    })
  before.forEach((p, i) => {
    const q = after[i]
    if (!q) return
    add(p.start, q.start)
    add(p.start + p.length, q.start + q.length)
  })
  return [...found.values()].sort((a, b) => a.frame - b.frame || a.carried - b.carried)
}

/** How many frames of a timeline a time in the source lasts, at least one; halves upwards. */
export const framesLasting = (seconds: Rational, rate: Rate): number =>
  Math.max(1, roundHalfUp(multiply(seconds, rate)))

/** What of a timeline counts its frames. */
type Counting = Pick<Timeline, 'startTimecode' | 'dropFrame'>

/**
 * The start timecode at another rate: its hours, minutes and seconds stay, its frames are carried by the rule of the cut. Frames are
 * dropped on where they were and can be (SMPTE ST 12-1); a number that is left out so gives way to the next that is not.
 * @param dropFrame whether numbers are left out where that can be; as it was where nothing is said
 */
export function carriedTimecode(
  { startTimecode, dropFrame: dropped }: Counting,
  from: Rate,
  to: Rate,
  dropFrame = dropped,
): Counting {
  const drops = dropFrame && canDropFrame(to)
  const [hours = '00', minutes = '00', seconds = '00', frames = '00'] = startTimecode.split(/[:;]/)
  const carried = Math.min(carryFrame(Number(frames), from, to), nominalRate(to) - 1)
  for (let frame = carried; ; frame++) {
    const start = `${hours}:${minutes}:${seconds}${drops ? ';' : ':'}${String(frame).padStart(2, '0')}`
    if (!drops || timecodeToFrame(start, to, true) !== null || frame >= nominalRate(to))
      return { startTimecode: start, dropFrame: drops }
  }
}
