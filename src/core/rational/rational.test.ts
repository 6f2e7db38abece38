import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import {
  add,
  compare,
  divide,
  multiply,
  nearestRational,
  Rational,
  rational,
  roundHalfUp,
  subtract,
} from './rational'

const anyRational = fc
  .tuple(fc.integer({ min: -100000, max: 100000 }), fc.integer({ min: 1, max: 5000 }))
  .map(([n, d]) => rational(n, d))

describe('rational', () => {
  it('is kept in lowest terms with a positive denominator', () => {
    expect(rational(50000, 2002)).toEqual({ num: 25000, den: 1001 })
    expect(rational(3, -6)).toEqual({ num: -1, den: 2 })
    expect(Rational.parse({ num: 60, den: 2 })).toEqual({ num: 30, den: 1 })
  })

  it('refuses what is not exact', () => {
    expect(() => rational(1, 0)).toThrow(RangeError)
    expect(() => rational(0.5, 1)).toThrow(RangeError)
    expect(Rational.safeParse({ num: 1, den: 0 }).success).toBe(false)
  })

  it('adds and multiplies exactly', () => {
    fc.assert(
      fc.property(anyRational, anyRational, (a, b) => {
        expect(subtract(add(a, b), b)).toEqual(a)
        if (b.num !== 0) expect(divide(multiply(a, b), b)).toEqual(a)
        expect(Math.sign(compare(a, b))).toBe(Math.sign(a.num * b.den - b.num * a.den) + 0)
      }),
    )
  })

  it('rounds halves upwards', () => {
    expect(roundHalfUp(rational(5, 2))).toBe(3)
    expect(roundHalfUp(rational(-5, 2))).toBe(-2)
    expect(roundHalfUp(rational(12, 5))).toBe(2)
  })

  it('finds the simplest fraction near a decimal', () => {
    expect(nearestRational(1.3333, 1e-3)).toEqual({ num: 4, den: 3 })
    expect(nearestRational(12.5)).toEqual({ num: 25, den: 2 })
  })
})
