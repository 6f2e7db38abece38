import * as z from 'zod'

/** An exact number: `num / den` in lowest terms, `den` positive. */
export interface Rational {
  readonly num: number
  readonly den: number
}

/** The shape of a rational wherever data comes in. Parsing brings it to lowest terms. */
export const Rational = z
  .object({ num: z.number().int(), den: z.number().int().positive() })
  .transform((r): Rational => Object.freeze(rational(r.num, r.den)))

/** The greatest common divisor of two whole numbers; `gcd(0, n)` is `n`. */
export function gcd(a: number, b: number): number {
  a = Math.abs(a)
  b = Math.abs(b)
  while (b !== 0) [a, b] = [b, a % b]
  return a
}

/**
 * The rational `num / den` in lowest terms.
 * @throws RangeError when `den` is zero or a part is not a safe whole number.
 */
export function rational(num: number, den = 1): Rational {
  if (!Number.isSafeInteger(num) || !Number.isSafeInteger(den) || den === 0) {
    throw new RangeError(`not a rational: ${num}/${den}`)
  }
  const divisor = gcd(num, den) * (den < 0 ? -1 : 1)
  return { num: num / divisor + 0, den: den / divisor }
}

export const toNumber = (r: Rational): number => r.num / r.den

/** Products are reduced crosswise first, so that whole film lengths stay within exact integers. */
export function multiply(a: Rational, b: Rational): Rational {
  const first = gcd(a.num, b.den) || 1
  const second = gcd(b.num, a.den) || 1
  return quotient(a.num / first, b.num / second, a.den / second, b.den / first)
}

/** `(a · b) / (c · d)`, its terms already without common factors across. */
function quotient(a: number, b: number, c: number, d: number): Rational {
  const [num, den] = [a * b, c * d]
  return Number.isSafeInteger(num) && Number.isSafeInteger(den)
    ? rational(num, den)
    : reduced(BigInt(a) * BigInt(b), BigInt(c) * BigInt(d))
}

/** `a / b`. @throws RangeError when `b` is zero. */
export const divide = (a: Rational, b: Rational): Rational => multiply(a, rational(b.den, b.num))

export function add(a: Rational, b: Rational): Rational {
  const shared = gcd(a.den, b.den)
  const num = a.num * (b.den / shared) + b.num * (a.den / shared)
  const den = a.den * (b.den / shared)
  if (Number.isSafeInteger(num) && Number.isSafeInteger(den)) return rational(num, den)
  return reduced(
    BigInt(a.num) * BigInt(b.den / shared) + BigInt(b.num) * BigInt(a.den / shared),
    BigInt(a.den) * BigInt(b.den / shared),
  )
}

const safe = BigInt(Number.MAX_SAFE_INTEGER)

/** In lowest terms; where those are more than exact whole numbers hold, the nearest that they do hold. */
function reduced(num: bigint, den: bigint): Rational {
  let [a, b] = [num < 0n ? -num : num, den < 0n ? -den : den]
  while (b !== 0n) [a, b] = [b, a % b]
  const [n, d] = den < 0n ? [-num / a, -den / a] : [num / a, den / a]
  if (n <= safe && n >= -safe && d <= safe) return rational(Number(n), Number(d))
  const whole = (n < 0n ? -n : n) / d
  const parts = 1n << BigInt(Math.max(0, 52 - whole.toString(2).length))
  return rational(Number((2n * n * parts + d) / (2n * d)), Number(parts))
}

export const negate = (r: Rational): Rational => ({ num: -r.num + 0, den: r.den })
export const subtract = (a: Rational, b: Rational): Rational => add(a, negate(b))
export const equal = (a: Rational, b: Rational): boolean => a.num === b.num && a.den === b.den

/** Negative, zero or positive as `a` is below, equal to or above `b`. */
export function compare(a: Rational, b: Rational): number {
  const [left, right] = [a.num * b.den, b.num * a.den]
  if (Number.isSafeInteger(left) && Number.isSafeInteger(right)) return left - right
  const difference = BigInt(a.num) * BigInt(b.den) - BigInt(b.num) * BigInt(a.den)
  return difference < 0n ? -1 : difference > 0n ? 1 : 0
}

/** The largest whole number not above `r`. */
export const floor = (r: Rational): number => Math.floor(r.num / r.den)

/** The exact value of a number of pixels or of a factor as it was typed or computed, dust of floating point taken away. */
export const exactly = (value: number): Rational =>
  Number.isSafeInteger(value) ? rational(value) : nearestRational(value, 1e-10)

/** The smaller of two. */
export const least = (a: Rational, b: Rational): Rational => (compare(a, b) <= 0 ? a : b)
/** The larger of two. */
export const most = (a: Rational, b: Rational): Rational => (compare(a, b) >= 0 ? a : b)

/** The nearest whole number, halves upwards: the rounding of cut points when a cut changes its rate. */
export const roundHalfUp = (r: Rational): number => Math.floor((2 * r.num + r.den) / (2 * r.den))

/**
 * The simplest rational within `tolerance` (absolute) of a decimal, by continued fractions.
 * Used for what people type and for headers that state a quotient in floating point.
 */
export function nearestRational(value: number, tolerance = 1e-9): Rational {
  let [n0, d0, n1, d1] = [0, 1, 1, 0]
  let rest = value
  for (let i = 0; i < 32; i++) {
    const whole = Math.floor(rest)
    ;[n0, d0, n1, d1] = [n1, d1, whole * n1 + n0, whole * d1 + d0]
    if (Math.abs(n1 / d1 - value) <= tolerance || rest === whole) break
    rest = 1 / (rest - whole)
  }
  return rational(n1, d1)
}
