import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { Planes, Samples } from '../planes/planes'
import { rational } from '../rational/rational'
import type { Filter } from '../treatment/treatment'
import { chromaSiting, resampling } from './picture'
import { type Plane, resamplePlane } from './plane'
import { sharpened } from './sharpen'
import { simdResample } from './simd'
import { type Siting, unity, tapsOf } from './taps'

const filters: readonly Filter[] = ['nearest', 'bilinear', 'bicubic', 'lanczos']
const whole: Siting = { every: 1, halves: 1 }
const between: Siting = { every: 2, halves: 2 }
const to = (from: number, length: number) => ({ scale: rational(length, from), shift: rational(0) })
const line = (...samples: number[]): Plane => ({
  width: samples.length,
  height: 1,
  samples: Uint8Array.from(samples),
})
const oneLine = tapsOf('nearest', to(1, 1), whole, whole, 1)

/** Samples that look random and are the same each time. */
function noise(length: number, bitDepth: number, seed: number): Samples {
  const samples = bitDepth > 8 ? new Uint16Array(length) : new Uint8Array(length)
  for (let i = 0, x = seed + 1; i < length; i++) {
    x = (x * 1103515245 + 12345) % 2 ** 31
    // Extremes too, where sums overshoot.
    const share = x / 2 ** 31
    samples[i] = share < 0.2 ? 0 : share > 0.8 ? 2 ** bitDepth - 1 : Math.floor(share * 2 ** bitDepth)
  }
  return samples
}

describe('weights', () => {
  it('of each sample are one together, whatever the filter, the sizes and the shift', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...filters),
        fc.integer({ min: 1, max: 400 }),
        fc.integer({ min: 1, max: 400 }),
        fc.integer({ min: -50, max: 50 }),
        (filter, from, length, shift) => {
          const map = { scale: rational(length, from), shift: rational(shift, 3) }
          const { count, weights } = tapsOf(filter, map, whole, whole, length)
          for (let n = 0; n < length; n++)
            expect(weights.subarray(n * count, (n + 1) * count).reduce((sum, w) => sum + w, 0)).toBe(unity)
        },
      ),
    )
  })

  it('of half the size lie evenly on both sides, those between two samples weigh alike', () => {
    const { count, first, weights } = tapsOf('bilinear', to(8, 4), whole, whole, 4)
    expect([count, first[0], first[1]]).toEqual([4, -1, 1])
    expect([...weights.subarray(0, 4)]).toEqual([2048, 6144, 6144, 2048])
  })

  it('take the nearest sample where that is asked for, the later one of two', () => {
    expect([...tapsOf('nearest', to(4, 8), whole, whole, 8).first]).toEqual([0, 0, 1, 1, 2, 2, 3, 3])
    expect([...tapsOf('nearest', to(8, 4), whole, whole, 4).first]).toEqual([1, 3, 5, 7])
  })

  it('of chroma between two luma samples stay where they are when the size does', () => {
    for (const siting of [whole, between, { every: 2, halves: 1 }, { every: 4, halves: 1 }])
      for (const filter of filters) {
        const taps = tapsOf(filter, to(64, 64), siting, siting, Math.ceil(64 / siting.every))
        for (let n = 0; n < taps.first.length; n++) {
          const own = taps.weights.subarray(n * taps.count, (n + 1) * taps.count)
          expect([...own].filter((weight) => weight !== 0)).toEqual([unity])
          expect((taps.first[n] ?? 0) + own.indexOf(unity)).toBe(n)
        }
      }
  })

  it('of chroma follow the ratio of luma, not that of their own samples', () => {
    // 5 luma samples have 3 of chroma, 10 have 5: the ratio is 2, not 5/3.
    const { first } = tapsOf('nearest', to(5, 10), { every: 2, halves: 1 }, { every: 2, halves: 1 }, 5)
    expect([...first]).toEqual([0, 0, 1, 1, 2])
  })
})

describe('a plane', () => {
  it('goes on beyond its edges as it ends', () => {
    const taps = tapsOf('lanczos', to(4, 8), whole, whole, 8)
    const flat = resamplePlane(line(90, 90, 90, 90), taps, oneLine, 8)
    expect([...flat.samples]).toEqual(Array(8).fill(90))
  })

  it('is bounded by what its depth holds where a filter overshoots', () => {
    const taps = tapsOf('lanczos', to(8, 24), whole, whole, 24)
    const { samples } = resamplePlane(line(0, 0, 0, 255, 255, 255, 0, 0), taps, oneLine, 8)
    expect(Math.max(...samples)).toBe(255)
    expect(Math.min(...samples)).toBe(0)
  })

  it('is made to the letter: half of a ramp by the triangle, rounded half up', () => {
    const taps = tapsOf('bilinear', to(4, 2), whole, whole, 2)
    // (1·10 + 3·10 + 3·21 + 1·30) / 8 = 16.6…, (1·21 + … ) with the edge repeated.
    const { samples } = resamplePlane(line(10, 21, 30, 41), taps, oneLine, 8)
    expect([...samples]).toEqual([17, 34])
  })

  it('of the same size is itself, byte for byte, at every depth', () => {
    for (const bitDepth of [8, 10, 12, 16])
      for (const filter of filters) {
        const plane = { width: 13, height: 7, samples: noise(91, bitDepth, 7) }
        const [x, y] = [
          tapsOf(filter, to(13, 13), whole, whole, 13),
          tapsOf(filter, to(7, 7), whole, whole, 7),
        ]
        expect(resamplePlane(plane, x, y, bitDepth).samples).toEqual(plane.samples)
      }
  })
})

describe('the kernel in SIMD', () => {
  it('is equal to the reference sample by sample, on planes of any size and depth', () => {
    const kernel = simdResample()
    fc.assert(
      fc.property(
        fc.constantFrom(...filters),
        fc.constantFrom(8, 9, 10, 12, 14, 16),
        fc.record({ w: fc.integer({ min: 1, max: 70 }), h: fc.integer({ min: 1, max: 40 }) }),
        fc.record({ w: fc.integer({ min: 1, max: 90 }), h: fc.integer({ min: 1, max: 50 }) }),
        fc.constantFrom(whole, between),
        fc.integer({ min: 0, max: 2 ** 30 }),
        fc.integer({ min: -30, max: 30 }),
        (filter, bitDepth, from, target, siting, seed, shift) => {
          const plane = { width: from.w, height: from.h, samples: noise(from.w * from.h, bitDepth, seed) }
          const map = (a: number, b: number) => ({ scale: rational(b, a), shift: rational(shift, 4) })
          const across = tapsOf(filter, map(from.w, target.w), siting, siting, target.w)
          const down = tapsOf(filter, map(from.h, target.h), siting, siting, target.h)
          const expected = resamplePlane(plane, across, down, bitDepth)
          expect(kernel(plane, across, down, bitDepth).samples).toEqual(expected.samples)
        },
      ),
      { numRuns: 300 },
    )
  })
})

describe('the kernel in SIMD, where sizes are double or half', () => {
  it('is equal to the reference too, for luma and chroma of any siting', () => {
    const kernel = simdResample()
    for (const filter of filters)
      for (const bitDepth of [8, 10])
        for (const siting of [whole, between, { every: 2, halves: 1 }])
          for (let length = 1; length <= 40; length++)
            for (const [from, target] of [
              [length, 2 * length],
              [2 * length, length],
            ] as const) {
              const taps = tapsOf(filter, to(from, target), siting, siting, target)
              const plane = { width: from, height: 3, samples: noise(3 * from, bitDepth, length) }
              const lines = tapsOf(filter, to(3, 3), whole, whole, 3)
              const expected = resamplePlane(plane, taps, lines, bitDepth)
              expect(kernel(plane, taps, lines, bitDepth).samples).toEqual(expected.samples)
            }
  })
})

describe('a picture', () => {
  const picture = (across: number, down: number): Planes => ({
    width: 21,
    height: 11,
    bitDepth: 8,
    across,
    down,
    luma: noise(231, 8, 1),
    chroma: {
      cb: noise(Math.ceil(21 / across) * Math.ceil(11 / down), 8, 2),
      cr: noise(Math.ceil(21 / across) * Math.ceil(11 / down), 8, 3),
    },
    alpha: null,
  })

  it('has planes of the new size, rounded up, in every layout of chroma', () => {
    for (const [across, down] of [
      [2, 2],
      [2, 1],
      [1, 1],
      [4, 1],
      [1, 2],
    ] as const) {
      const planes = picture(across, down)
      const resized = resampling(planes, chromaSiting(planes, ''), {
        width: 15,
        height: 9,
        filter: 'bicubic',
        sharpen: null,
      })(planes)
      expect(resized.luma).toHaveLength(135)
      expect(resized.chroma!.cb).toHaveLength(Math.ceil(15 / across) * Math.ceil(9 / down))
    }
  })

  it('has chroma between rows in 4:2:0, but in DV of 625 lines, and between columns as JPEG has it', () => {
    const halves = (name: string, across = 2, down = 2) => {
      const siting = chromaSiting({ across, down }, name)
      return [siting.across.halves, siting.down.halves]
    }
    expect(halves('420jpeg')).toEqual([2, 2])
    expect(halves('420mpeg2')).toEqual([1, 2])
    expect(halves('420p10')).toEqual([1, 2])
    expect(halves('420paldv')).toEqual([1, 1])
    expect(halves('422', 2, 1)).toEqual([1, 1])
    expect(halves('411', 4, 1)).toEqual([1, 1])
  })
})

describe('sharpening', () => {
  it('by nothing changes nothing, and leaves a flat picture flat', () => {
    const plane = { width: 9, height: 5, samples: noise(45, 8, 4) }
    expect(sharpened(plane, 8, { amount: 0, radius: 1 }).samples).toEqual(plane.samples)
    const flat = { width: 9, height: 5, samples: new Uint8Array(45).fill(77) }
    expect(sharpened(flat, 8, { amount: 5, radius: 2 }).samples).toEqual(flat.samples)
  })

  it('makes an edge steeper, by its amount', () => {
    const edge = { width: 8, height: 1, samples: Uint8Array.from([50, 50, 50, 50, 150, 150, 150, 150]) }
    const { samples } = sharpened(edge, 8, { amount: 1, radius: 0.5 })
    // G of radius 0.5 has 0.1065, 0.7866, 0.1065 (and 0.0003 beyond): beside the edge 10.7 codes lie apart.
    expect([...samples]).toEqual([50, 50, 50, 39, 161, 150, 150, 150])
  })
})
