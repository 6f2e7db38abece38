import type { Rate } from '../rate/rate'
import { sourceFrameAt } from '../rate/cadence'
import { type Rational, add, divide, multiply, rational, toNumber } from '../rational/rational'

/** What of a source a timeline frame shows. */
export interface ShownFrame {
  /** Index of the source frame, from the first of the file; null for stills and unknown rates. */
  readonly frame: number | null
  /** A time in seconds well inside that frame, for a decoder. */
  readonly seconds: number
}

/**
 * The source frame that a placed clip shows on its n-th timeline frame, held as it lands: the frame that is on at the
 * middle of the timeline frame, counted from the in-point.
 */
export function shownFrame(n: number, source: Rate | null, timeline: Rate, sourceIn: Rational): ShownFrame {
  if (!source) {
    const middle = add(sourceIn, divide(rational(2 * n + 1), multiply(rational(2), timeline)))
    return { frame: null, seconds: toNumber(middle) }
  }
  const first = Math.floor(toNumber(multiply(sourceIn, source)) + 1e-9)
  const frame = first + sourceFrameAt(n, source, timeline)
  return { frame, seconds: ((frame + 0.5) * source.den) / source.num }
}
