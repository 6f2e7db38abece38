import type { Rate } from '../rate/rate'
import { divide } from '../rational/rational'

/** Two neighbouring source frames, and how much of the second is mixed in (0 … 1). */
export interface Mixture {
  readonly frame: number
  readonly weight: number
}

/** The mixture that timeline frame `n` shows: x = (n + ½)·S/T − ½, its whole part and its fraction. */
export function mixtureAt(n: number, source: Rate, timeline: Rate): Mixture {
  const { num: Q, den: P } = divide(source, timeline)
  // x = ((2n + 1)·Q − P) / 2P, whole periods split off so that numbers stay exact.
  const period = Math.floor(n / P)
  const numerator = (2 * (n - period * P) + 1) * Q - P
  const whole = Math.floor(numerator / (2 * P))
  return { frame: period * Q + whole, weight: (numerator - whole * 2 * P) / (2 * P) }
}

/** Weights closer to 0 or 1 than this are seen as one frame alone. */
const alone = 0.02

/** Share of timeline frames that show two source frames at once, over one period. */
export function mixedShare(source: Rate, timeline: Rate): number {
  const { den: P } = divide(source, timeline)
  let mixed = 0
  for (let n = 0; n < P; n++) {
    const { weight } = mixtureAt(n, source, timeline)
    if (weight >= alone && weight <= 1 - alone) mixed++
  }
  return mixed / P
}
