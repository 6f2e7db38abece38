import { describe, expect, it } from 'vitest'
import { arePrimariesKnown, lightBetween, primariesAlike } from './primaries'

const brought = (from: string, to: string, rgb: [number, number, number]) => {
  lightBetween(from, to)!(rgb)
  return rgb
}

describe('light of one set of primaries in another', () => {
  it('keeps white, and goes there and back', () => {
    const known = ['bt709', 'bt601-625', 'bt601-525', 'bt2020', 'display-p3', 'ebu3213']
    for (const a of known)
      for (const b of known.filter((other) => other !== a)) {
        for (const value of brought(a, b, [1, 1, 1])) expect(value).toBeCloseTo(1, 6)
        const [r, g, bl] = brought(b, a, brought(a, b, [0.2, 0.5, 0.8]))
        expect([r, g, bl].map((x) => Math.round(x * 1e6) / 1e6)).toEqual([0.2, 0.5, 0.8])
      }
  })
  it('is what BT.2087 and BT.2407 print', () => {
    expect(brought('bt709', 'bt2020', [1, 0, 0]).map((x) => x.toFixed(4))).toEqual([
      '0.6274',
      '0.0691',
      '0.0164',
    ])
    expect(brought('bt2020', 'bt709', [0, 1, 0]).map((x) => x.toFixed(4))).toEqual([
      '-0.5876',
      '1.1329',
      '-0.1006',
    ])
  })
  it('is not known of another white, and counts as the same for standard definition', () => {
    expect(arePrimariesKnown('film', 'bt709')).toBe(false)
    expect(lightBetween('dci-p3', 'bt709')).toBeNull()
    expect([primariesAlike('bt601-625', 'bt709', true), primariesAlike('bt601-625', 'bt709', false)]).toEqual(
      [true, false],
    )
    expect(primariesAlike('bt2020', 'bt709', true)).toBe(false)
  })
})
