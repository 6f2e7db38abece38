import { type Rational, divide, equal, rational, toNumber } from '../rational/rational'
import { type Rate, doubledRate, rateFraction, rateName, snapToStandard } from './rate'

/** What a typed rate came to. `scan` is null where the text does not say; `message` tells a snap or a decision. */
export interface TypedRate {
  readonly rate: Rate
  readonly scan: 'progressive' | 'interlaced' | null
  readonly snapped: boolean
  readonly message: string | null
}

/** The slowest and fastest rate that is taken as meant: one frame an hour, and what any format of ours holds. */
const plausible = { min: 1 / 3600, max: 1000 }

/** No interlaced format has fewer frames a second: a number whose half is less counts frames. */
const slowestInterlaced = 20

/**
 * Reads a rate as people type it: `23.976`, `23.98`, `30000/1001`, `25p`, `50i`, `59,94i`.
 * `i` counts fields: `50i` is 25 frames a second, interlaced. `60i` means 59.94i, `25i` 25 frames, and both say so.
 * @returns null when the text is not a rate.
 */
export function parseRate(text: string): TypedRate | null {
  const match = /^\s*(\d+(?:[.,]\d+)?)\s*(?:\/\s*(\d+(?:[.,]\d+)?))?\s*(?:fps)?\s*([pi])?\s*$/i.exec(text)
  if (!match) return null
  const [, first = '', second, suffix] = match
  const scan = suffix ? (suffix.toLowerCase() === 'i' ? 'interlaced' : 'progressive') : null

  const typed = exact(first, second)
  if (!typed) return null
  // Fields are counted; where half of them would be slower than any film, frames were meant.
  const countsFrames = scan === 'interlaced' && toNumber(typed) / 2 < slowestInterlaced
  let rate = scan === 'interlaced' && !countsFrames ? divide(typed, rational(2)) : typed
  if (toNumber(rate) < plausible.min || toNumber(rate) > plausible.max) return null

  if (scan === 'interlaced' && equal(typed, rational(60))) {
    rate = rational(30000, 1001)
    return { rate, scan, snapped: true, message: '60i is taken as 59.94i: 30000/1001 frames a second.' }
  }
  const standard = snapToStandard(toNumber(rate))
  const snapped = standard !== null && !equal(standard, rate)
  if (standard) rate = standard
  const message = countsFrames
    ? `${text.trim()} is taken as ${rateName(rate)} frames a second, interlaced: ${rateName(doubledRate(rate))}i, as i counts fields.`
    : snapped
      ? `${text.trim()} is taken as ${nameUnless(text, rate)}exactly ${rateFraction(rate)} frames a second.`
      : null
  return { rate, scan, snapped, message }
}

/** The usual name of a rate, where it is not what was typed. */
const nameUnless = (text: string, rate: Rate) =>
  text.trim().startsWith(rateName(rate)) ? '' : `${rateName(rate)}: `

function exact(first: string, second: string | undefined): Rational | null {
  const numerator = decimal(first)
  const denominator = second === undefined ? rational(1) : decimal(second)
  if (!numerator || !denominator || numerator.num === 0 || denominator.num === 0) return null
  try {
    return divide(numerator, denominator)
  } catch {
    return null
  }
}

function decimal(text: string): Rational | null {
  const [whole = '', part = ''] = text.replace(',', '.').split('.')
  if (whole.length > 9) return null
  const digits = part.slice(0, 15 - whole.length)
  return rational(Number(whole + digits), 10 ** digits.length)
}
