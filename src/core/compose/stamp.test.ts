import { describe, expect, it } from 'vitest'
import { stamped } from './stamp'

const picture = (bitDepth: number) => {
  const make = (count: number, value: number) =>
    bitDepth > 8 ? new Uint16Array(count).fill(value) : new Uint8Array(count).fill(value)
  const scale = 2 ** (bitDepth - 8)
  return {
    ...{ width: 8, height: 6, bitDepth, across: 2, down: 2 },
    luma: make(48, 100 * scale),
    chroma: { cb: make(12, 60 * scale), cr: make(12, 200 * scale) },
    alpha: null,
  }
}
const stamp = (x: number, y: number, grey: number, cover: number) => ({
  ...{ x, y, width: 4, height: 2 },
  grey: new Uint8Array(8).fill(grey),
  cover: new Uint8Array(8).fill(cover),
})

describe('what is written into a picture', () => {
  it('covers what is under it, and nothing else', () => {
    const { luma, chroma } = stamped(picture(8), stamp(2, 2, 255, 255))
    expect([...luma.slice(16, 24)]).toEqual([100, 100, 235, 235, 235, 235, 100, 100])
    expect([...luma.slice(0, 16)].every((value) => value === 100)).toBe(true)
    expect([...chroma!.cb]).toEqual([60, 60, 60, 60, 60, 128, 128, 60, 60, 60, 60, 60])
    expect(chroma!.cr[5]).toBe(128)
  })
  it('lets through what it covers in part, at every depth', () => {
    const { luma, chroma } = stamped(picture(10), stamp(2, 2, 0, 51))
    expect(luma[18]).toBe(Math.round(400 * 0.8 + 64 * 0.2))
    expect(chroma!.cb[5]).toBe(Math.round(240 * 0.8 + 512 * 0.2))
  })
  it('leaves out what lies outside', () => {
    const { luma, chroma } = stamped(picture(8), stamp(-3, 5, 255, 255))
    expect([...luma.slice(40, 43)]).toEqual([235, 100, 100])
    // A quarter of the samples that share it is covered.
    expect(chroma!.cb[8]).toBe(60 + 17)
  })
})
