import { type Clip, claimsOf } from '../model/clip'
import { fileClock } from '../model/timing'
import { timecodeIn } from '../reading/reading'
import type { Rate } from '../rate/rate'
import { canDropFrame, frameToTimecode, framesOfDay, nominalRate, timecodeToFrame } from '../rate/timecode'
import { type Rational, add, divide, multiply, rational, roundHalfUp } from '../rational/rational'

/**
 * Labels of a source in a list of another rate: hours, minutes and seconds are those of the source, frames are counted within the second.
 * Written and read here, so that the one is the other backwards.
 */

/** How a source counts: its rate, whether numbers are dropped, and its first frame. A clip that states no start begins at 0. */
function countingOf(clip: Clip | null, rate: Rate) {
  const claims = clip && claimsOf(clip)
  const clock = claims?.video?.rate ?? rate
  const claimed = claims && timecodeIn(claims, clock)
  const dropFrame = claimed?.dropFrame ?? false
  return { clock, dropFrame, first: claimed ? (timecodeToFrame(claimed.start, clock, dropFrame) ?? 0) : 0 }
}

/** The moment of a clip's file at a moment of the clip; the same where it is no clip. */
export const inFile = (clip: Clip | null, seconds: Rational): Rational =>
  clip ? fileClock(clip).inFile(seconds) : seconds

/** The label of a clip at a moment of its file, in a list of a rate. */
export function labelAt(clip: Clip | null, seconds: Rational, rate: Rate): string {
  const { clock, dropFrame, first } = countingOf(clip, rate)
  const frame = roundHalfUp(add(rational(first), multiply(seconds, clock)))
  const [hours = '', minutes = '', secondsIn = '', frames = ''] = frameToTimecode(
    frame,
    clock,
    dropFrame,
  ).split(/[:;]/)
  const within = Math.floor((Number(frames) * nominalRate(rate)) / nominalRate(clock))
  return [hours, minutes, secondsIn, String(within).padStart(2, '0')].join(':')
}

/**
 * The moment of a clip that a label means, as `labelAt` writes it: the first frame of the source that has it.
 * @returns null where no label of the source is written so; a moment outside of the clip where it lies there
 */
export function momentOf(clip: Clip, label: string, rate: Rate): Rational | null {
  const { clock, dropFrame, first } = countingOf(clip, rate)
  const [hours = '', minutes = '', seconds = '', frames = ''] = label.split(/[:;.]/)
  const [from, to] = [nominalRate(rate), nominalRate(clock)]
  // Lists that count each source at its own rate say numbers that theirs has not.
  const within = Number(frames) >= from ? Number(frames) : Math.ceil((Number(frames) * to) / from)
  const at = (frame: number) =>
    timecodeToFrame(`${hours}:${minutes}:${seconds}:${String(frame).padStart(2, '0')}`, clock, dropFrame)
  // A number that drop-frame leaves out stands for the next that there is.
  let number = at(within)
  for (let next = within + 1; number === null && next < within + 5; next++) number = at(next)
  if (number === null) return null
  const day = framesOfDay(clock, dropFrame)
  let frame = number - first
  // A recording goes on beyond midnight.
  if (frame < -day / 2) frame += day
  const inFileSeconds = divide(rational(frame), clock)
  return frame < 0 ? inFileSeconds : fileClock(clip).inClip(inFileSeconds)
}

/** The number of the frame that a label of the list itself names; null where there is none at the rate. */
export const recordFrame = (label: string, rate: Rate, drops: boolean): number | null =>
  timecodeToFrame(label, rate, drops && canDropFrame(rate))

/** Why a label names no frame, in a few words. */
export function whyNoFrame(label: string, rate: Rate): string {
  const [, minutes = '', seconds = '', frames = ''] = label.split(/[:;.]/)
  if (Number(frames) >= nominalRate(rate))
    return `has a frame ${Number(frames)}, and a second has ${nominalRate(rate)}`
  if (Number(minutes) > 59 || Number(seconds) > 59) return 'is no time of a day'
  return 'is a number that drop-frame leaves out'
}
