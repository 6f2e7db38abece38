import { deepEqual } from '../equality'
import { type Course, sourceTimeAfter, speedOf } from '../motion/shown'
import { type ClipTiming, countOf, endOfSteps, framesOf } from '../motion/timing'
import { type Rational, compare, divide, equal, most, rational, subtract } from '../rational/rational'
import type { Override } from '../treatment/treatment'
import type { Doc } from '../model/project'
import { runningOf, timingOfPlacement } from './running'
import type { Placement, PlacementSource, Timeline } from '../model/timeline'

/** Whether a sound stands in its source where its picture does: what a link promises. */

export const sameSource = (a: PlacementSource, b: PlacementSource): boolean =>
  (a.kind === 'clip' && b.kind === 'clip' && a.clipId === b.clipId) ||
  (a.kind === 'timeline' && b.kind === 'timeline' && a.timelineId === b.timelineId)

/** What of a treatment decides how fast a placement runs. */
const paceOf = ({ motion, fields }: Override) => [motion ?? null, fields ?? null]

/** Whether a sound runs with a picture without anything to be worked out: both begin together, and are treated alike. */
export const plainlyInStep = (picture: Placement, sound: Placement): boolean =>
  sameSource(picture.source, sound.source) &&
  picture.start === sound.start &&
  equal(picture.sourceIn, sound.sourceIn) &&
  deepEqual(paceOf(picture.treatment), paceOf(sound.treatment))

/** Where a placement shares frames with another; how far apart they are where they share none, negative. */
export const overlap = (a: Placement, b: Placement): number =>
  Math.min(a.start + a.length, b.start + b.length) - Math.max(a.start, b.start)

/** How a placement runs, as far as its link is concerned. */
export interface TimedRunning extends Course {
  readonly timing: ClipTiming
  readonly rate: Rational
}

export function runningIn(doc: Doc, timeline: Timeline, placement: Placement): TimedRunning | null {
  return timeline.rate
    ? {
        ...runningOf(doc, timeline, placement),
        timing: timingOfPlacement(doc, placement),
        rate: timeline.rate,
      }
    : null
}

/** The moment of its source at which a picture stands, where a sound beside it begins. */
export function momentAt(doc: Doc, timeline: Timeline, picture: Placement, frame: number): Rational | null {
  const running = runningIn(doc, timeline, picture)
  return running && sourceTimeAfter(running, running.timing, running.rate, frame - picture.start)
}

/** A frame of the slower of timeline and source, in seconds: within it, a sound is in step. */
function slowerFrame(doc: Doc, timeline: Timeline, placement: Placement): Rational {
  const ofTimeline = timeline.rate ? divide(rational(1), timeline.rate) : rational(0)
  const steps = framesOf(timingOfPlacement(doc, placement))
  const end = endOfSteps(steps)
  return end ? most(ofTimeline, divide(end, rational(countOf(steps)))) : ofTimeline
}

export const magnitude = (r: Rational): Rational => (r.num < 0 ? { num: -r.num, den: r.den } : r)

/** How far a sound is ahead of its picture, in seconds of their source; null where they do not run as one. */
function aheadBy(doc: Doc, timeline: Timeline, picture: Placement, sound: Placement): Rational | null {
  const [pictureRun, other] = [runningIn(doc, timeline, picture), runningIn(doc, timeline, sound)]
  if (!pictureRun || !other || !sameSource(picture.source, sound.source)) return null
  const speed = ({ way, timing, rate }: TimedRunning) => speedOf(way, timing, rate)
  if (!equal(speed(pictureRun), speed(other)) || pictureRun.way.passing.kind !== other.way.passing.kind)
    return null
  return subtract(
    sound.sourceIn,
    sourceTimeAfter(pictureRun, pictureRun.timing, pictureRun.rate, sound.start - picture.start),
  )
}

/** Whether a sound stands in its source where its picture does, within a frame of the slower of timeline and source, at one speed. */
export function isInStep(doc: Doc, timeline: Timeline, picture: Placement, sound: Placement): boolean {
  if (plainlyInStep(picture, sound)) return true
  const ahead = aheadBy(doc, timeline, picture, sound)
  return ahead !== null && compare(magnitude(ahead), slowerFrame(doc, timeline, picture)) <= 0
}

/**
 * The same of what cannot be put right any more: a picture stands for as long as its frame, so that sound ahead of its moment would be more
 * than a frame ahead of what is seen.
 */
export function isHeardInStep(doc: Doc, timeline: Timeline, picture: Placement, sound: Placement): boolean {
  if (plainlyInStep(picture, sound)) return true
  const ahead = aheadBy(doc, timeline, picture, sound)
  return ahead !== null && ahead.num <= 0 && isInStep(doc, timeline, picture, sound)
}
