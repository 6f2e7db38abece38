import { mixedShare } from './mixed'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { rational, toNumber } from '../rational/rational'
import { parseRate } from '../rate/parse'
import { standardRates } from '../rate/rate'
import { mixtureAt } from './blend'
import { type Phase, pulldownFrame, removePulldown } from './pulldown'
import { shownFrame } from './shown'
import { everyFrame } from './speed'

const rate = (text: string) => parseRate(text)!.rate
const phase = fc.constantFrom<Phase>(0, 1, 2, 3)
const order = fc.constantFrom('top-first' as const, 'bottom-first' as const)

describe('2:3 pulldown', () => {
  it('fills five frames with four, two of them mixed', () => {
    const pairs = [0, 1, 2, 3, 4, 5].map((n) => pulldownFrame(n))
    expect(pairs.map(({ top, bottom }) => `${top}${bottom}`)).toEqual(['00', '11', '12', '23', '33', '44'])
    expect(
      [0, 1, 2, 3, 4].map((n) => pulldownFrame(n, 1)).map(({ top, bottom }) => `${top}${bottom}`),
    ).toEqual(['00', '01', '12', '22', '33'])
  })

  it('shows every source frame in order, never jumping, in any phase', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 100_000 }), phase, order, (n, p, o) => {
        const [a, b] = [pulldownFrame(n, p, o), pulldownFrame(n + 1, p, o)]
        const fields =
          o === 'top-first' ? [a.top, a.bottom, b.top, b.bottom] : [a.bottom, a.top, b.bottom, b.top]
        for (let i = 1; i < 4; i++) expect([0, 1]).toContain(fields[i] - fields[i - 1])
      }),
    )
  })

  it('followed by its removal gives the frames back', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 100_000 }), phase, order, (j, p, o) => {
        const from = removePulldown(j, p, o)
        expect(pulldownFrame(from.top, p, o).top).toBe(j)
        expect(pulldownFrame(from.bottom, p, o).bottom).toBe(j)
      }),
    )
  })
})

describe('blend', () => {
  it('mixes by distance in time', () => {
    expect(mixtureAt(0, rate('25'), rate('25'))).toEqual({ frame: 0, weight: 0 })
    // 50 in 25: the middle of a timeline frame lies between two source frames.
    expect(mixtureAt(3, rate('50'), rate('25'))).toEqual({ frame: 6, weight: 0.5 })
    expect(mixtureAt(0, rate('25'), rate('50'))).toEqual({ frame: -1, weight: 0.75 })
  })
  it('tells how many frames are mixtures', () => {
    expect(mixedShare(rate('25'), rate('25'))).toBe(0)
    expect(mixedShare(rate('50'), rate('25'))).toBe(1)
    expect(mixedShare(rate('23.976'), rate('25'))).toBeCloseTo(0.96, 2)
  })
  it('follows the definition', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 1_000_000 }),
        fc.constantFrom(...standardRates),
        fc.constantFrom(...standardRates),
        (n, S, T) => {
          const { frame, weight } = mixtureAt(n, S, T)
          const x = ((n + 0.5) * toNumber(S)) / toNumber(T) - 0.5
          expect(frame + weight).toBeCloseTo(x, 5)
          expect(weight).toBeGreaterThanOrEqual(0)
          expect(weight).toBeLessThan(1)
        },
      ),
    )
  })
})

describe('every frame', () => {
  it('changes speed, running time and pitch', () => {
    const slow = everyFrame(rate('60'), rate('24'))
    expect([slow.speed, slow.stretch]).toEqual([rational(2, 5), rational(5, 2)])
    const cure = everyFrame(rate('23.976'), rate('24'))
    expect(toNumber(cure.speed)).toBeCloseTo(1.001, 12)
    expect(everyFrame(rate('23.976'), rate('25')).pitch).toBeCloseTo(0.724, 3)
  })
})

describe('the frame shown', () => {
  it('counts from the in-point, and lies inside its frame for a decoder', () => {
    expect(shownFrame(10, rate('50'), rate('25'), rational(0))).toEqual({ frame: 21, seconds: 0.43 })
    expect(shownFrame(0, rate('25'), rate('25'), rational(2)).frame).toBe(50)
    expect(shownFrame(0, null, rate('25'), rational(0))).toEqual({ frame: null, seconds: 0.02 })
  })
})
