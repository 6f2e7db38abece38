import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { rational, toNumber } from '../rational/rational'
import { heldFrames } from '../motion/lanes'
import { cadence, holdLengths } from './cadence'
import { parseRate } from './parse'
import { standardRates } from './rate'

const rate = (text: string) => parseRate(text)!.rate
const anyRate = fc.oneof(
  fc.constantFrom(...standardRates),
  fc.tuple(fc.integer({ min: 1, max: 500 }), fc.integer({ min: 1, max: 40 })).map(([n, d]) => rational(n, d)),
)

describe('cadence', () => {
  it.each([
    ['24000/1001', '60000/1001', 'uneven', 5, 2, 3, 0, 8.342, null],
    ['24', '60', 'uneven', 5, 2, 3, 0, 8.333, null],
    ['24000/1001', '24', 'slip', 1001, 1000, 1, 0, 1.317, 41.708],
    ['25', '50', 'even-hold', 2, 1, 1, 0, 0, null],
    ['50', '25', 'even-skip', 1, 2, 0, 1, 0, null],
    ['30', '25', 'uneven', 5, 6, 0, 1, 13.333, null],
    ['25', '30', 'uneven', 6, 5, 1, 0, 13.333, null],
    ['25', '24', 'uneven', 24, 25, 0, 1, 7.993, null],
    ['60000/1001', '25', 'uneven', 1001, 2400, 0, 1399, 8.165, null],
    ['30000/1001', '25', 'uneven', 1001, 1200, 0, 199, 13.317, null],
    ['120000/1001', '24000/1001', 'even-skip', 1, 5, 0, 4, 0, null],
  ])('%s → %s is %s', (source, timeline, kind, P, Q, repeated, dropped, judder, slip) => {
    const c = cadence(rate(source), rate(timeline))
    expect(c).toMatchObject({ kind, periodTimeline: P, periodSource: Q, repeated, dropped })
    expect(c.judderMs).toBeCloseTo(judder, 3)
    if (slip === null) expect(c.slipSeconds).toBeNull()
    else expect(c.slipSeconds).toBeCloseTo(slip, 3)
  })

  it('is exact only for equal rates', () => {
    expect(cadence(rate('25'), rate('25'))).toMatchObject({
      kind: 'exact',
      repeated: 0,
      dropped: 0,
      judderMs: 0,
    })
  })

  it('agrees with the definition, counted frame by frame over one period', () => {
    fc.assert(
      fc.property(anyRate, anyRate, (S, T) => {
        const c = cadence(S, T)
        fc.pre(c.periodSource < 20000 && c.periodTimeline < 20000)
        const shown = new Array<number>(c.periodSource).fill(0)
        const held = heldFrames(S, T, c.periodTimeline + 1)
        const steps = held.slice(1).map((frame, n) => frame - held[n]!)
        for (const frame of held.slice(0, -1)) shown[frame]!++
        expect(holdLengths(S, T, c.periodSource)).toEqual(shown)
        expect(c.repeated).toBe(shown.reduce((sum, h) => sum + Math.max(0, h - 1), 0))
        expect(c.dropped).toBe(shown.filter((h) => h === 0).length)

        const [s, t] = [toNumber(S), toNumber(T)]
        const rms = (values: number[], mean: number) =>
          Math.sqrt(values.reduce((sum, v) => sum + (v - mean) ** 2, 0) / values.length)
        const judder = t >= s ? rms(shown, t / s) / t : rms(steps, s / t) / s
        expect(c.judderMs).toBeCloseTo(1000 * judder, 6)
      }),
    )
  })
})
