import type { Rate } from '../rate/rate'
import { divide, gcd } from '../rational/rational'

/** Weights closer to 0 or 1 than this are seen as one frame alone. */
const alone = 0.02

/**
 * Share of timeline frames that show two source frames at once when a rate is blended on another: those whose weight lies in
 * [0.02, 0.98]. In closed form: with S/T = Q/P, weights are ((2n + 1)·Q − P mod 2P) / 2P, which over a period take every value
 * of one residue class.
 */
export function mixedShare(source: Rate, timeline: Rate): number {
  const { num: Q, den: P } = divide(source, timeline)
  // Steps of 2Q modulo 2P visit all numbers that leave the first one's rest, each equally often.
  const step = gcd(2 * Q, 2 * P)
  const first = (((Q - P) % step) + step) % step
  const count = (2 * P) / step
  const least = Math.ceil((alone * 2 * P - first) / step - 1e-9)
  const most = Math.floor(((1 - alone) * 2 * P - first) / step + 1e-9)
  return Math.max(0, Math.min(count - 1, most) - Math.max(0, least) + 1) / count
}
