import { describe, expect, it } from 'vitest'
import { addTo, atMoments, downmix, peaksOf, soundMargin } from './mix'

const sine = (hertz: number, rate: number, count: number, from = 0) =>
  Float32Array.from({ length: count }, (_, n) => Math.sin((2 * Math.PI * hertz * (from + n)) / rate))

describe('sound on a timeline', () => {
  it('is resampled without changing what is heard: 44.1 kHz in 48 kHz, and slower', () => {
    for (const [step, hertz] of [
      [44_100 / 48_000, 1000],
      [48_000 / 44_100, 1000],
      [0.5, 3000],
      [1.001, 440],
    ] as const) {
      const source = sine(hertz, 44_100, 4000, -soundMargin)
      const made = atMoments(source, 0, step, 2000)
      const wanted = Float32Array.from({ length: 2000 }, (_, n) =>
        Math.sin((2 * Math.PI * hertz * n * step) / 44_100),
      )
      expect(Math.max(...made.map((value, i) => Math.abs(value - wanted[i]!)))).toBeLessThan(4e-3)
    }
  })

  it('is the same, sample for sample, at the same rate', () => {
    const source = sine(777, 48_000, 400, -soundMargin)
    expect(atMoments(source, 0, 1, 300)).toEqual(source.subarray(soundMargin, soundMargin + 300))
  })

  it('does not fold what is too high back into what is heard', () => {
    const made = atMoments(sine(20_000, 48_000, 9000), 0, 4, 2000)
    expect(Math.max(...made.map(Math.abs))).toBeLessThan(0.02)
  })

  it('is mixed by layout and gain', () => {
    const into = [new Float32Array(8), new Float32Array(8)]
    const flat = (value: number) => new Float32Array(4).fill(value)
    addTo(into, [flat(0.5)], downmix(1, 'stereo'), 0, 2)
    addTo(into, [flat(0.2), flat(0.4)], downmix(2, 'stereo'), -20, 6)
    expect([...into[0]!].map((x) => Number(x.toFixed(3)))).toEqual([0, 0, 0.5, 0.5, 0.5, 0.5, 0.02, 0.02])
    expect(into[1]![7]).toBeCloseTo(0.04, 6)
    addTo(into, [flat(1)], downmix(1, 'stereo'), 0, -2)
    expect(into[0]![1]).toBeCloseTo(1, 6)
    expect(downmix(6, 'stereo')[2]).toEqual([Math.SQRT1_2, Math.SQRT1_2])
    expect(downmix(1, '5.1')).toEqual([[0, 0, 1, 0, 0, 0]])
    expect(downmix(2, 'mono')).toEqual([[0.5], [0.5]])
    expect(downmix(3, 'stereo')).toEqual([
      [1, 0],
      [0, 1],
      [1, 0],
    ])
    expect(downmix(6, 'mono')[0]![0]).toBeCloseTo(Math.SQRT1_2, 9)
  })

  it('is drawn by the loudest of each stretch', () => {
    const peaks = new Float32Array(4)
    peaksOf([Float32Array.of(0.1, -0.5, 0.2, 0.1), Float32Array.of(0, 0, -0.9, 0)], 2, peaks, 1)
    expect([...peaks].map((x) => Number(x.toFixed(3)))).toEqual([0, 0.5, 0.9, 0])
  })
})
