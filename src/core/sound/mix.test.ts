import { describe, expect, it } from 'vitest'
import { addTo, downmix, peaksOf } from './mix'

describe('sound on a timeline', () => {
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
