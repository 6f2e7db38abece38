import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { Planes, Samples } from '../planes/planes'
import { type Kept, blend, fieldMadeWhole, plainFields } from './deinterlace'
import { simdFields } from './simd'
import type { Parity } from '../picture/scan'

const top: Kept = { parity: 'top', isFirst: true }
const bottom: Kept = { parity: 'bottom', isFirst: false }

/** A grey picture of lines of one value each. */
function lines(...values: number[]): Planes {
  const width = 16
  return {
    width,
    height: values.length,
    bitDepth: 8,
    across: 2,
    down: 2,
    luma: Uint8Array.from(values.flatMap((value) => Array<number>(width).fill(value))),
    chroma: null,
    alpha: null,
  }
}
/** The values of its lines, where each has one. */
const valuesOf = ({ width, height, luma }: Planes) =>
  Array.from({ length: height }, (_, y) => {
    const line = luma.subarray(y * width, (y + 1) * width)
    expect(new Set(line).size).toBe(1)
    return line[0]
  })
const alone = (planes: Planes) => ({ before: null, current: planes, after: null })

describe('the missing lines of a field', () => {
  it('lie on a curve through four kept ones, with the last kept one again beyond the edges', () => {
    const frame = lines(10, 0, 20, 0, 60, 0, 60, 0)
    // (−p + 9a + 9b − n + 8) >> 4
    const between = (p: number, a: number, b: number, n: number) => (-p + 9 * a + 9 * b - n + 8) >> 4
    expect(valuesOf(fieldMadeWhole(alone(frame), top, 'interpolate'))).toEqual([
      10,
      between(10, 10, 20, 60),
      20,
      between(10, 20, 60, 60),
      60,
      between(20, 60, 60, 60),
      60,
      60,
    ])
    const odd = lines(0, 100, 0, 200, 0)
    expect(valuesOf(fieldMadeWhole(alone(odd), bottom, 'interpolate'))).toEqual([
      between(100, 100, 100, 200),
      100,
      between(100, 100, 200, 200),
      200,
      between(100, 200, 200, 200),
    ])
  })

  it('are bounded where the curve leaves what a sample can hold', () => {
    const values = valuesOf(fieldMadeWhole(alone(lines(0, 9, 255, 9, 255, 9, 0, 9)), top, 'interpolate'))
    expect(Math.max(...(values as number[]))).toBe(255)
    expect(valuesOf(fieldMadeWhole(alone(lines(255, 9, 0, 9, 0, 9, 255, 9)), top, 'interpolate'))[3]).toBe(0)
  })

  it('are the kept one of their pair, a last one without partner the nearest', () => {
    expect(valuesOf(fieldMadeWhole(alone(lines(1, 2, 3, 4, 5)), top, 'single'))).toEqual([1, 1, 3, 3, 5])
    expect(valuesOf(fieldMadeWhole(alone(lines(1, 2, 3, 4, 5)), bottom, 'single'))).toEqual([2, 2, 4, 4, 4])
  })

  it('are mixed with their neighbours where both fields are averaged', () => {
    expect(valuesOf(blend(lines(0, 100, 0, 100)))).toEqual([25, 50, 50, 75])
  })

  it('leave a picture of one line as it is', () => {
    for (const kept of [top, bottom])
      for (const method of ['interpolate', 'single', 'adaptive'] as const)
        expect(valuesOf(fieldMadeWhole(alone(lines(7)), kept, method))).toEqual([7])
  })
})

describe('adaptive', () => {
  /** A frame of 32×32: both fields flat, but a square of another value in one of them. */
  function frame(field: Parity, square: number | null): Planes {
    const luma = new Uint8Array(32 * 32)
    for (let y = 0; y < 32; y++)
      for (let x = 0; x < 32; x++) {
        const isIn = square !== null && x >= 16 && x < 24 && y >= 16 && y < 24
        luma[y * 32 + x] = y % 2 === (field === 'top' ? 0 : 1) ? (isIn ? square : 40) : 200
      }
    const chroma = { cb: new Uint8Array(16 * 16).fill(1), cr: new Uint8Array(16 * 16).fill(2) }
    for (let y = 1; y < 16; y += 2) chroma.cb.fill(9, y * 16, (y + 1) * 16)
    return { width: 32, height: 32, bitDepth: 8, across: 2, down: 2, luma, chroma, alpha: null }
  }
  const at = ({ luma }: Planes, x: number, y: number) => luma[y * 32 + x]

  it('weaves where the other field stands still, and interpolates where it moves and beside it', () => {
    // The bottom field is the other one of a kept top field.
    const [before, planes] = [frame('bottom', null), frame('bottom', 90)]
    const untouched = fieldMadeWhole({ before, current: planes, after: null }, top, 'adaptive')
    expect(at(untouched, 2, 3)).toBe(40)
    expect(at(untouched, 18, 17)).toBe(200)
    expect(at(untouched, 10, 17)).toBe(200)
    expect(at(untouched, 18, 9)).toBe(200)
    expect(at(untouched, 2, 17)).toBe(40)
    // A block at the corner of one that moves is no neighbour.
    expect(at(untouched, 10, 9)).toBe(40)
  })

  it('looks at frames on both sides of the kept field’s moment: before it for the first, behind it for the second', () => {
    const [still, moved] = [frame('bottom', null), frame('bottom', 90)]
    const first = fieldMadeWhole({ before: still, current: still, after: moved }, top, 'adaptive')
    expect(at(first, 18, 17)).toBe(40)
    const [stillTop, movedTop] = [frame('top', null), frame('top', 90)]
    const second = fieldMadeWhole(
      { before: movedTop, current: stillTop, after: stillTop },
      bottom,
      'adaptive',
    )
    expect(at(second, 18, 16)).toBe(40)
    const moving = fieldMadeWhole(
      { before: stillTop, current: stillTop, after: movedTop },
      bottom,
      'adaptive',
    )
    expect(at(moving, 18, 16)).toBe(200)
  })

  it('at an end compares the two frames there, and moves everywhere in a clip of one', () => {
    const [still, moved] = [frame('bottom', null), frame('bottom', 90)]
    expect(at(fieldMadeWhole({ before: null, current: still, after: moved }, top, 'adaptive'), 18, 17)).toBe(
      200,
    )
    expect(at(fieldMadeWhole({ before: null, current: still, after: still }, top, 'adaptive'), 18, 17)).toBe(
      40,
    )
    expect(at(fieldMadeWhole(alone(still), top, 'adaptive'), 18, 17)).toBe(200)
  })

  it('tells by four samples of a block that differ by more than twelve codes', () => {
    const still = frame('bottom', null)
    const differing = (samples: number, by: number): Planes => {
      const luma = still.luma.slice()
      for (let i = 0; i < samples; i++) luma[(17 + 2 * (i >> 3)) * 32 + 16 + (i & 7)] = 40 + by
      return { ...still, luma }
    }
    const seen = (other: Planes) =>
      at(fieldMadeWhole({ before: other, current: still, after: null }, top, 'adaptive'), 18, 21)
    expect(seen(differing(4, 13))).toBe(200)
    expect(seen(differing(3, 13))).toBe(40)
    expect(seen(differing(8, 12))).toBe(40)
  })

  it('takes chroma as the luma block that it lies on', () => {
    const [before, planes] = [frame('bottom', null), frame('bottom', 90)]
    const { chroma } = fieldMadeWhole({ before, current: planes, after: null }, top, 'adaptive')
    const cb = (x: number, y: number) => chroma!.cb[y * 16 + x]
    expect(cb(1, 1)).toBe(9)
    expect(cb(9, 9)).toBe(1)
    expect(cb(5, 5)).toBe(9)
  })
})

describe('the kernels in SIMD', () => {
  const picture = fc
    .record({
      width: fc.integer({ min: 1, max: 70 }),
      height: fc.integer({ min: 1, max: 50 }),
      bitDepth: fc.constantFrom(8, 9, 10, 12, 16),
      seed: fc.integer({ min: 1, max: 2 ** 30 }),
      levels: fc.constantFrom(2, 5, 22, 256),
    })
    .map(({ width, height, bitDepth, seed, levels }) => {
      let x = seed
      const plane = (w: number, h: number): Samples => {
        const samples = bitDepth > 8 ? new Uint16Array(w * h) : new Uint8Array(w * h)
        for (let i = 0; i < samples.length; i++) {
          x = (Math.imul(x, 1103515245) + 12345) >>> 0
          samples[i] = Math.round((((x >>> 16) % levels) * (2 ** bitDepth - 1)) / (levels - 1))
        }
        return samples
      }
      const [w, h] = [Math.ceil(width / 2), Math.ceil(height / 2)]
      const planes = (): Planes => ({
        width,
        height,
        bitDepth,
        across: 2,
        down: 2,
        luma: plane(width, height),
        chroma: { cb: plane(w, h), cr: plane(w, h) },
        alpha: plane(width, height),
      })
      return { before: planes(), current: planes(), after: planes() }
    })

  it('are equal to the reference sample by sample, in every method, on planes of any size and depth', () => {
    const simd = simdFields()
    fc.assert(
      fc.property(picture, fc.constantFrom(top, bottom), (around, kept) => {
        for (const method of ['interpolate', 'single', 'adaptive'] as const)
          expect(fieldMadeWhole(around, kept, method, simd)).toEqual(
            fieldMadeWhole(around, kept, method, plainFields),
          )
        expect(blend(around.current, simd)).toEqual(blend(around.current, plainFields))
      }),
      { numRuns: 200 },
    )
  })
})
