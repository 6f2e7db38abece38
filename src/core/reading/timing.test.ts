import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { rational, toNumber } from '../rational/rational'
import { standardRates } from '../rate/rate'
import { filmRateOfTimes, oddIntervalNote, rateFromDurations, runsFromTimes } from './timing'

const atMilliseconds = (perSecond: number, count: number) =>
  runsFromTimes(Array.from({ length: count }, (_, i) => Math.round((i * 1000) / perSecond)))

describe('rate from frame times', () => {
  it('is exact where every frame lasts equally long', () => {
    expect(rateFromDurations([{ count: 120, duration: 1001 }], 24000)).toEqual({
      rate: { num: 24000, den: 1001 },
      rateMode: 'constant',
    })
    expect(rateFromDurations([{ count: 54, duration: 1 }], 9).rate).toEqual({ num: 9, den: 1 })
  })

  it('takes no more than one odd interval for a slip of the writer', () => {
    // Seven frames three steps apart, then all one apart, with the trembling of a clock.
    const times = Array.from({ length: 80 }, (_, n) => Math.round((n < 8 ? 3 * n : n + 14) * 1501.5))
    expect(rateFromDurations(runsFromTimes(times), 90_000).rateMode).toBe('variable')
  })

  it('finds film whose every other frame is on for three fields, in ticks and in milliseconds', () => {
    const timeOf = (n: number) => ((5 * Math.floor(n / 2) + (n % 2 ? 3 : 0)) * 1001) / 60_000
    for (const clock of [90_000, 1000]) {
      const runs = runsFromTimes(Array.from({ length: 48 }, (_, n) => Math.round(timeOf(n) * clock)))
      expect(filmRateOfTimes(runs, clock, 30000 / 1001)).toEqual({ num: 24000, den: 1001 })
      expect(filmRateOfTimes(runs, clock, 25)).toBeNull()
    }
    expect(filmRateOfTimes(runsFromTimes([0, 3003, 6006, 9009, 12012]), 90_000, 30000 / 1001)).toBeNull()
  })

  it('leaves out a last frame whose duration the writer made up', () => {
    const facts = rateFromDurations(
      [
        { count: 99, duration: 512 },
        { count: 1, duration: 1 },
      ],
      12800,
    )
    expect(facts).toEqual({ rate: { num: 25, den: 1 }, rateMode: 'constant' })
  })

  it('finds every standard rate behind millisecond times', () => {
    fc.assert(
      fc.property(fc.constantFrom(...standardRates), fc.integer({ min: 2000, max: 6000 }), (rate, count) => {
        expect(rateFromDurations(atMilliseconds(toNumber(rate), count), 1000)).toEqual({
          rate,
          rateMode: 'constant',
        })
      }),
    )
  })

  it('finds the half of a standard rate, where every other frame was left out, in clips of any length', () => {
    const fractional = standardRates.filter(({ den }) => den === 1001)
    fc.assert(
      fc.property(fc.constantFrom(...fractional), fc.integer({ min: 18, max: 6000 }), (rate, count) => {
        const half = toNumber(rate) / 2
        const found = rateFromDurations(atMilliseconds(half, count), 1000)
        // The twin without 1/1001 cannot be told from it in a few seconds of milliseconds.
        expect(Math.abs(toNumber(found.rate!) / half - 1)).toBeLessThan(0.0011)
        expect([
          found.rateMode,
          found.rate!.den === 1 || found.rate!.den % 1001 === 0 || found.rate!.den === 2,
        ]).toEqual(['constant', true])
      }),
      { numRuns: 2000 },
    )
  })

  it('calls a clip variable that departs by more than the clock’s unit, with its figures', () => {
    const facts = rateFromDurations(
      [
        { count: 40, duration: 3000 },
        { count: 20, duration: 3700 },
        { count: 40, duration: 3000 },
      ],
      90000,
    )
    expect(facts.rateMode).toBe('variable')
    expect(facts.rate).toEqual({ num: 30, den: 1 })
    expect(facts.minRate).toBeCloseTo(24.324, 3)
    expect(facts.maxRate).toBeCloseTo(30, 9)
    expect(facts.meanRate).toBeCloseTo((90000 * 100) / (80 * 3000 + 20 * 3700), 9)
    expect(facts.offNominalShare).toBeCloseTo(0.2, 9)
  })

  it('takes no single odd interval, at either end, for a variable rate, and says that the first is odd', () => {
    // Reordered pictures without an edit list: the first is on for half as long, or for one and a half.
    for (const odd of [256, 768]) {
      const runs = [
        { count: 1, duration: odd },
        { count: 98, duration: 512 },
      ]
      const facts = rateFromDurations(runs, 12_800)
      expect(facts).toEqual({ rate: rational(25), rateMode: 'constant' })
      expect(oddIntervalNote(runs, 12_800, facts)).toBe(
        `The first frame is on for ${(odd / 12.8).toFixed(1)} ms, all others for 40.0 ms: the rate is constant.`,
      )
    }
    const steady = [{ count: 99, duration: 512 }]
    expect(oddIntervalNote(steady, 12_800, rateFromDurations(steady, 12_800))).toBeNull()
    const two = [
      { count: 2, duration: 256 },
      { count: 40, duration: 512 },
    ]
    expect(rateFromDurations(two, 12_800).rateMode).toBe('variable')
    expect(
      rateFromDurations(
        [
          { count: 1, duration: 256 },
          { count: 3, duration: 512 },
        ],
        12_800,
      ).rateMode,
    ).toBe('variable')
  })

  it('says unknown where there is nothing to go by', () => {
    expect(rateFromDurations([], 1000).rateMode).toBe('unknown')
    expect(rateFromDurations([{ count: 1, duration: 0 }], 1000).rate).toBeNull()
    expect(rateFromDurations([{ count: 5, duration: 40 }], 0).rate).toBeNull()
  })
})
