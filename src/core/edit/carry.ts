import { type Rational, equal, multiply, rational, roundHalfUp } from '../rational/rational'
import type { Rate } from '../rate/rate'
import type { Placement } from './project'

/** The frame at rate `to` that lies at the time of frame `f` at rate `from`, rounded half up. */
export const carryFrame = (f: number, from: Rate, to: Rate): number =>
  roundHalfUp(multiply(rational(f), multiply(to, rational(from.den, from.num))))

/** How far a carried boundary lies from its time, in milliseconds; later is positive. */
export function driftMs(f: number, from: Rate, to: Rate): number {
  return 1000 * ((carryFrame(f, from, to) * to.den) / to.num - (f * from.den) / from.num)
}

/**
 * Carries placements to another rate. Boundaries are rounded, not lengths: butt cuts stay butted, nothing overlaps,
 * and no placement gets shorter than a frame. In-points stay in source time.
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

/** How many frames of a timeline a time in the source lasts, at least one; halves upwards. */
export const framesOf = (seconds: Rational, rate: Rate): number =>
  Math.max(1, roundHalfUp(multiply(seconds, rate)))
