import { type Course, framesLeft, sourceTimeAfter, speedOf } from '../motion/shown'
import { type ClipTiming, countOf, endOfSteps, framesOf } from '../motion/timing'
import {
  type Rational,
  add,
  compare,
  divide,
  least,
  most,
  multiply,
  nearestRational,
  rational,
  subtract,
  toNumber,
} from '../rational/rational'
import type { Clip } from '../model/clip'
import { type Doc, formatOf } from '../model/project'
import { runningOf, settlePlacement, timingOfPlacement } from './running'
import { fileClock } from '../model/timing'
import { type Placement, type Timeline, deepestNesting } from '../model/timeline'

/** A stretch of a timeline on which a clip is heard. */
export interface Heard {
  /** On the timeline itself: of a placed timeline, that one. */
  readonly placementId: string
  readonly clip: Clip
  /** Seconds of the timeline, from its start. */
  readonly from: Rational
  readonly to: Rational
  /** The moment of the clip's file at `from`, in seconds from its first frame. */
  readonly sourceSeconds: Rational
  /** Seconds of the file for one of the timeline. */
  readonly speed: Rational
  /** Whether another speed leaves the pitch as it is. */
  readonly keepPitch: boolean
  /** Decibels. */
  readonly gain: number
  /** Which channels of the clip sound; null for all. */
  readonly channels: readonly number[] | null
}

/** A part of a placement in which its source passes evenly. */
interface Even {
  /** Frames of the timeline from the placement's first. */
  readonly from: number
  readonly to: number
  /** The moment of the source at `from`, in its file's seconds. */
  readonly source: Rational
  /** Seconds of the source for one of the timeline. */
  readonly speed: Rational
}

/** All that is heard on a timeline, of timelines that are placed on its tracks of sound too: cut off, sped and louder as they are. */
export const heardIn = (doc: Doc, timeline: Timeline, depth = 0): Heard[] =>
  timeline.tracks
    .filter(({ kind, muted }) => kind === 'audio' && !muted)
    .flatMap(({ placements }) => placements.flatMap((placement) => heardOf(doc, timeline, placement, depth)))

/** What is heard of a placement on a track of sound. */
export function heardOf(doc: Doc, timeline: Timeline, placement: Placement, depth = 0): Heard[] {
  const { rate } = timeline
  if (!rate) return []
  const { source, id, start, gain, channels } = placement
  const { motion } = settlePlacement(doc, timeline, placement, formatOf(doc, timeline)).treatment
  const keepPitch = motion.kind === 'speed' && motion.keepPitch
  const at = (frame: number) => divide(rational(start + frame), rate)
  const clip = source.kind === 'clip' ? doc.clips[source.clipId] : undefined
  const inner = source.kind === 'timeline' ? doc.timelines[source.timelineId] : undefined
  return evenParts(doc, timeline, placement, rate).flatMap(({ from, to, source: begins, speed }): Heard[] => {
    const part = { from: at(from), to: at(to), speed }
    if (clip) {
      // A correction of the rate leaves the pitch no more than any other speed does.
      return [{ ...part, placementId: id, clip, sourceSeconds: begins, keepPitch, gain, channels }]
    }
    return inner && depth < deepestNesting
      ? within(doc, inner, placement, { ...part, begins, keepPitch }, depth)
      : []
  })
}

/** What is heard of a placed timeline, from a moment of it on. */
function within(
  doc: Doc,
  inner: Timeline,
  { id, gain }: Placement,
  at: Pick<Heard, 'from' | 'to' | 'speed' | 'keepPitch'> & { readonly begins: Rational },
  depth: number,
): Heard[] {
  /** When a moment of the inner timeline is heard on the outer one. */
  const outside = (seconds: Rational) => add(at.from, divide(subtract(seconds, at.begins), at.speed))
  return heardIn(doc, inner, depth + 1).flatMap((heard): Heard[] => {
    const from = most(at.from, outside(heard.from))
    const to = least(at.to, outside(heard.to))
    if (compare(to, from) <= 0) return []
    const cutOff = multiply(subtract(from, outside(heard.from)), at.speed)
    return [
      {
        ...heard,
        placementId: id,
        from,
        to,
        sourceSeconds: add(heard.sourceSeconds, multiply(cutOff, heard.speed)),
        speed: multiply(heard.speed, at.speed),
        keepPitch: heard.keepPitch || at.keepPitch,
        gain: heard.gain + gain,
      },
    ]
  })
}

/**
 * A placement in parts in which its file passes evenly: one, but where frames of unequal length are counted. Sound follows these within
 * a quarter of a frame, without a break.
 */
function evenParts(doc: Doc, timeline: Timeline, placement: Placement, rate: Rational): Even[] {
  const { source, sourceIn, length } = placement
  const course = runningOf(doc, timeline, placement)
  const timing = timingOfPlacement(doc, placement)
  const clip = source.kind === 'clip' ? doc.clips[source.clipId] : undefined
  const clock = clip ? fileClock(clip) : null
  const factor = clock ? clock.factor : rational(1)
  const passesEvenly = course.way.passing.kind === 'in-time' || framesOf(timing).kind !== 'listed'
  if (passesEvenly && factor)
    return [
      {
        from: 0,
        to: length,
        source: multiply(sourceIn, factor),
        speed: multiply(speedOf(course.way, timing, rate), factor),
      },
    ]
  const inFile = (frame: number): Rational => {
    const moment = sourceTimeAfter(course, timing, rate, frame)
    return clock ? clock.inFile(moment) : moment
  }
  return followed(inFile, length, lengthOfSource(course, timing, rate, length), frameIn(timing) / 4, rate)
}

/** So many of its frames have something of the source to follow. */
const lengthOfSource = (course: Course, timing: ClipTiming, rate: Rational, length: number): number =>
  Math.min(length, framesLeft(course, timing, rate) ?? length)

/** How long a frame of a source is on, in the mean, in seconds. */
function frameIn(timing: ClipTiming): number {
  const steps = framesOf(timing)
  const end = endOfSteps(steps)
  return end ? toNumber(end) / countOf(steps) : 1
}

/**
 * Lines, each beginning where the one before it ends, that stay within a tolerance of the moments at all frames: each as long as
 * some line does (a funnel of slopes that narrows until it is shut).
 */
function followed(
  moment: (frame: number) => Rational,
  length: number,
  known: number,
  tolerance: number,
  rate: Rational,
): Even[] {
  const parts: Even[] = []
  let from = 0
  let source = moment(0)
  while (from < known) {
    const base = toNumber(source)
    let [low, high, to] = [0, Infinity, from]
    for (let frame = from + 1; frame <= known; frame++) {
      const rise = toNumber(moment(frame)) - base
      const [least, greatest] = [(rise - tolerance) / (frame - from), (rise + tolerance) / (frame - from)]
      if (least > high || greatest < low) break
      ;[low, high, to] = [Math.max(low, least), Math.min(high, greatest), frame]
    }
    to = Math.max(to, from + 1)
    const straight = divide(subtract(moment(to), source), rational(to - from))
    const slope =
      toNumber(straight) >= low && toNumber(straight) <= high && straight.num > 0
        ? straight
        : nearestRational(Number.isFinite(high) ? (low + high) / 2 : low, 1e-12)
    parts.push({ from, to: to === known ? length : to, source, speed: multiply(slope, rate) })
    source = add(source, multiply(slope, rational(to - from)))
    from = to
  }
  return parts
}
