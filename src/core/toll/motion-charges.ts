import { cadence } from '../rate/cadence'
import type { Rate } from '../rate/rate'
import { equal, rational, toNumber } from '../rational/rational'
import type { Format } from '../format/format'
import type { Fit } from '../framing/framing'
import { type Charge, gradeBy, tollFrom } from './charge'
import type { Picture } from './picture'
import type { Policy } from './policy'
import type { Treatment } from './treatment'

/** What the rate costs when frames are shown as they land, or all of them at another speed. */
export function cadenceCharges(source: Rate, timeline: Rate, treatment: Treatment, policy: Policy): Charge[] {
  if (equal(source, timeline)) return []
  const S = toNumber(source)
  const T = toNumber(timeline)
  if (treatment.motion === 'every-frame') {
    const speed = T / S
    const slight = Math.abs(speed - 1) <= 0.001 + 1e-9
    const loss = slight ? policy.speedSlight : treatment.speedWanted ? 0 : policy.speed
    return [{ kind: 'speed', speed, grade: slight || treatment.speedWanted ? 'light' : 'heavy', loss }]
  }
  const c = cadence(source, timeline)
  switch (c.kind) {
    case 'exact':
      return []
    case 'even-hold':
      return [{ kind: 'even-hold', times: c.periodTimeline, grade: 'light', loss: policy.evenHold }]
    case 'even-skip':
      return [
        { kind: 'even-skip', every: c.periodSource, grade: 'light', loss: policy.evenSkip * (1 - T / S) },
      ]
    case 'slip': {
      const loss = policy.slip + Math.min(policy.slipMost, policy.slipPerMinute * 60 * Math.abs(T - S))
      return [{ kind: 'slip', seconds: c.slipSeconds!, drops: S > T, grade: 'light', loss }]
    }
    case 'uneven': {
      const { periodTimeline, periodSource, judderMs } = c
      const loss = Math.min(policy.judderMost, policy.judderPerMs * judderMs)
      return [
        { kind: 'uneven', periodTimeline, periodSource, judderMs, grade: gradeBy(judderMs, 4, 10), loss },
      ]
    }
  }
}

/**
 * What motion and fields cost together: an interlaced clip may move at its field rate once it is deinterlaced to it.
 * `auto` takes the cheaper of the two, but the field rate only where the timeline is faster than the clip's frames.
 */
export function motionCharges(
  picture: Picture,
  format: Format,
  fit: Fit,
  treatment: Treatment,
  policy: Policy,
): Charge[] {
  const variable = variableCharges(picture, policy)
  if (!picture.rate) return variable
  const rate = picture.rate
  const motion = (at: Rate) => cadenceCharges(at, format.rate, treatment, policy)
  if (picture.scan !== 'interlaced') return [...motion(rate), ...variable]
  if (format.scan === 'interlaced' && equal(rate, format.rate))
    return [...fieldCharges(picture, format, fit, policy), ...variable]

  if (treatment.fields === 'weave') {
    return [...motion(rate), { kind: 'weave', grade: 'severe', loss: policy.weave }, ...variable]
  }
  const sameRate: Charge[] = [
    ...motion(rate),
    { kind: 'deinterlace', doubleRate: false, grade: 'heavy', loss: policy.deinterlaceSameRate },
  ]
  const doubleRate: Charge[] = [
    ...motion(rational(rate.num * 2, rate.den)),
    { kind: 'deinterlace', doubleRate: true, grade: 'light', loss: policy.deinterlaceDoubleRate },
  ]
  const useDouble =
    treatment.fields === 'double-rate' ||
    (treatment.fields === 'auto' &&
      toNumber(format.rate) > toNumber(rate) &&
      tollFrom(doubleRate).loss < tollFrom(sameRate).loss)
  return [...(useDouble ? doubleRate : sameRate), ...variable]
}

/** Interlaced on interlaced at the same rate: fields stay fields unless order or lines change. */
function fieldCharges(picture: Picture, format: Format, fit: Fit, policy: Policy): Charge[] {
  const charges: Charge[] = []
  if (fit.scaleY !== 1 || picture.rotation !== 0)
    charges.push({ kind: 'field-rescale', grade: 'heavy', loss: policy.fieldRescale })
  const orders = [picture.fieldOrder, format.fieldOrder]
  if (orders.every((order) => order === 'top-first' || order === 'bottom-first') && orders[0] !== orders[1]) {
    charges.push({ kind: 'field-order', grade: 'light', loss: policy.fieldOrder })
  }
  return charges
}

function variableCharges(picture: Picture, policy: Policy): Charge[] {
  const share = picture.offNominalShare
  if (share === null) return []
  const { minRate, maxRate } = picture
  const loss = policy.variableRate + Math.min(policy.variableMost, share)
  return [{ kind: 'variable-rate', share, minRate, maxRate, grade: share <= 0.01 ? 'light' : 'heavy', loss }]
}
