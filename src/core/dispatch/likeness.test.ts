import { describe, expect, it } from 'vitest'
import type { Planes } from '../planes/planes'
import {
  type Reduced,
  decibels,
  judged,
  levelsOf,
  meanOffset,
  reduced,
  swapped,
  unlikeness,
  wholeDifference,
} from './likeness'

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
const picture = (...bars: Parameters<typeof barAt>) => reduced(barAt(...bars))
const beside = (n: number) => ({ before: picture((n - 1) * 12), after: picture((n + 1) * 12) })

/** A bar as it was found, where one was planned. */
function verdictOf(
  found: Parameters<typeof barAt>,
  planned: Parameters<typeof barAt>,
  others: Record<string, Reduced>,
) {
  const [had, plan] = [barAt(...found), barAt(...planned)]
  return judged(reduced(had), reduced(plan), others, wholeDifference(had, plan))
}

describe('a frame that was made', () => {
  it('is the planned one where it is nearest to it', () => {
    const verdict = verdictOf([120, 0, 4], [120], beside(10))
    expect(verdict).toMatchObject({ verdict: 'planned', like: null })
    // Of the whole picture, sample by sample: noise of ±4 codes.
    expect(verdict.decibels).toBeCloseTo(20 * Math.log10((255 * Math.sqrt(3)) / 4), 0)
  })
  it('is told to be another where a frame was shown again, or one was lost', () => {
    expect(verdictOf([108, 0, 4], [120], beside(10))).toMatchObject({ verdict: 'another', like: 'before' })
    expect(verdictOf([132, 0, 4], [120], beside(10))).toMatchObject({ verdict: 'another', like: 'after' })
  })
  it('is told to have its fields swapped', () => {
    const planned = picture(120, 6)
    const others = { ...beside(10), 'its fields swapped': swapped(planned) }
    expect(verdictOf([120, 6, 3], [120, 6], others).verdict).toBe('planned')
    const wrong = swapped(picture(120, 6, 3))
    const none = { meanSquare: 1, differsAt: null }
    expect(judged(wrong, planned, others, none)).toMatchObject({
      verdict: 'another',
      like: 'its fields swapped',
    })
  })
  it('cannot be told where a neighbour is nearly as like, and needs not be where it shows the same', () => {
    const [plan, after] = [picture(120), picture(132)]
    const between = {
      ...plan,
      values: plan.values.map((value, i) => value + 0.45 * (after.values[i]! - value)),
    }
    const none = { meanSquare: 40, differsAt: null }
    expect(judged(between, plan, { after }, none).verdict).toBe('cannot-tell')
    expect(verdictOf([120, 0, 8], [120], { before: picture(120), after: picture(120) }).verdict).toBe(
      'planned',
    )
  })
  it('is another where any part of it is, whatever lies beside it', () => {
    const plan = barAt(120)
    const found = { ...plan, luma: plan.luma.slice() }
    for (let y = 40; y < 72; y++) found.luma.fill(90, y * 640 + 320, y * 640 + 352)
    expect(judged(reduced(found), reduced(plan), {}, wholeDifference(found, plan))).toMatchObject({
      verdict: 'another',
      like: 'none that was planned at 320, 32',
    })
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
      const levels = levelsOf([[picture(100).values, picture(100, 0, 3, scale, offset).values]])!
      return [levels.slope, levels.offset].map((value) => Number(value.toFixed(2)))
    }
    expect(level(1, 0)).toEqual([1, expect.closeTo(0, 0)])
    // Limited range taken for full: 219 codes become 255.
    const [slope, offset] = level(255 / 219, -16 * (255 / 219))
    expect(slope).toBeCloseTo(1.16, 1)
    expect(offset).toBeLessThan(-10)
    const flat = reduced({ ...barAt(0), luma: new Uint8Array(640 * 96).fill(80) })
    expect(levelsOf([[flat.values, flat.values]])).toBeNull()
    expect(meanOffset([[flat.values, flat.values.map((value) => value + 3)]])).toBeCloseTo(3)
    expect(meanOffset([])).toBeNull()
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
