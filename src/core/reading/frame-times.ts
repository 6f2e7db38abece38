import * as z from 'zod'
import { Rational } from '../rational/rational'

/** More frames than a day at 120 a second are not listed. */
export const mostListed = 12_000_000

const Ticks = z.number().int().nonnegative().max(Number.MAX_SAFE_INTEGER)

/**
 * When each frame of a variable clip comes on, from its first frame on, and when the last one ends; in ticks of a clock.
 * In presentation order, no two at once.
 */
export const FrameTimes = z
  .object({
    /** Ticks a second. */
    clock: Rational.refine(({ num }) => num > 0, { error: 'a clock ticks' }),
    presentationTimes: z.array(Ticks).min(1).max(mostListed).readonly(),
    end: Ticks,
  })
  .readonly()
  .refine(({ presentationTimes: [first], end }) => first === 0 && end > 0, {
    error: 'frame times begin at 0 and end later',
  })
  .refine(
    ({ presentationTimes, end }) =>
      presentationTimes.every((time, i) => time < (presentationTimes[i + 1] ?? end)),
    { error: 'frame times rise' },
  )
export type FrameTimes = z.infer<typeof FrameTimes>

/**
 * Frame times out of what a wrapper lists, in any order and from any start.
 * @param end when the last frame ends, where that is known; else it lasts as long as the one before
 * @returns null where there are none, or two frames come on at once
 */
export function frameTimesFrom(
  listed: ArrayLike<number>,
  clock: Rational,
  end: number | null,
): FrameTimes | null {
  if (listed.length === 0 || listed.length > mostListed) return null
  const sorted = Float64Array.from(listed).sort()
  const first = sorted[0] ?? 0
  const times: number[] = new Array<number>(sorted.length)
  for (let i = 0; i < sorted.length; i++) {
    const time = (sorted[i] ?? 0) - first
    if (!Number.isSafeInteger(time) || (i > 0 && time <= (times[i - 1] ?? 0))) return null
    times[i] = time
  }
  const last = times[times.length - 1] ?? 0
  const before = times[times.length - 2] ?? last - 1
  const ends = end !== null && end - first > last ? end - first : last + Math.max(1, last - before)
  return Number.isSafeInteger(ends) ? { clock, presentationTimes: times, end: ends } : null
}
