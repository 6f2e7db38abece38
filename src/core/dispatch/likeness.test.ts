import { describe, expect, it } from 'vitest'
import type { Planes } from '../planes/planes'
import { decibels, envelope, judged, lagOf, levelsOf, reduced, swapped, unlikeness } from './likeness'

/** A picture with a bright bar whose top field is some pixels behind its bottom field; noise as a coder leaves it. */
function barAt(at: number, behind = 0, noise = 0, scale = 1, offset = 0): Planes {
  const [width, height] = [640, 96]
  let seed = at * 7919 + 1
  const luma = Uint8Array.from({ length: width * height }, (_, i) => {
    const [x, y] = [i % width, Math.floor(i / width)]
    const left = at + (y % 2 ? behind : 0)
    seed = (seed * 1664525 + 1013904223) % 2 ** 32
    const value = (x >= left && x < left + 40 ? 200 : 60) + noise * (seed / 2 ** 31 - 1)
    return Math.round(value * scale + offset)
  })
  return { width, height, bitDepth: 8, across: 1, down: 1, luma, chroma: null, alpha: null }
}
const picture = (...of: Parameters<typeof barAt>) => reduced(barAt(...of))
const beside = (n: number) => ({ before: picture((n - 1) * 12), after: picture((n + 1) * 12) })

describe('a frame that was made', () => {
  it('is the planned one where it is nearest to it', () => {
    const verdict = judged(picture(120, 0, 4), picture(120), beside(10))
    expect(verdict).toMatchObject({ verdict: 'planned', like: null })
    expect(verdict.decibels).toBeGreaterThan(40)
  })
  it('is told to be another where a frame was shown again, or one was lost', () => {
    expect(judged(picture(108, 0, 4), picture(120), beside(10))).toMatchObject({
      verdict: 'another',
      like: 'before',
    })
    expect(judged(picture(132, 0, 4), picture(120), beside(10))).toMatchObject({
      verdict: 'another',
      like: 'after',
    })
  })
  it('is told to have its fields swapped', () => {
    const planned = picture(120, 6)
    const others = { ...beside(10), 'its fields swapped': swapped(planned) }
    expect(judged(picture(120, 6, 3), planned, others).verdict).toBe('planned')
    const wrong = swapped(picture(120, 6, 3))
    expect(judged(wrong, planned, others)).toMatchObject({ verdict: 'another', like: 'its fields swapped' })
  })
  it('cannot be told where what lies beside it is as like as the coding is wrong', () => {
    const still = { before: picture(120), after: picture(120) }
    expect(judged(picture(120, 0, 8), picture(120), still).verdict).toBe('cannot-tell')
  })
  it('is unlike any of another size', () => {
    const small = reduced({ ...barAt(0), width: 320, height: 192 })
    expect(unlikeness(small, picture(0))).toBe(Infinity)
    expect(decibels(0)).toBe(Infinity)
  })
})

describe('levels', () => {
  it('are one to one, or stretched, or lifted', () => {
    const level = (scale: number, offset: number) => {
      const made = levelsOf([[picture(100).values, picture(100, 0, 3, scale, offset).values]])!
      return [made.slope, made.offset].map((value) => Number(value.toFixed(2)))
    }
    expect(level(1, 0)).toEqual([1, expect.closeTo(0, 0)])
    // Limited range taken for full: 219 codes become 255.
    const [slope, offset] = level(255 / 219, -16 * (255 / 219))
    expect(slope).toBeCloseTo(1.16, 1)
    expect(offset).toBeLessThan(-10)
    const flat = reduced({ ...barAt(0), luma: new Uint8Array(640 * 96).fill(80) })
    expect(levelsOf([[flat.values, flat.values]])).toBeNull()
  })
})

describe('colours', () => {
  const bars = (scale: number) => {
    const chroma = (turn: number) =>
      Uint8Array.from(
        { length: 320 * 48 },
        (_, i) => 128 + scale * 60 * Math.sin(((i % 320) / 320) * 6 + turn),
      )
    return reduced({ ...barAt(0), across: 2, down: 2, chroma: { cb: chroma(0), cr: chroma(2) } })
  }
  it('are as they were, or paler; too little of them cannot be told', () => {
    const held = (scale: number) => levelsOf([[bars(1).colours, bars(scale).colours]], 3)!.slope
    expect(held(1)).toBeCloseTo(1)
    expect(held(0.9)).toBeCloseTo(0.9, 1)
    expect(levelsOf([[bars(0.02).colours, bars(0.02).colours]], 3)).toBeNull()
    expect(picture(0).colours).toHaveLength(0)
  })
})

describe('sound', () => {
  /** Strikes at uneven times that die away. */
  const strikes = (late = 0) =>
    Float32Array.from({ length: 48_000 * 4 }, (_, i) =>
      [0.4, 1.1, 2.3, 2.9].reduce((sum, at) => {
        const since = i / 48_000 - at - late
        return since < 0 ? sum : sum + Math.exp(-8 * since) * Math.sin(2 * Math.PI * 440 * since)
      }, 0),
    )
  const lag = (late: number) => lagOf(envelope(strikes(), 48_000), envelope(strikes(late), 48_000))
  it.each([0, 0.04, -0.03, 0.012])('%s s late is found to the millisecond', (late) => {
    expect(Math.abs(lag(late)! - late * 1000)).toBeLessThanOrEqual(1)
  })
  it('that is silent, or another, cannot be told', () => {
    const silence = new Float32Array(4000)
    expect(lagOf(silence, silence)).toBeNull()
    const other = envelope(strikes(), 48_000).map((_, i) => ((i * 7919) % 997) / 997)
    expect(lagOf(envelope(strikes(), 48_000), other)).toBeNull()
  })
})
