import type { FrameTimes } from '../reading/frame-times'
import type { Rate } from '../rate/rate'
import {
  type Rational,
  add,
  compare,
  divide,
  floor,
  multiply,
  rational,
  subtract,
  toNumber,
} from '../rational/rational'

/** When the frames of a clip are on screen, by its own clock, its first frame at 0. */
export type ClipTiming =
  /** One frame, always on. */
  | { readonly kind: 'still' }
  /** `counted` is false where the count is reckoned from the duration. */
  | { readonly kind: 'constant'; readonly rate: Rate; readonly count: number; readonly counted: boolean }
  | { readonly kind: 'table'; readonly times: FrameTimes }
  /** A variable clip whose wrapper does not list its frames in one place; until they are walked, its nominal rate stands. */
  | { readonly kind: 'to-walk'; readonly rate: Rate; readonly count: number }

/** What is shown one after the other, frames or fields: evenly, or at listed times. */
export type Steps =
  | { readonly kind: 'still' }
  | { readonly kind: 'even'; readonly rate: Rate; readonly count: number }
  | {
      readonly kind: 'listed'
      readonly clock: Rational
      readonly times: ArrayLike<number>
      readonly end: number
    }

/** The frames of a clip as steps. */
export function framesOf(timing: ClipTiming): Steps {
  switch (timing.kind) {
    case 'still':
      return timing
    case 'table':
      return {
        kind: 'listed',
        clock: timing.times.clock,
        times: timing.times.presentationTimes,
        end: timing.times.end,
      }
    default:
      return { kind: 'even', rate: timing.rate, count: timing.count }
  }
}

/** Lists of fields once made: they are as long as a clip has fields. */
const listedFields = new WeakMap<FrameTimes, Steps>()

/** The fields of an interlaced clip as steps: two a frame, the second in the middle of it. */
export function fieldsOf(timing: ClipTiming): Steps {
  switch (timing.kind) {
    case 'still':
      return timing
    case 'table': {
      const { times } = timing
      let fields = listedFields.get(times)
      if (!fields) listedFields.set(times, (fields = withMiddles(times)))
      return fields
    }
    default:
      return { kind: 'even', rate: rational(timing.rate.num * 2, timing.rate.den), count: timing.count * 2 }
  }
}

function withMiddles({ clock, presentationTimes, end }: FrameTimes): Steps {
  const times = new Float64Array(presentationTimes.length * 2)
  presentationTimes.forEach((time, i) => {
    times[2 * i] = 2 * time
    times[2 * i + 1] = time + (presentationTimes[i + 1] ?? end)
  })
  return { kind: 'listed', clock: multiply(clock, rational(2)), times, end: 2 * end }
}

/** How many steps there are; a still has one that never ends. */
export const countOf = (steps: Steps): number =>
  steps.kind === 'still' ? 1 : steps.kind === 'even' ? steps.count : steps.times.length

/** When the last step ends, in seconds; null for a still. */
export const endOfSteps = (steps: Steps): Rational | null =>
  steps.kind === 'still'
    ? null
    : steps.kind === 'even'
      ? divide(rational(steps.count), steps.rate)
      : divide(rational(steps.end), steps.clock)

/**
 * The step that is on at a time. At the very end the last one still is.
 * @returns null before the first and beyond the end
 */
export function stepAt(steps: Steps, time: Rational): number | null {
  if (steps.kind === 'still') return 0
  if (time.num < 0) return null
  if (steps.kind === 'even') return stepOf(multiply(time, steps.rate), steps.count)
  const ticks = multiply(time, steps.clock)
  if (compare(ticks, rational(steps.end)) > 0) return null
  return lastNotAfter(steps.times, floor(ticks))
}

/** The step of a position among so many; the position at the end is on the last. */
export function stepOf(position: Rational, count: number): number | null {
  if (position.num < 0) return null
  const step = floor(position)
  if (step < count) return step
  return step === count && position.den === 1 && count > 0 ? count - 1 : null
}

/** The index of the last listed time that is not after a tick. Times rise. */
function lastNotAfter(times: ArrayLike<number>, tick: number): number {
  let [low, high] = [0, times.length - 1]
  while (low < high) {
    const middle = (low + high + 1) >> 1
    if ((times[middle] ?? Infinity) <= tick) low = middle
    else high = middle - 1
  }
  return low
}

/** When a step comes on, and when it goes, in ticks of a listed clock. */
const ticksOf = (steps: Extract<Steps, { kind: 'listed' }>, step: number): readonly [number, number] => [
  steps.times[step] ?? steps.end,
  steps.times[step + 1] ?? steps.end,
]

/** When a step comes on, in seconds. */
export function timeOf(steps: Steps, step: number): Rational {
  if (steps.kind === 'still') return rational(0)
  if (steps.kind === 'even') return divide(rational(step), steps.rate)
  return divide(rational(ticksOf(steps, step)[0]), steps.clock)
}

/** The step that comes on nearest to a time as decoders tell it, in seconds and perhaps rounded. */
export function stepNear(steps: Steps, seconds: number): number {
  if (steps.kind === 'still') return 0
  if (steps.kind === 'even')
    return Math.max(0, Math.min(steps.count - 1, Math.round(seconds * toNumber(steps.rate))))
  const ticks = seconds * toNumber(steps.clock)
  const before = lastNotAfter(steps.times, ticks)
  const [on, goes] = ticksOf(steps, before)
  return goes - ticks < ticks - on ? Math.min(steps.times.length - 1, before + 1) : before
}

/** The middle of the time that a step is on: where a decoder finds it for sure. */
export function middleOf(steps: Steps, step: number): Rational {
  if (steps.kind === 'still') return rational(0)
  if (steps.kind === 'even') return divide(rational(2 * step + 1, 2), steps.rate)
  const [from, to] = ticksOf(steps, step)
  return divide(rational(from + to, 2), steps.clock)
}

/** Where a time lies among the steps: whole steps, and the share of the one that is on. Beyond the end it goes on evenly. */
export function positionAt(steps: Steps, time: Rational): Rational {
  if (steps.kind === 'still') return rational(0)
  if (steps.kind === 'even') return multiply(time, steps.rate)
  const ticks = multiply(time, steps.clock)
  const step = lastNotAfter(steps.times, floor(ticks))
  const [from, to] = ticksOf(steps, step)
  return add(rational(step), divide(subtract(ticks, rational(from)), rational(to - from)))
}

/** The time at a position among the steps: the inverse of `positionAt`. */
export function timeAt(steps: Steps, position: Rational): Rational {
  if (steps.kind === 'still') return rational(0)
  if (steps.kind === 'even') return divide(position, steps.rate)
  const step = Math.max(0, Math.min(steps.times.length - 1, floor(position)))
  const [from, to] = ticksOf(steps, step)
  const within = multiply(subtract(position, rational(step)), rational(to - from))
  return divide(add(rational(from), within), steps.clock)
}

/** Two neighbouring steps, and how much of the second is seen (0 … 1). */
export interface Mixture {
  readonly a: number
  readonly b: number
  readonly weightOfB: number
}

/**
 * The mixture at a time, by the distance between the middles of steps; both ends are held.
 * @returns null beyond the end, as `stepAt`
 */
export function mixtureAt(steps: Steps, time: Rational): Mixture | null {
  const on = stepAt(steps, time)
  if (on === null) return null
  if (steps.kind === 'still') return { a: 0, b: 0, weightOfB: 0 }
  const last = countOf(steps) - 1
  const a = compare(time, middleOf(steps, on)) < 0 ? on - 1 : on
  if (a < 0) return { a: 0, b: 0, weightOfB: 0 }
  if (a >= last) return { a: last, b: last, weightOfB: 0 }
  const [before, after] = [middleOf(steps, a), middleOf(steps, a + 1)]
  const { num, den } = divide(subtract(time, before), subtract(after, before))
  return { a, b: a + 1, weightOfB: num / den }
}
