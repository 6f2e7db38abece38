import { type Rate, standardRates } from '../rate/rate'
import { nominalRate } from '../rate/timecode'
import {
  type Rational,
  compare,
  divide,
  equal,
  multiply,
  nearestRational,
  rational,
  toNumber,
} from '../rational/rational'

/** How precisely an effect says frames a second. */
export const effectStep = 0.1

/** Speeds that cuts have: rates on each other, and whole and simple shares. */
const usual: readonly Rational[] = [
  ...standardRates.flatMap((a) => standardRates.map((b) => divide(a, b))),
  ...[1, 2, 3, 4, 5, 8, 10].flatMap((num) => [1, 2, 3, 4, 5, 8, 10].map((den) => rational(num, den))),
]

/**
 * How many times as fast as its clip a placement runs. An effect says it to a tenth of a frame a second; from which label to which the
 * source runs says more of a long one: of speeds within both the one that is usual, else the simplest.
 * @param source seconds of the clip as corrected, from and to; null where the list does not say
 * @param correction how many seconds of its file pass in one of the clip
 */
export function speedIn(
  perSecond: number | null,
  source: { readonly from: Rational; readonly to: Rational } | null,
  {
    length,
    rate,
    correction,
  }: { readonly length: number; readonly rate: Rate; readonly correction: Rational },
): Rational {
  const untouched = rational(1)
  if (perSecond === null) return divide(untouched, correction)
  if (perSecond <= 0) return untouched
  const nominal = nominalRate(rate)
  // The effect counts frames of the file, which a correction shows as others.
  const stated = perSecond / nominal / toNumber(correction)
  const step = effectStep / 2 / nominal / toNumber(correction)
  let [low, high] = [stated - step, stated + step]
  if (source) {
    const frames =
      toNumber(multiply(rational(source.to.num, source.to.den), rate)) - toNumber(multiply(source.from, rate))
    const [least, most] = [(frames - 1) / length, (frames + 1) / length]
    if (least <= high && most >= low) [low, high] = [Math.max(low, least), Math.min(high, most)]
  }
  const within = (speed: Rational) => toNumber(speed) >= low - 1e-9 && toNumber(speed) <= high + 1e-9
  const near = (speed: Rational) => Math.abs(toNumber(speed) - stated)
  if (within(untouched) && near(untouched) <= step) {
    const others = usual.filter((speed) => within(speed) && !equal(speed, untouched))
    const twins = others.filter((speed) => Math.abs(toNumber(speed) - 1) < 0.0011)
    const middle = (low + high) / 2
    const twin = twins.find((speed) => Math.abs(toNumber(speed) - middle) < Math.abs(1 - middle))
    return twin ?? untouched
  }
  const [known] = usual.filter(within).sort((a, b) => a.den - b.den || compare(a, b))
  return known ?? nearestRational((low + high) / 2, Math.max(1e-9, (high - low) / 2))
}
