import { figure, upTo } from '../words/figures'
import { Rational, equal, multiply, nearestRational, rational, toNumber } from '../rational/rational'

/** Frames (never fields) per second, exact: above 0, at most 1000, its terms under 2³¹ as every wrapper holds them. */
export const Rate = Rational.refine(
  ({ num, den }) => num > 0 && num / den <= 1000 && Math.max(num, den) < 2 ** 31,
  { error: 'a rate is more than 0 and at most 1000 frames a second' },
)
export type Rate = Rational

const ntsc = (nominal: number): Rate => rational(nominal * 1000, 1001)

/** The rates of SMPTE ST 2036-1, ST 274 and ST 296, ITU-R BT.2020 and of cinema, slowest first. */
export const standardRates: readonly Rate[] = [
  ntsc(24),
  rational(24),
  rational(25),
  ntsc(30),
  rational(30),
  ntsc(48),
  rational(48),
  rational(50),
  ntsc(60),
  rational(60),
  rational(100),
  ntsc(120),
  rational(120),
]

/** How far from a standard rate, relatively, a claim may lie and still mean it. 24 and 24000/1001 are 10⁻³ apart. */
export const snapTolerance = 3e-4

/** The standard rate that a number of frames per second means, or null where none is near enough. */
export function snapToStandard(perSecond: number): Rate | null {
  const near = (rate: Rate) => Math.abs(perSecond / toNumber(rate) - 1)
  const best = standardRates.reduce((a, b) => (near(b) < near(a) ? b : a))
  return near(best) <= snapTolerance ? best : null
}

/** The exact rate for a measured or stated number: the standard one it means, else the simplest fraction near it. */
export const exactRate = (perSecond: number): Rate =>
  snapToStandard(perSecond) ?? nearestRational(perSecond, perSecond * 1e-5)

/** A rate as people write it, without a scan suffix: `23.976`, `25`, `12.5`, `59.94`. */
export function rateName(rate: Rate): string {
  const value = toNumber(rate)
  if (rate.den === 1) return String(rate.num)
  if (rate.den === 1001 && rate.num % 1000 === 0) {
    // Two decimals name the rate unless they would hide the 1/1001: 23.976 by custom, 29.97, 59.94.
    return rate.num === 24000 ? '23.976' : figure(value, 2)
  }
  return upTo(value, 3)
}

/** A rate without rounding: `25`, `30000/1001`. */
export const rateFraction = (rate: Rate): string =>
  rate.den === 1 ? String(rate.num) : `${rate.num}/${rate.den}`

/** Twice a rate: the fields of an interlaced one. */
export const doubledRate = ({ num, den }: Rate): Rate => rational(num * 2, den)
/** Half of a rate. */
export const halvedRate = ({ num, den }: Rate): Rate => rational(num, den * 2)

/** The rate of film that was pulled down 2:3 to a rate: of five frames four are film's. */
export const filmRate = (rate: Rate): Rate => multiply(rate, rational(4, 5))

export const isStandardRate = (rate: Rate): boolean => standardRates.some((known) => equal(known, rate))

/** A rate with its scan, as in `50i` (fields) and `25p` (frames). */
export const rateWithScan = (rate: Rate, scan: string | null): string =>
  scan === 'interlaced'
    ? `${rateName(doubledRate(rate))}i`
    : `${rateName(rate)}${scan === 'progressive' ? 'p' : ''}`
