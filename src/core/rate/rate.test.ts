import { describe, expect, it } from 'vitest'
import { rational } from '../rational/rational'
import { parseRate } from './parse'
import { exactRate, rateName, rateWithScan, snapToStandard, standardRates } from './rate'

describe('standard rates', () => {
  it('are the thirteen of the standards, exact and in order', () => {
    expect(standardRates.map((r) => `${r.num}/${r.den}`)).toEqual([
      '24000/1001',
      '24/1',
      '25/1',
      '30000/1001',
      '30/1',
      '48000/1001',
      '48/1',
      '50/1',
      '60000/1001',
      '60/1',
      '100/1',
      '120000/1001',
      '120/1',
    ])
  })

  it('have the names that people use', () => {
    const names = [
      '23.976',
      '24',
      '25',
      '29.97',
      '30',
      '47.95',
      '48',
      '50',
      '59.94',
      '60',
      '100',
      '119.88',
      '120',
    ]
    expect(standardRates.map(rateName)).toEqual(names)
    expect(rateName(rational(25, 2))).toBe('12.5')
    expect(rateWithScan(rational(25), 'interlaced')).toBe('50i')
    expect(rateWithScan(rational(30000, 1001), 'interlaced')).toBe('59.94i')
    expect(rateWithScan(rational(24000, 1001), 'progressive')).toBe('23.976p')
  })

  it('are meant by anything within 3·10⁻⁴, and by nothing farther', () => {
    expect(snapToStandard(24 * (1 + 2.9e-4))).toEqual(rational(24))
    expect(snapToStandard(24 * (1 + 3.2e-4))).toBeNull()
    expect(exactRate(9)).toEqual(rational(9))
    expect(exactRate(29.9703)).toEqual(rational(30000, 1001))
  })
})

describe('typed rates', () => {
  it.each([
    ['23.976', 24000, 1001, null, true],
    ['23.978', 24000, 1001, null, true],
    ['23.98', 24000, 1001, null, true],
    ['23.97', 24000, 1001, null, true],
    ['23,98', 24000, 1001, null, true],
    ['24', 24, 1, null, false],
    ['29.97', 30000, 1001, null, true],
    ['30000/1001', 30000, 1001, null, false],
    ['25p', 25, 1, 'progressive', false],
    ['50i', 25, 1, 'interlaced', false],
    ['59.94i', 30000, 1001, 'interlaced', true],
    ['60i', 30000, 1001, 'interlaced', true],
    ['12.5', 25, 2, null, false],
    ['9', 9, 1, null, false],
    ['240 fps', 240, 1, null, false],
  ] as const)('%s', (text, num, den, scan, snapped) => {
    const typed = parseRate(text)!
    expect(typed.rate).toEqual({ num, den })
    expect(typed.scan).toBe(scan)
    expect(typed.snapped).toBe(snapped)
    expect(typed.message !== null).toBe(snapped)
  })

  it.each(['', 'fast', '0', '25/0', '-25', '25x', '1e9', '99999999999999999999'])('refuses %j', (text) => {
    expect(parseRate(text)).toBeNull()
  })
})
