import { describe, expect, it } from 'vitest'
import { parseRate } from '../rate/parse'
import { rational, toNumber } from '../rational/rational'
import { standardRates } from '../rate/rate'
import fc from 'fast-check'
import { mixedShare } from './mixed'
import { everyFrame } from './speed'

const rate = (text: string) => parseRate(text)!.rate

describe('every frame', () => {
  it('changes speed, running time and pitch', () => {
    const slow = everyFrame(rate('60'), rate('24'))
    expect([slow.speed, slow.stretch]).toEqual([rational(2, 5), rational(5, 2)])
    const cure = everyFrame(rate('23.976'), rate('24'))
    expect(toNumber(cure.speed)).toBeCloseTo(1.001, 12)
    expect(everyFrame(rate('23.976'), rate('25')).pitch).toBeCloseTo(0.724, 3)
    expect(everyFrame(rate('60'), rate('24')).pitch).toBeCloseTo(-15.863, 3)
  })
})

describe('the share of frames that are mixtures', () => {
  it('is none, all, or nearly all', () => {
    expect(mixedShare(rate('25'), rate('25'))).toBe(0)
    expect(mixedShare(rate('50'), rate('25'))).toBe(1)
    expect(mixedShare(rate('23.976'), rate('25'))).toBeCloseTo(0.96, 2)
  })

  it('agrees with the definition, counted over one period', () => {
    fc.assert(
      fc.property(fc.constantFrom(...standardRates), fc.constantFrom(...standardRates), (S, T) => {
        const [Q, P] = [S.num * T.den, S.den * T.num]
        const divisor = (a: number, b: number): number => (b === 0 ? a : divisor(b, a % b))
        const period = P / divisor(Q, P)
        fc.pre(period < 20_000)
        let mixed = 0
        for (let n = 0; n < period; n++) {
          // Weights in whole 2P-ths, so that the limits are met exactly.
          const numerator = (2 * n + 1) * Q - P
          const rest = ((numerator % (2 * P)) + 2 * P) % (2 * P)
          if (rest >= 0.02 * 2 * P - 1e-6 && rest <= 0.98 * 2 * P + 1e-6) mixed++
        }
        expect(mixedShare(S, T)).toBeCloseTo(mixed / period, 9)
      }),
    )
  })
})
