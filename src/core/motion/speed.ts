import type { Rate } from '../rate/rate'
import { type Rational, divide, toNumber } from '../rational/rational'

/** What playing every source frame once on a timeline of another rate does. */
export interface SpeedChange {
  /** T / S: 2/5 is 40 % speed. */
  readonly speed: Rational
  /** Running time is multiplied by this. */
  readonly stretch: Rational
  /** Semitones that sound is shifted by, unless it is corrected. */
  readonly pitch: number
}

/** Each source frame once: 60 in 24 is 40 % speed and 2.5 times as long. */
export function everyFrame(source: Rate, timeline: Rate): SpeedChange {
  const speed = divide(timeline, source)
  return { speed, stretch: divide(source, timeline), pitch: 12 * Math.log2(toNumber(speed)) }
}
