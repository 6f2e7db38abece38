import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { Luma } from '../planes/luma'
import { measurePair } from './pair'
import { gatherMeans } from './bars'
import { simdCombs, simdMeans, simdPairs } from './simd'

/** A picture of noise; of few levels, so that equal neighbours and thresholds are met often. */
const noisy = fc
  .record({
    width: fc.integer({ min: 1, max: 70 }),
    height: fc.integer({ min: 1, max: 70 }),
    seed: fc.integer({ min: 1, max: 2 ** 30 }),
    levels: fc.constantFrom(2, 16, 17, 40, 256),
  })
  .map(({ width, height, seed, levels }) => {
    let x = seed
    const picture = (): Luma => ({
      width,
      height,
      data: Uint8Array.from({ length: width * height }, () => {
        x = (Math.imul(x, 1103515245) + 12345) >>> 0
        return Math.round((((x >>> 16) % levels) * 255) / (levels - 1))
      }),
    })
    return [picture(), picture(), picture()] as const
  })

describe('the pass over pairs in SIMD', () => {
  it('is equal to the reference sum by sum, on planes of any size', () => {
    const kernel = simdPairs()
    fc.assert(
      fc.property(noisy, ([a, b, c]) => {
        expect(kernel(a, b)).toEqual(measurePair(a, b))
        // As in a run: the second frame is the first of the next pair, and may come again.
        expect(kernel(b, c)).toEqual(measurePair(b, c))
        expect(kernel(c, a)).toEqual(measurePair(c, a))
        expect(kernel(a, a)).toEqual(measurePair(a, a))
      }),
      { numRuns: 300 },
    )
  })

  it('reaches the largest sums without running over', () => {
    const flat = (value: (x: number, y: number) => number): Luma => ({
      width: 32,
      height: 48,
      data: Uint8Array.from({ length: 32 * 48 }, (_, i) => value(i % 32, Math.floor(i / 32))),
    })
    const [stripes, inverse] = [flat((_, y) => (y % 2) * 255), flat((_, y) => 255 - (y % 2) * 255)]
    expect(simdPairs()(stripes, inverse)).toEqual(measurePair(stripes, inverse))
  })

  it('counts combs alone as the whole pass does', () => {
    const combs = simdCombs()
    fc.assert(
      fc.property(noisy, ([a, b]) => {
        const { n1, n2 } = measurePair(a, b)
        combs.place(a)
        expect(combs.count()).toEqual({ n1, n2 })
      }),
      { numRuns: 100 },
    )
  })
})

describe('line means in SIMD', () => {
  it('are equal to the reference byte for byte, frame upon frame, on planes of any size', () => {
    fc.assert(
      fc.property(noisy, (frames) => {
        const [plain, fast] = [gatherMeans(), simdMeans()]
        expect(fast.means()).toBeNull()
        for (const frame of frames) {
          plain.add(frame)
          fast.add(frame)
          expect(fast.means()).toEqual(plain.means())
        }
        expect(fast.frames).toBe(3)
      }),
      { numRuns: 200 },
    )
  })
})
