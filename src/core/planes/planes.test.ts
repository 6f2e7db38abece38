import { describe, expect, it } from 'vitest'
import { bytesOfLayout, lumaOf, planesOf } from './planes'

const layout = { width: 3, height: 3, bitDepth: 8, across: 2, down: 2, planeCount: 3 }
const counted = (length: number) => Uint8Array.from({ length }, (_, i) => i)

describe('planes of a decoded picture', () => {
  it('follow each other; of odd sizes a half sample of chroma is a whole one', () => {
    expect(bytesOfLayout(layout)).toBe(9 + 2 * 4)
    const { luma, chroma, alpha } = planesOf(layout, counted(17))
    expect([...luma]).toEqual([0, 1, 2, 3, 4, 5, 6, 7, 8])
    expect([...chroma!.cb]).toEqual([9, 10, 11, 12])
    expect([...chroma!.cr]).toEqual([13, 14, 15, 16])
    expect(alpha).toBeNull()
  })

  it('have alpha last, and no chroma without colour', () => {
    const clear = { ...layout, width: 2, height: 1, across: 1, down: 1, planeCount: 4 }
    expect(bytesOfLayout(clear)).toBe(8)
    expect([...planesOf(clear, counted(8)).alpha!]).toEqual([6, 7])
    const grey = { ...clear, planeCount: 1 }
    expect(bytesOfLayout(grey)).toBe(2)
    expect(planesOf(grey, counted(2)).chroma).toBeNull()
  })

  it('of more than 8 bits have the lower byte first, wherever their bytes begin', () => {
    const deep = { ...layout, width: 2, height: 1, bitDepth: 10, across: 1, down: 1, planeCount: 1 }
    const bytes = Uint8Array.of(9, 0xff, 0x03, 0x00, 0x02)
    const planes = planesOf(deep, bytes.subarray(1))
    expect([...planes.luma]).toEqual([1023, 512])
    expect([...lumaOf(planes).data]).toEqual([255, 128])
  })

  it('give luma as a copy, so that the picture can be let go', () => {
    const planes = planesOf(layout, counted(17))
    const luma = lumaOf(planes)
    expect([...luma.data]).toEqual([...planes.luma])
    expect(luma.data.buffer.byteLength).toBe(9)
  })
})
