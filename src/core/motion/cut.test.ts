import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { standardRates } from '../rate/rate'
import { type Rational, add, divide, multiply, rational, toNumber } from '../rational/rational'
import { frameTimesFrom } from '../reading/frame-times'
import type { Passing, Taking, Run } from '../treatment/run'
import { type Running, framesLeft, shownAt, sourceTimeAfter } from './shown'
import type { ClipTiming } from './timing'
import { rate, inTime, frames, running, constant, table } from './running.fixture'

/** Any way that a placement can run. */
const anyPassing: fc.Arbitrary<Passing> = fc.oneof(
  fc.constant(inTime),
  fc.constant<Passing>({ kind: 'step-by-step' }),
  fc
    .tuple(fc.integer({ min: 1, max: 12 }), fc.integer({ min: 1, max: 12 }))
    .map(([num, den]): Passing => ({ kind: 'in-time', factor: rational(num, den) })),
)
const anyPhase = fc.constantFrom<0 | 1 | 2 | 3 | 4>(0, 1, 2, 3, 4)
const anyWay: fc.Arbitrary<Run> = fc.oneof(
  fc.record({
    passing: anyPassing,
    taking: fc.oneof(
      fc.boolean().map((mix): Taking => ({ kind: 'frames', mixed: mix })),
      fc.record<Taking & { kind: 'deinterlaced' }>({
        kind: fc.constant('deinterlaced'),
        method: fc.constantFrom('interpolate', 'adaptive', 'single', 'blend'),
        keep: fc.constantFrom('first', 'second', 'each'),
        mixed: fc.boolean(),
      }),
      fc
        .constantFrom('frames' as const, 'fields' as const)
        .map((outOf): Taking => ({ kind: 'fields', outOf })),
    ),
  }),
  fc.record({
    passing: fc.constant(inTime),
    taking: fc.oneof(
      anyPhase.map((phase): Taking => ({ kind: 'pulldown', phase })),
      anyPhase.map((phase): Taking => ({ kind: 'remove-pulldown', phase })),
    ),
  }),
)
const anyRate = fc.oneof(
  fc.constantFrom(...standardRates),
  fc.tuple(fc.integer({ min: 5, max: 120 }), fc.integer({ min: 1, max: 3 })).map(([n, d]) => rational(n, d)),
)
const anyTiming: fc.Arbitrary<ClipTiming> = fc.oneof(
  fc
    .tuple(anyRate, fc.integer({ min: 1, max: 400 }))
    .map(([S, count]): ClipTiming => ({ kind: 'constant', rate: S, count, counted: true })),
  fc
    .tuple(
      fc.array(fc.integer({ min: 1, max: 90 }), { minLength: 1, maxLength: 300 }),
      fc.constantFrom(600, 1000, 90_000, 24_000),
    )
    .map(([durations, clock]): ClipTiming => {
      let at = 0
      const times = durations.map((duration) => (at += duration) - duration)
      return { kind: 'table', times: frameTimesFrom(times, rational(clock), at)! }
    }),
)

describe('a cut', () => {
  it('changes no frame, whatever the timing, the rates and the way', () => {
    fc.assert(
      fc.property(
        anyWay,
        anyTiming,
        anyRate,
        fc.integer({ min: 0, max: 500 }),
        fc.integer({ min: 2, max: 60 }),
        fc.integer({ min: 1, max: 59 }),
        fc.constantFrom('top-first' as const, 'bottom-first' as const, null),
        (way, timing, T, inMs, length, at, order) => {
          fc.pre(at < length)
          const whole: Running = {
            sourceIn: rational(inMs, 1000),
            way,
            fieldOrder: order,
            shownOrder: order,
          }
          const second: Running = { ...whole, sourceIn: sourceTimeAfter(whole, timing, T, at) }
          for (let n = at; n < length; n++)
            expect(shownAt(second, timing, T, n - at)).toEqual(shownAt(whole, timing, T, n))
        },
      ),
      { numRuns: 500 },
    )
  })

  it('at the frame after so many advances the source by what they show', () => {
    const T = rate('25')
    const factor: Passing = { kind: 'in-time', factor: rational(1, 2) }
    expect(sourceTimeAfter(running(frames, { passing: factor }), constant('50', 99), T, 10)).toEqual(
      rational(1, 5),
    )
    expect(
      sourceTimeAfter(running(frames, { passing: { kind: 'step-by-step' } }), constant('50', 99), T, 10),
    ).toEqual(rational(1, 5))
    expect(sourceTimeAfter(running(frames), { kind: 'still' }, T, 10)).toEqual(rational(0))
  })
})

describe('what is left of a source', () => {
  const left = (timing: ClipTiming, sourceIn: Rational, passing: Passing = inTime) =>
    framesLeft(running(frames, { sourceIn, passing }), timing, rate('25'))

  it('is as many frames as it lasts, halves upwards, at least one', () => {
    expect(left(constant('50', 101), rational(0))).toBe(51)
    expect(left(constant('50', 100), rational(1))).toBe(25)
    expect(left(constant('50', 100), rational(9))).toBe(1)
    expect(left(table([0, 20, 80, 100], 200), rational(0))).toBe(5)
    expect(left({ kind: 'still' }, rational(0))).toBeNull()
    expect(left(constant('50', 100), rational(0), { kind: 'in-time', factor: rational(1, 2) })).toBe(100)
    expect(left(constant('50', 100), rational(1), { kind: 'step-by-step' })).toBe(50)
  })

  it('shows something in each frame and nothing behind them', () => {
    fc.assert(
      fc.property(anyTiming, anyRate, anyPassing, (timing, T, passing) => {
        const whole = running(frames, { passing })
        const count = framesLeft(whole, timing, T)!
        fc.pre(count > 1 && count < 5000)
        expect(shownAt(whole, timing, T, count - 1).kind).toBe('frame')
        expect(shownAt(whole, timing, T, count + 1).kind).toBe('nothing')
      }),
    )
  })
})

describe('a day of film', () => {
  it('is still exact', () => {
    const n = 24 * 3600 * 60
    const timing = constant('23.976', 2 ** 40)
    const expected = add(
      multiply(rational(n), divide(rate('23.976'), rate('60'))),
      divide(rate('23.976'), rate('120')),
    )
    expect(shownAt(running(frames), timing, rate('60'), n)).toEqual({
      kind: 'frame',
      index: Math.floor(toNumber(expected)),
    })
  })
})
