import { describe, expect, it } from 'vitest'
import type { Placement } from '../../../../core/model/timeline'
import { rational } from '../../../../core/rational/rational'
import { fitted, frameAtPixel, inView, perFrame, pixelOf, rulerMarks, scrolled, zoomed } from './time-scale'

const r25 = rational(25)
const scale = { perSecond: 100, from: 50 }

describe('the time scale of the strip', () => {
  it('maps frames to pixels and back', () => {
    expect(perFrame(scale, r25)).toBe(4)
    expect(pixelOf(scale, r25, 75)).toBe(100)
    expect(frameAtPixel(scale, r25, 100)).toBe(75)
    expect(frameAtPixel(scale, r25, 103.9)).toBe(75)
  })

  it('fits all of a timeline, and zooms about a pixel', () => {
    expect(fitted(500, r25, 1000)).toEqual({ perSecond: 50, from: 0 })
    const near = zoomed(scale, r25, 2, 100)
    expect(near.perSecond).toBe(200)
    expect(pixelOf(near, r25, 75)).toBeCloseTo(100, 9)
    expect(zoomed({ perSecond: 100, from: 0 }, r25, 0.5, 400).from).toBe(0)
    expect(zoomed(scale, r25, 1e9, 0).perSecond).toBe(4000)
    expect(fitted(1e9, r25, 100).perSecond).toBe(0.05)
  })

  it('scrolls within the timeline', () => {
    expect(scrolled(scale, r25, 40, 1000, 400).from).toBe(60)
    expect(scrolled(scale, r25, -4000, 1000, 400).from).toBe(0)
    expect(scrolled(scale, r25, 1e9, 1000, 400).from).toBe(950)
    expect(scrolled(scale, r25, 1e9, 10, 400).from).toBe(0)
  })

  it('draws only the placements in view, however many there are', () => {
    const placements = Array.from(
      { length: 1000 },
      (_, i) => ({ id: String(i), start: 10 * i, length: 8 }) as Placement,
    )
    const seen = inView(placements, { perSecond: 100, from: 500 }, r25, 100)
    expect(seen.map(({ start }) => start)).toEqual([500, 510, 520])
    // One that reaches in from the left, and one in a gap.
    expect(inView(placements, { perSecond: 100, from: 505 }, r25, 4)[0]!.start).toBe(500)
    expect(inView(placements, { perSecond: 100, from: 508 }, r25, 4)).toEqual([])
    expect(inView([], scale, r25, 100)).toEqual([])
  })

  it('marks whole seconds, and frames where there is room', () => {
    expect(rulerMarks({ perSecond: 110, from: 0 }, r25, 330)).toEqual([0, 25, 50])
    expect(rulerMarks({ perSecond: 30, from: 130 }, r25, 250)).toEqual([125, 250])
    expect(rulerMarks({ perSecond: 4000, from: 0 }, r25, 400)).toEqual([0, 1, 2])
    expect(rulerMarks({ perSecond: 0.05, from: 0 }, r25, 100).length).toBeLessThan(3)
  })
})
