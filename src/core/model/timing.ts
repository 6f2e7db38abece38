import { type ClipTiming, endOfSteps, framesOf, positionAt, timeAt } from '../motion/timing'
import {
  type Rational,
  add,
  divide,
  floor,
  multiply,
  nearestRational,
  rational,
  subtract,
  toNumber,
} from '../rational/rational'
import { type Rate } from '../rate/rate'
import { storedFrame, trueFrame } from '../reading/correct'
import type { Reading } from '../reading/reading'
import { type Clip, claimsOf } from './clip'

/** A clip whose rate nobody knows is taken at this one until its frames are walked. */
const assumedRate: Rate = rational(25)

/** When the frames of a clip are on screen, as it is corrected. Sound counts frames of no picture: its duration is all there is. */
export function timingOf(clip: Clip): ClipTiming {
  const { corrections, frameTimes, reading } = clip
  if (reading?.kind === 'still') return { kind: 'still' }
  const asClaimed = !corrections.rate && !corrections.repeatsOut
  if (asClaimed && frameTimes) return { kind: 'table', times: frameTimes }
  return reading ? timingOfReading(reading) : { kind: 'still' }
}

/** When the frames of a clip's file are on screen, whatever was corrected: what a decoder goes by. */
export function storedTimingOf(clip: Clip): ClipTiming {
  const claims = claimsOf(clip)
  if (!claims || claims.kind === 'still') return { kind: 'still' }
  return clip.frameTimes ? { kind: 'table', times: clip.frameTimes } : timingOfReading(claims)
}

/** When the frames of a clip are on screen, as far as its reading alone tells. */
export function timingOfReading({ video, durationSec }: Reading): ClipTiming {
  const rate = video?.rate ?? assumedRate
  const reckoned = Math.max(1, Math.round((durationSec ?? 0) * toNumber(rate)))
  const count = video?.frameCount ?? reckoned
  return video?.rate && video.rateMode !== 'variable'
    ? { kind: 'constant', rate, count: Math.max(1, count), counted: video.frameCount !== null }
    : { kind: 'to-walk', rate, count: Math.max(1, count) }
}

/** Whether the frames of a clip have to be walked before it is known which one is on when. */
export const hasToBeWalked = (clip: Clip): boolean =>
  !clip.fault &&
  clip.parts.length === 0 &&
  storedTimingOf(clip).kind === 'to-walk' &&
  Boolean(clip.reading?.video)

/** The index in the file of a frame of the clip as corrected: another where repeats are taken out. */
export const storedIndexOf = ({ corrections: { repeatsOut } }: Clip, index: number): number =>
  repeatsOut ? storedFrame(repeatsOut, index) : index

/** A still stays for five seconds unless told otherwise. */
export const stillSeconds = rational(5)

/** How long a clip lasts, exact where its frames are counted or listed. */
export function exactDuration(clip: Clip): Rational {
  const { reading } = clip
  if (!reading || reading.kind === 'still') return stillSeconds
  const timing = timingOf(clip)
  if (timing.kind === 'table') {
    const { end, clock } = timing.times
    return divide(rational(end), clock)
  }
  if (timing.kind === 'constant' && timing.counted)
    return rational(timing.count * timing.rate.den, timing.rate.num)
  return nearestRational(reading.durationSec ?? 0, 1e-6)
}

/** Moments of a clip as corrected in its file, and back; both count seconds from the first frame of the picture. */
export interface FileClock {
  /** So many seconds of the file pass in one of the clip; null where that is another from frame to frame. */
  readonly factor: Rational | null
  inFile(time: Rational): Rational
  inClip(time: Rational): Rational
}

const evenClock = (factor: Rational): FileClock => ({
  factor,
  inFile: (time) => multiply(time, factor),
  inClip: (time) => divide(time, factor),
})

/** Where moments of a clip as corrected lie in its file: what a corrected rate does to its frames it does to its sound. */
export function fileClock(clip: Clip): FileClock {
  const { rate, repeatsOut } = clip.corrections
  const claimed = claimsOf(clip)
  if ((!rate && !repeatsOut) || claimed?.kind !== 'video' || !claimed.video?.rate)
    return evenClock(rational(1))
  const [stored, steps] = [framesOf(storedTimingOf(clip)), framesOf(timingOf(clip))]
  if (!repeatsOut && stored.kind === 'even' && steps.kind === 'even')
    return evenClock(divide(steps.rate, stored.rate))
  return {
    factor: null,
    inFile(time) {
      const position = positionAt(steps, time)
      const frame = floor(position)
      const index = storedIndexOf(clip, frame)
      const lasts = rational(storedIndexOf(clip, frame + 1) - index)
      return timeAt(stored, add(rational(index), multiply(subtract(position, rational(frame)), lasts)))
    },
    inClip(time) {
      const position = positionAt(stored, time)
      const frame = repeatsOut ? trueFrame(repeatsOut, Math.max(0, floor(position))) : floor(position)
      const index = storedIndexOf(clip, frame)
      const lasts = rational(storedIndexOf(clip, frame + 1) - index)
      return timeAt(steps, add(rational(frame), divide(subtract(position, rational(index)), lasts)))
    },
  }
}

/** How long the files of a clip last, whatever was corrected, in seconds. */
export function secondsInFile(clip: Clip): number {
  const end = endOfSteps(framesOf(storedTimingOf(clip)))
  const claimed = claimsOf(clip)
  return claimed?.kind === 'video' && claimed.video?.rate && end
    ? Math.max(toNumber(end), claimed.durationSec ?? 0)
    : (claimed?.durationSec ?? 0)
}
