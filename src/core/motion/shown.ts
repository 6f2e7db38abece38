import { type FieldOrder, type Parity, firstParity, otherParity } from '../picture/scan'
import type { Rate } from '../rate/rate'
import { type Rational, add, divide, floor, multiply, rational, subtract } from '../rational/rational'
import type { FieldMethod } from '../treatment/treatment'
import type { Run } from '../treatment/run'
import { filmFrame, pulldownFrame } from './pulldown'
import {
  type ClipTiming,
  type Steps,
  countOf,
  endOfSteps,
  fieldsOf,
  framesOf,
  mixtureAt,
  positionAt,
  stepAt,
  stepOf,
  timeAt,
  timeOf,
} from './timing'

/** A field of a source frame. */
export interface SourceField {
  readonly frame: number
  readonly parity: Parity
}

export interface ShownFrame {
  readonly kind: 'frame'
  readonly index: number
}
/** One field made whole; `blend` averages it with the other. */
export interface ShownField extends SourceField {
  readonly kind: 'field'
  readonly method: FieldMethod | 'blend'
}

/** What of its source a frame of the timeline shows. Frames count from the first of the clip. */
export type Shown =
  | ShownFrame
  | ShownField
  | {
      readonly kind: 'mix'
      readonly a: ShownFrame | ShownField
      readonly b: ShownFrame | ShownField
      readonly weightOfB: number
    }
  /** The lines of the top and of the bottom field, each from a field of the source. */
  | { readonly kind: 'fields'; readonly top: SourceField; readonly bottom: SourceField }
  /** A gap, or past the end. */
  | { readonly kind: 'nothing' }

/** The source frames that are seen in what is shown. */
export function framesShown(shown: Shown): number[] {
  switch (shown.kind) {
    case 'frame':
      return [shown.index]
    case 'field':
      return [shown.frame]
    case 'mix':
      return [...framesShown(shown.a), ...framesShown(shown.b)]
    case 'fields':
      return [shown.top.frame, shown.bottom.frame]
    case 'nothing':
      return []
  }
}

/** What of a placement decides which frames it shows. */
export interface Running {
  /** Seconds into the source. */
  readonly sourceIn: Rational
  readonly way: Run
  /** Of the source. */
  readonly fieldOrder: FieldOrder | null
  /** Of an interlaced timeline; null where it is progressive. */
  readonly shownOrder: FieldOrder | null
}

const nothing: Shown = { kind: 'nothing' }
const frame = (index: number): ShownFrame => ({ kind: 'frame', index })

/**
 * What the n-th frame of a placement shows: the one place that says so. Exact, and anchored in the source's own time, so
 * that a placement cut in two shows what it showed.
 * @param n counted from the placement's first frame
 * @param rate of the timeline
 */
export function shownAt(running: Running, timing: ClipTiming, rate: Rate, n: number): Shown {
  if (timing.kind === 'still') return frame(0)
  const { taking } = running.way
  switch (taking.kind) {
    case 'frames': {
      const steps = framesOf(timing)
      return taking.mixed
        ? mixed(steps, momentOf(running, steps, rate, n, middleOfFrame), frame)
        : maybe(stepOn(running, steps, rate, n, { within: middleOfFrame }), frame)
    }
    case 'deinterlaced': {
      const { method, keep } = taking
      const first = firstParity(running.fieldOrder)
      const field = (index: number, parity: Parity): ShownField => ({
        kind: 'field',
        frame: index,
        parity,
        method,
      })
      const [steps, showStep]: [Steps, (step: number) => ShownField] =
        keep === 'each'
          ? [fieldsOf(timing), (step) => field(step >> 1, step % 2 === 0 ? first : otherParity(first))]
          : [framesOf(timing), (step) => field(step, keep === 'first' ? first : otherParity(first))]
      return taking.mixed
        ? mixed(steps, momentOf(running, steps, rate, n, middleOfFrame), showStep)
        : maybe(stepOn(running, steps, rate, n, { within: middleOfFrame }), showStep)
    }
    case 'fields':
      return inFields(running, timing, rate, n, taking.outOf)
    case 'pulldown':
    case 'remove-pulldown':
      return pulled(running, timing, rate, n)
  }
}

const maybe = (step: number | null, showStep: (step: number) => Shown): Shown =>
  step === null ? nothing : showStep(step)

/** The moment within a frame of the timeline that it shows, as a share of it. */
const middleOfFrame = rational(1, 2)

/** The moment of the source that a frame of the timeline shows, in seconds. */
function momentOf(
  { sourceIn, way }: Running,
  steps: Steps,
  rate: Rate,
  n: number,
  within: Rational,
): Rational {
  const count = add(rational(n), within)
  return way.passing.kind === 'in-time'
    ? add(sourceIn, divide(multiply(count, way.passing.factor), rate))
    : timeAt(steps, add(positionAt(steps, sourceIn), count))
}

/** @param perFrame how many steps one frame of the timeline takes up where they are counted */
function stepOn(
  running: Running,
  steps: Steps,
  rate: Rate,
  n: number,
  { within, perFrame = 1 }: { readonly within: Rational; readonly perFrame?: 1 | 2 },
): number | null {
  if (running.way.passing.kind === 'in-time') return stepAt(steps, momentOf(running, steps, rate, n, within))
  // Counted, not timed: steps of unequal length take one frame each.
  const count = multiply(add(rational(n), within), rational(perFrame))
  return stepOf(add(positionAt(steps, running.sourceIn), count), countOf(steps))
}

function mixed(steps: Steps, moment: Rational, showStep: (step: number) => ShownFrame | ShownField): Shown {
  const mixture = mixtureAt(steps, moment)
  if (!mixture) return nothing
  const { a, b, weightOfB } = mixture
  return weightOfB === 0 ? showStep(a) : { kind: 'mix', a: showStep(a), b: showStep(b), weightOfB }
}

/** Each field of the timeline's frame at its own moment. */
function inFields(
  running: Running,
  timing: ClipTiming,
  rate: Rate,
  n: number,
  outOf: 'frames' | 'fields',
): Shown {
  const { steps, perFrame } = countingOf(running.way, timing)
  const at = (within: Rational) => stepOn(running, steps, rate, n, { within, perFrame })
  const [first, second] = [at(rational(1, 4)), at(rational(3, 4))]
  if (first === null) return nothing
  const shownFirst = firstParity(running.shownOrder)
  const sourceFirst = firstParity(running.fieldOrder)
  const fieldOf = (step: number, parity: Parity): SourceField =>
    outOf === 'frames'
      ? { frame: step, parity }
      : { frame: step >> 1, parity: step % 2 === 0 ? sourceFirst : otherParity(sourceFirst) }
  // A clip that ends within the frame stands to its end.
  return paired(shownFirst, fieldOf(first, shownFirst), fieldOf(second ?? first, otherParity(shownFirst)))
}

/** A pair of fields in the order shown; both of one frame, where they belong there, are that frame. */
function paired(shownFirst: Parity, first: SourceField, second: SourceField): Shown {
  const [top, bottom] = shownFirst === 'top' ? [first, second] : [second, first]
  const whole = top.frame === bottom.frame && top.parity !== bottom.parity
  return whole ? frame(top.frame) : { kind: 'fields', top, bottom }
}

/** A clip read as another at 5/4 or 4/5 of its rate, whose frames land as they do. */
function pulled(running: Running, timing: ClipTiming, rate: Rate, n: number): Shown {
  const steps = framesOf(timing)
  const moment = momentOf(running, steps, rate, n, middleOfFrame)
  const last = countOf(steps) - 1
  if (stepAt(steps, moment) === null) return nothing
  const { taking } = running.way
  const held = (index: number) => Math.max(0, Math.min(last, index))
  if (taking.kind === 'pulldown') {
    const m = floor(multiply(positionAt(steps, moment), rational(5, 4)))
    const pair = pulldownFrame(m, taking.phase)
    const shownFirst = firstParity(running.shownOrder)
    return paired(
      shownFirst,
      { frame: held(pair.first), parity: shownFirst },
      { frame: held(pair.second), parity: otherParity(shownFirst) },
    )
  }
  if (taking.kind !== 'remove-pulldown') return nothing
  const m = floor(multiply(positionAt(steps, moment), rational(4, 5)))
  const pair = filmFrame(m, taking.phase)
  const first = firstParity(running.fieldOrder)
  // A film frame of which only one field lies within the clip is made whole out of it.
  const there = (index: number) => index >= 0 && index <= last
  const alone =
    there(pair.first) !== there(pair.second)
      ? there(pair.first)
        ? { frame: pair.first, field: 'first' }
        : { frame: pair.second, field: 'second' }
      : there(pair.first)
        ? null
        : pair.third
  if (alone && there(alone.frame)) {
    const parity = alone.field === 'first' ? first : otherParity(first)
    return { kind: 'field', frame: alone.frame, parity, method: 'interpolate' }
  }
  return paired(
    first,
    { frame: held(pair.first), parity: first },
    { frame: held(pair.second), parity: otherParity(first) },
  )
}

/**
 * What a way counts where it goes step by step: frames, or fields where each is shown by itself, and how many of them pass in a
 * frame of the timeline. On the fields of an interlaced timeline there is room for two.
 */
function countingOf(
  { taking }: Run,
  timing: ClipTiming,
): { readonly steps: Steps; readonly perFrame: 1 | 2 } {
  switch (taking.kind) {
    case 'deinterlaced':
      return { steps: taking.keep === 'each' ? fieldsOf(timing) : framesOf(timing), perFrame: 1 }
    case 'fields':
      return { steps: taking.outOf === 'fields' ? fieldsOf(timing) : framesOf(timing), perFrame: 2 }
    default:
      return { steps: framesOf(timing), perFrame: 1 }
  }
}

/** What of a placement decides how its source passes. */
export type Course = Pick<Running, 'sourceIn' | 'way'>

/**
 * Seconds of the source that pass in one of the timeline: the speed of all that shows or sounds this way. Steps that are counted and
 * listed unevenly pass at their mean.
 */
export function speedOf(way: Run, timing: ClipTiming, rate: Rate): Rational {
  if (way.passing.kind === 'in-time') return way.passing.factor
  const { steps, perFrame } = countingOf(way, timing)
  const end = endOfSteps(steps)
  if (end === null) return rational(1)
  const lasting = divide(rational(countOf(steps), perFrame), rate)
  return divide(end, lasting)
}

/** The same over so many frames of a placement: exact where its steps are listed, too. */
export function speedOver(course: Course, timing: ClipTiming, rate: Rate, frames: number): Rational {
  if (course.way.passing.kind === 'in-time' || framesOf(timing).kind !== 'listed')
    return speedOf(course.way, timing, rate)
  const passed = subtract(sourceTimeAfter(course, timing, rate, frames), course.sourceIn)
  return passed.num > 0 ? multiply(passed, divide(rate, rational(frames))) : speedOf(course.way, timing, rate)
}

/** The moment of the source at which a placement stands after so many frames: where a cut there begins. */
export const sourceTimeAfter = (course: Course, timing: ClipTiming, rate: Rate, frames: number): Rational =>
  sourceTimeAt(course, timing, rate, rational(frames))

/** The same after any time, told in frames of the timeline and parts of them. */
export function sourceTimeAt(
  { sourceIn, way }: Course,
  timing: ClipTiming,
  rate: Rate,
  frames: Rational,
): Rational {
  if (timing.kind === 'still') return sourceIn
  if (way.passing.kind === 'in-time') return add(sourceIn, divide(multiply(frames, way.passing.factor), rate))
  const { steps, perFrame } = countingOf(way, timing)
  return timeAt(steps, add(positionAt(steps, sourceIn), multiply(frames, rational(perFrame))))
}

/**
 * How many frames of a timeline a placement has to show from its in-point on, at least one; the last may begin within half a
 * frame of the end. Null for a still, which never ends.
 */
export function framesLeft({ sourceIn, way }: Course, timing: ClipTiming, rate: Rate): number | null {
  if (timing.kind === 'still') return null
  const { steps, perFrame } = countingOf(way, timing)
  const left =
    way.passing.kind === 'in-time'
      ? divide(multiply(subtract(timeOf(steps, countOf(steps)), sourceIn), rate), way.passing.factor)
      : divide(subtract(rational(countOf(steps)), positionAt(steps, sourceIn)), rational(perFrame))
  return Math.max(1, floor(add(left, rational(1, 2))))
}

/** How many whole frames of a timeline lie in the source before a placement's in-point. Null for a still, which has no beginning. */
export function framesBefore({ sourceIn, way }: Course, timing: ClipTiming, rate: Rate): number | null {
  if (timing.kind === 'still') return null
  const { steps, perFrame } = countingOf(way, timing)
  const before =
    way.passing.kind === 'in-time'
      ? divide(multiply(sourceIn, rate), way.passing.factor)
      : divide(positionAt(steps, sourceIn), rational(perFrame))
  return Math.max(0, floor(before))
}
