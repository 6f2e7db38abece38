import { describe, expect, it } from 'vitest'
import { snapFrames, snapped } from './snapping'

const placement = (id: string, start: number, length: number) => ({ id, start, length }) as never

describe('an edge', () => {
  const frames = snapFrames([placement('a', 0, 100), placement('b', 150, 50)], new Set(['b']), 40)
  it('is drawn to the ends of what is not moved, to the playhead and to the beginning', () => {
    expect(frames).toEqual([0, 40, 100])
    // Two pixels a frame: four frames are near.
    expect(snapped(-47, [150, 200], frames, 2)).toBe(-50)
    expect(snapped(-103, [150, 200], frames, 2)).toBe(-100)
    expect(snapped(-113, [150, 200], frames, 2)).toBe(-110)
  })
  it('stays where it is meant where nothing is near', () => {
    expect(snapped(-20, [150, 200], frames, 2)).toBe(-20)
    expect(snapped(-47, [150, 200], frames, 40)).toBe(-47)
    expect(snapped(7, [150], [], 2)).toBe(7)
  })
})
