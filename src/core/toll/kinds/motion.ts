import { type Cadence, cadence } from '../../rate/cadence'
import type { Picture } from '../../picture/picture'
import type { Rate } from '../../rate/rate'
import { type Rational, divide, equal, multiply, toNumber } from '../../rational/rational'
import type { Motion } from '../../treatment/treatment'
import type { Passing } from '../../treatment/run'
import {
  exactPercent,
  figure,
  milliseconds,
  oneIn,
  percent,
  speedWords,
  times,
  timesLonger,
} from '../../words/figures'
import { mixedShare } from '../../motion/mixed'
import { type Priced, gradeBy } from '../grade'
import type { Weights } from '../policy'
import type { WordsOf } from '../words'

/** What a rate costs on another. */
export type MotionFigures =
  | { readonly kind: 'even-hold'; readonly times: number }
  | { readonly kind: 'even-skip'; readonly every: number }
  | { readonly kind: 'slip'; readonly seconds: number; readonly drops: boolean }
  | {
      readonly kind: 'uneven'
      readonly periodTimeline: number
      readonly periodSource: number
      readonly judderMs: number
    }
  | { readonly kind: 'pulldown' }
  | { readonly kind: 'remove-pulldown'; readonly measured: boolean }
  | { readonly kind: 'blend'; readonly share: number }
  | { readonly kind: 'speed'; readonly speed: number }
  | {
      readonly kind: 'variable-rate'
      readonly share: number
      readonly minRate: number | null
      readonly maxRate: number | null
    }
  | { readonly kind: 'pictures-left-out'; readonly share: number }

export type MotionCharge = MotionFigures & Priced

/** How source time passes under a treatment of motion, for steps of a rate on a timeline. */
export function passingOf(motion: Motion): Passing {
  if (motion.kind !== 'speed') return { kind: 'in-time', factor: { num: 1, den: 1 } }
  return motion.pace.kind === 'every-frame'
    ? { kind: 'step-by-step' }
    : { kind: 'in-time', factor: motion.pace.factor }
}

/**
 * What a rate costs on another: steps held as they land, mixed, or at another speed.
 * @param varies whether the clip's own motion is uneven already: a slip is not charged then, and unevenness counts half
 */
export function cadenceCharges(
  source: Rate,
  timeline: Rate,
  motion: Motion,
  weights: Weights,
  varies = false,
): MotionCharge[] {
  if (motion.kind === 'speed') {
    const { pace } = motion
    const speed = pace.kind === 'factor' ? pace.factor : divide(timeline, source)
    const played = pace.kind === 'factor' ? multiply(source, pace.factor) : timeline
    return [
      ...speedCharges(speed, motion.wanted, weights),
      ...cadenceCharges(played, timeline, { kind: 'hold' }, weights, varies),
    ]
  }
  if (equal(source, timeline)) return []
  const held = heldCharge(source, timeline, weights, varies)
  if (motion.kind !== 'blend') return held ? [held] : []
  const share = mixedShare(source, timeline)
  const uneven = held?.kind === 'uneven' ? held.loss / 2 : 0
  const loss = Math.min(1, uneven + weights.blend * share)
  return [{ kind: 'blend', share, grade: share > 0.1 ? 'heavy' : 'light', loss }]
}

function speedCharges(exact: Rational, wanted: boolean, weights: Weights): MotionCharge[] {
  const speed = toNumber(exact)
  if (speed === 1) return []
  // The pair of 1000 and 1001; two thirds of a semitone, which nobody hears.
  const isSlight = Math.abs(speed - 1) <= 0.0011
  const isNear = Math.abs(speed - 1) <= 0.043
  const loss = wanted ? 0 : isSlight ? weights.speedSlight : isNear ? weights.speedNear : weights.speed
  return [{ kind: 'speed', speed, grade: isNear || wanted ? 'light' : 'heavy', loss }]
}

/** What frames pay that are shown as they land; null where each is shown once. */
function heldCharge(source: Rate, timeline: Rate, weights: Weights, varies: boolean): MotionCharge | null {
  const S = toNumber(source)
  const T = toNumber(timeline)
  const c = cadence(source, timeline)
  const repeated = weights.repeat * Math.max(0, 1 - S / T)
  const skipped = weights.skip * Math.max(0, 1 - T / S)
  switch (c.kind) {
    case 'exact':
      return null
    case 'even-hold':
      return { kind: 'even-hold', times: c.periodTimeline, grade: 'light', loss: repeated }
    case 'even-skip':
      return { kind: 'even-skip', every: c.periodSource, grade: 'light', loss: skipped }
    case 'slip': {
      if (varies) return null
      const loss = weights.slip + Math.min(weights.slipMost, weights.slipPerMinute * 60 * Math.abs(T - S))
      return { kind: 'slip', seconds: slipSeconds(c), drops: S > T, grade: 'light', loss: Math.min(1, loss) }
    }
    case 'uneven': {
      const { periodTimeline, periodSource, judderMs } = c
      const judder = Math.min(weights.judderMost, weights.judderPerMs * judderMs)
      const loss = Math.min(1, judder + repeated + skipped) * (varies ? 0.5 : 1)
      return { kind: 'uneven', periodTimeline, periodSource, judderMs, grade: gradeBy(judderMs, 4, 10), loss }
    }
  }
}

const slipSeconds = ({ slipSeconds }: Cadence) => slipSeconds ?? Infinity

/** What a variable rate costs in itself, on any timeline. */
export function variableCharges(picture: Picture, weights: Weights): MotionCharge[] {
  const share = picture.offNominalShare
  if (share === null) return []
  const { minRate, maxRate } = picture
  const loss = Math.min(1, weights.variableRate + Math.min(weights.variableMost, share))
  return [{ kind: 'variable-rate', share, minRate, maxRate, grade: share <= 0.01 ? 'light' : 'heavy', loss }]
}

/** What numbered pictures cost that are missing or cannot be shown: the one before is shown again, on any timeline. */
export const leftOutCharges = ({ leftOutShare: share }: Picture, weights: Weights): MotionCharge[] =>
  share > 0 ? [{ kind: 'pictures-left-out', share, grade: 'heavy', loss: weights.repeat * share }] : []

function unevenPattern(P: number, Q: number): string {
  if (P > Q) {
    const hold = Math.floor(P / Q)
    return hold === 1
      ? `${oneIn(P - Q, Q)} shown twice`
      : `frames shown ${hold} and ${hold + 1} times in turn`
  }
  const step = Math.floor(Q / P)
  return step === 1 ? `${oneIn(Q - P, Q)} dropped` : `1 frame in ${step} or ${step + 1} shown`
}

export const motionWords: WordsOf<MotionFigures> = {
  'even-hold': {
    aspect: 'motion',
    sentence: ({ times: n }) => `every frame shown ${times(n)}, evenly`,
    short: ({ times: n }) => `each ${times(n)}`,
  },
  'even-skip': {
    aspect: 'motion',
    sentence: ({ every }) => `1 frame in ${every} shown, evenly`,
    short: ({ every }) => `1 frame in ${every}`,
  },
  slip: {
    aspect: 'motion',
    sentence: ({ drops, seconds }) =>
      `one frame ${drops ? 'dropped' : 'shown twice'} every ${figure(seconds)} s`,
    short: ({ seconds }) => `slips every ${figure(seconds, 0)} s`,
  },
  uneven: {
    aspect: 'motion',
    sentence: ({ periodTimeline, periodSource, judderMs }) =>
      `${unevenPattern(periodTimeline, periodSource)}, judder ${milliseconds(judderMs)}`,
    short: ({ judderMs }) => `uneven, ${milliseconds(judderMs)}`,
  },
  pulldown: {
    aspect: 'motion',
    sentence: () => '2:3 pulldown: every frame whole, in 2 and 3 fields in turn',
    short: () => '2:3 pulldown',
  },
  'remove-pulldown': {
    aspect: 'motion',
    sentence: ({ measured }) =>
      `2:3 pulldown removed: every film frame once${measured ? '' : ', at a phase that is not measured'}`,
    short: () => 'pulldown removed',
  },
  blend: {
    aspect: 'motion',
    sentence: ({ share }) => `two frames mixed in ${percent(share)} of the frames`,
    short: ({ share }) => `mixed ${percent(share)}`,
  },
  speed: {
    aspect: 'motion',
    sentence: ({ speed }) => `every frame once, ${speedWords(speed)}: running time × ${timesLonger(speed)}`,
    short: ({ speed }) => speedWords(speed),
  },
  'variable-rate': {
    aspect: 'motion',
    sentence({ minRate, maxRate, share }) {
      const range = minRate && maxRate ? ` (${figure(minRate)} to ${figure(maxRate)} a second)` : ''
      return `variable rate${range}: ${percent(share)} of the frames off by more than 10 %`
    },
    short: () => 'variable',
  },
  'pictures-left-out': {
    aspect: 'motion',
    sentence: ({ share }) =>
      `${exactPercent(share)} of the frames show the picture before: their own is missing`,
    short: () => 'pictures missing',
  },
}
