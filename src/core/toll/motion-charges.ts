import { cadence } from '../rate/cadence'
import { type Rate, doubled } from '../rate/rate'
import { equal, rational, toNumber } from '../rational/rational'
import type { Format } from '../format/format'
import type { Fit } from '../framing/framing'
import { mixedShare } from '../motion/blend'
import { type Charge, gradeBy, tollFrom } from './charge'
import type { Picture } from './picture'
import type { Weights } from './policy'
import type { Treatment } from './treatment'

/**
 * What a rate costs on another: frames held as they land, mixed, or all of them at another speed.
 * @param varies whether the clip's own motion is uneven already: a slip is not charged then, and unevenness counts half
 */
export function cadenceCharges(
  source: Rate,
  timeline: Rate,
  treatment: Treatment,
  weights: Weights,
  varies = false,
): Charge[] {
  if (equal(source, timeline)) return []
  if (treatment.motion === 'every-frame') return [speedCharge(source, timeline, treatment, weights)]
  const held = heldCharge(source, timeline, weights, varies)
  if (treatment.motion === 'hold') return held ? [held] : []
  const share = mixedShare(source, timeline)
  const uneven = held?.kind === 'uneven' ? held.loss / 2 : 0
  const loss = Math.min(1, uneven + weights.blend * share)
  return [{ kind: 'blend', share, grade: share > 0.1 ? 'heavy' : 'light', loss }]
}

function speedCharge(source: Rate, timeline: Rate, { speedWanted }: Treatment, weights: Weights): Charge {
  const speed = toNumber(timeline) / toNumber(source)
  const slight = Math.abs(speed - 1) <= 0.001 + 1e-9
  const loss = slight ? weights.speedSlight : speedWanted ? 0 : weights.speed
  return { kind: 'speed', speed, grade: slight || speedWanted ? 'light' : 'heavy', loss }
}

/** What frames pay that are shown as they land; null where each is shown once. */
function heldCharge(source: Rate, timeline: Rate, weights: Weights, varies: boolean): Charge | null {
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
      return { kind: 'slip', seconds: c.slipSeconds!, drops: S > T, grade: 'light', loss: Math.min(1, loss) }
    }
    case 'uneven': {
      const { periodTimeline, periodSource, judderMs } = c
      const judder = Math.min(weights.judderMost, weights.judderPerMs * judderMs)
      const loss = Math.min(1, judder + repeated + skipped) * (varies ? 0.5 : 1)
      return { kind: 'uneven', periodTimeline, periodSource, judderMs, grade: gradeBy(judderMs, 4, 10), loss }
    }
  }
}

/**
 * What motion and fields cost together, as a timeline shows a clip: frames as they land, interlaced clips deinterlaced on
 * progressive timelines, and on interlaced ones pulldown or fields from frames where they cost less.
 */
export function motionCharges(
  picture: Picture,
  format: Format,
  fit: Fit,
  treatment: Treatment,
  weights: Weights,
): Charge[] {
  const variable = variableCharges(picture, weights)
  if (!picture.rate) return variable
  const rate = picture.rate
  const motion = (from: Rate, to: Rate) =>
    cadenceCharges(from, to, treatment, weights, picture.offNominalShare !== null)
  if (picture.scan === 'interlaced')
    return [
      ...(format.scan === 'interlaced'
        ? fieldCharges(rate, picture, format, fit, motion, weights)
        : deinterlaceCharges(rate, format, motion, treatment, weights)),
      ...variable,
    ]
  if (format.scan !== 'interlaced' || treatment.motion !== 'hold')
    return [...motion(rate, format.rate), ...variable]
  const ways: Charge[][] = [
    motion(rate, format.rate),
    [
      ...motion(rate, doubled(format.rate)),
      { kind: 'fields-from-frames', grade: 'light', loss: weights.fieldsFromFrames },
    ],
  ]
  if (equal(rate, film) && equal(format.rate, ntsc))
    ways.push([{ kind: 'pulldown', grade: 'light', loss: weights.pulldown }])
  return [...cheapest(ways), ...variable]
}

/** The two rates that 2:3 pulldown goes between. */
const [film, ntsc] = [rational(24000, 1001), rational(30000, 1001)]

/** The way that loses least; the first of equals. */
const cheapest = (ways: readonly Charge[][]): Charge[] =>
  ways.reduce((best, way) => (tollFrom(way).loss < tollFrom(best).loss - 1e-12 ? way : best))

type Motion = (from: Rate, to: Rate) => Charge[]

/** Interlaced on progressive: one field of two where every timeline frame is one whole frame of the clip, else every field. */
function deinterlaceCharges(
  rate: Rate,
  format: Format,
  motion: Motion,
  { fields }: Treatment,
  weights: Weights,
): Charge[] {
  if (fields === 'weave')
    return [...motion(rate, format.rate), { kind: 'weave', grade: 'severe', loss: weights.weave }]
  const whole = ['exact', 'slip', 'even-skip'].includes(cadence(rate, format.rate).kind)
  return fields === 'same-rate' || (fields === 'auto' && whole)
    ? [
        ...motion(rate, format.rate),
        { kind: 'deinterlace', doubleRate: false, grade: 'heavy', loss: weights.deinterlaceSameRate },
      ]
    : [
        ...motion(doubled(rate), format.rate),
        { kind: 'deinterlace', doubleRate: true, grade: 'light', loss: weights.deinterlaceDoubleRate },
      ]
}

/** Interlaced on interlaced: fields stay fields unless order, lines or rate change. */
function fieldCharges(
  rate: Rate,
  picture: Picture,
  format: Format,
  fit: Fit,
  motion: Motion,
  weights: Weights,
): Charge[] {
  const charges = motion(doubled(rate), doubled(format.rate))
  if (fit.scaleY !== 1 || picture.rotation !== 0 || !equal(rate, format.rate))
    charges.push({ kind: 'field-rescale', grade: 'heavy', loss: weights.fieldRescale })
  const orders = [picture.fieldOrder, format.fieldOrder]
  if (orders.every((order) => order === 'top-first' || order === 'bottom-first') && orders[0] !== orders[1]) {
    charges.push({ kind: 'field-order', grade: 'light', loss: weights.fieldOrder })
  }
  return charges
}

function variableCharges(picture: Picture, weights: Weights): Charge[] {
  const share = picture.offNominalShare
  if (share === null) return []
  const { minRate, maxRate } = picture
  const loss = Math.min(1, weights.variableRate + Math.min(weights.variableMost, share))
  return [{ kind: 'variable-rate', share, minRate, maxRate, grade: share <= 0.01 ? 'light' : 'heavy', loss }]
}
