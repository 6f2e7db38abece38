import { describe, expect, it } from 'vitest'
import { atMoments, soundMargin } from './resample'

const sine = (hertz: number, rate: number, count: number, from = 0) =>
  Float32Array.from({ length: count }, (_, n) => Math.sin((2 * Math.PI * hertz * (from + n)) / rate))

/** How far below a sound lies all in which another differs from it, in decibels. */
const below = (resampled: Float32Array, wanted: Float32Array): number => {
  const power = (valueAt: (n: number) => number) => resampled.reduce((sum, _, n) => sum + valueAt(n) ** 2, 0)
  return 10 * Math.log10(power((n) => wanted[n]!) / power((n) => resampled[n]! - wanted[n]!))
}

describe('sound at another rate', () => {
  it.each([
    [44_100, 48_000],
    [48_000, 44_100],
    [32_000, 48_000],
    [96_000, 48_000],
  ])('of %i in %i Hz is the same to 90 dB, up to 18 kHz, as loud as it was', (from, to) => {
    const step = from / to
    for (const share of [0.01, 0.1, 0.3, 0.5, 0.7, 0.9, 1]) {
      const hertz = share * Math.min(18_000, from * 0.4, to * 0.4)
      const resampled = atMoments(
        sine(hertz, from, 2 * 4096 * Math.max(1, step) + 200, -soundMargin),
        0,
        step,
        4800,
      )
      expect(below(resampled, sine(hertz, to, 4800)), `${hertz} Hz`).toBeGreaterThan(90)
    }
  })

  it('begins between two samples where it is told to', () => {
    const resampled = atMoments(sine(777, 48_000, 500, -soundMargin), 0.37, 1.001, 300)
    resampled.forEach((value, n) =>
      expect(value).toBeCloseTo(Math.sin((2 * Math.PI * 777 * (0.37 + n * 1.001)) / 48_000), 4),
    )
  })

  it('is the same, sample for sample, at the same rate', () => {
    const source = sine(777, 48_000, 400, -soundMargin)
    expect(atMoments(source, 0, 1, 300)).toEqual(source.subarray(soundMargin, soundMargin + 300))
  })

  it('does not fold what is too high back into what is heard', () => {
    const resampled = atMoments(sine(20_000, 48_000, 9000), 0, 4, 2000)
    expect(Math.max(...resampled.subarray(50).map(Math.abs))).toBeLessThan(1e-4)
  })
})
