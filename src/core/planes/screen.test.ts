import { describe, expect, it } from 'vitest'
import { type Meaning, lightOfHlg, lightOfPq, toScreen, toneMapped } from './screen'
import type { Planes } from './planes'

const sdr: Meaning = { matrix: 'bt709', primaries: 'bt709', transfer: 'bt709', range: 'limited' }

const pixel = (y: number, cb: number, cr: number, bitDepth = 8, alpha: number | null = null): Planes => {
  const sample = (value: number) => (bitDepth > 8 ? Uint16Array.of(value) : Uint8Array.of(value))
  return {
    width: 1,
    height: 1,
    bitDepth,
    across: 1,
    down: 1,
    luma: sample(y),
    chroma: { cb: sample(cb), cr: sample(cr) },
    alpha: alpha === null ? null : sample(alpha),
  }
}
const shown = (planes: Planes, meaning: Partial<Meaning> = {}) => [
  ...toScreen(planes, { ...sdr, ...meaning }).data,
]

describe('a picture for the screen', () => {
  it('knows black, white and grey of both ranges and every depth', () => {
    expect(shown(pixel(16, 128, 128))).toEqual([0, 0, 0, 255])
    expect(shown(pixel(235, 128, 128))).toEqual([255, 255, 255, 255])
    expect(shown(pixel(940, 512, 512, 10))).toEqual([255, 255, 255, 255])
    expect(shown(pixel(128, 128, 128), { range: 'full' })).toEqual([128, 128, 128, 255])
    expect(shown(pixel(16, 128, 128), { range: 'full' })).toEqual([16, 16, 16, 255])
    expect(shown(pixel(4096, 32768, 32768, 16))).toEqual([0, 0, 0, 255])
  })

  it('gives full red, green and blue by the matrix that they were coded with', () => {
    // The codes of 100 % colours: BT.601 after its table, BT.709 and BT.2020 after theirs.
    expect(shown(pixel(81, 90, 240), { matrix: 'bt601-625' })).toEqual([254, 0, 0, 255])
    expect(shown(pixel(145, 54, 34), { matrix: 'bt601-525' })).toEqual([0, 255, 1, 255])
    expect(shown(pixel(63, 102, 240))).toEqual([255, 1, 0, 255])
    expect(shown(pixel(173, 42, 26))).toEqual([0, 255, 1, 255])
    expect(shown(pixel(32, 240, 118))).toEqual([1, 0, 255, 255])
    const [red] = shown(pixel(74, 97, 240), { matrix: 'bt2020' })
    expect(red).toBe(255)
  })

  it('keeps opacity, and is grey without colour', () => {
    expect(shown(pixel(235, 128, 128, 8, 51))).toEqual([255, 255, 255, 51])
    expect(shown({ ...pixel(126, 0, 0), chroma: null })).toEqual([128, 128, 128, 255])
  })

  it('takes chroma from where it lies, and with a stride every so many pixels', () => {
    const planes: Planes = {
      width: 4,
      height: 2,
      bitDepth: 8,
      across: 2,
      down: 2,
      luma: Uint8Array.of(81, 81, 145, 145, 81, 81, 145, 145),
      chroma: { cb: Uint8Array.of(90, 54), cr: Uint8Array.of(240, 34) },
      alpha: null,
    }
    const whole = toScreen(planes, { ...sdr, matrix: 'bt601-625' })
    expect([...whole.data.subarray(0, 4)]).toEqual([254, 0, 0, 255])
    expect([...whole.data.subarray(8, 12)]).toEqual([0, 255, 1, 255])
    expect(whole.data.subarray(16, 32)).toEqual(whole.data.subarray(0, 16))
    const small = toScreen(planes, { ...sdr, matrix: 'bt601-625' }, 2)
    expect([small.width, small.height]).toEqual([2, 1])
    expect([...small.data]).toEqual([254, 0, 0, 255, 0, 255, 1, 255])
  })

  it('brings colours of BT.2020 to what a screen has', () => {
    const grey = shown(pixel(126, 128, 128), { matrix: 'bt2020', primaries: 'bt2020' })
    for (const channel of grey.slice(0, 3)) expect(Math.abs(channel - 128)).toBeLessThanOrEqual(1)
    // BT.709 red, written in BT.2020: 0.6274, 0.0691, 0.0164 of light, so of signal by 1/2.4.
    const [r, g, b] = [0.6274, 0.0691, 0.0164].map((light) => light ** (1 / 2.4)) as [number, number, number]
    const y = 0.2627 * r + 0.678 * g + 0.0593 * b
    const code = (part: number, span: number, from: number) => Math.round(from + part * span)
    const red = pixel(
      code(y, 876, 64),
      code((b - y) / 1.8814, 896, 512),
      code((r - y) / 1.4746, 896, 512),
      10,
    )
    const [red709, green709, blue709] = shown(red, { matrix: 'bt2020', primaries: 'bt2020' })
    expect(red709).toBeGreaterThan(252)
    expect(Math.max(green709!, blue709!)).toBeLessThan(25)
  })
})

describe('high dynamic range', () => {
  it('PQ: known levels of light', () => {
    // ST 2084: 100 cd/m² is a signal of 0.5081, 203 of 0.5807, 1000 of 0.7518.
    expect(lightOfPq(0.5081) * 1000).toBeCloseTo(100, 0)
    expect(lightOfPq(0.5807) * 1000).toBeCloseTo(203, 0)
    expect(lightOfPq(0.7518)).toBeCloseTo(1, 2)
    expect(lightOfPq(1)).toBe(1)
    expect(lightOfPq(0)).toBe(0)
  })

  it('HLG: the knee at a half, the peak at one', () => {
    expect(lightOfHlg(0.5)).toBeCloseTo(1 / 12, 6)
    expect(lightOfHlg(1)).toBeCloseTo(1, 5)
    expect(lightOfHlg(0.75)).toBeCloseTo(0.265, 3)
  })

  it('is bent to what is seen at 100 cd/m²: black and white stay, all rises, what is bright is pressed together', () => {
    expect(toneMapped(0)).toBe(0)
    expect(toneMapped(1)).toBeCloseTo(1, 6)
    let before = 0
    for (let luma = 0.01; luma <= 1; luma += 0.01) {
      expect(toneMapped(luma)).toBeGreaterThan(before)
      before = toneMapped(luma)
    }
    // 203 cd/m² of 1000, the white of graphics, reckoned by hand through the steps of the method.
    expect(toneMapped(0.203 ** (1 / 2.4))).toBeCloseTo(0.6869, 3)
  })

  it.each(['pq', 'hlg'] as const)('%s stays grey where it is grey, and rises to white', (transfer) => {
    const meaning = { matrix: 'bt2020', primaries: 'bt2020', transfer }
    let before = -1
    for (const y of [64, 200, 350, 500, 650, 720]) {
      const [r, g, b] = shown(pixel(y, 512, 512, 10), meaning) as [number, number, number]
      expect(Math.max(r, g, b) - Math.min(r, g, b)).toBeLessThanOrEqual(2)
      expect(g).toBeGreaterThanOrEqual(before)
      before = g
    }
    expect(
      shown(pixel(940, 512, 512, 10), meaning)
        .slice(0, 3)
        .every((c) => c > 250),
    ).toBe(true)
  })
})
