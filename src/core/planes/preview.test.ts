import { describe, expect, it } from 'vitest'
import type { Planes } from './planes'
import { hasPreview, previewer } from './preview'
import { type Meaning, toScreen } from './screen'

const meaning: Meaning = { matrix: 'bt709', primaries: 'bt709', transfer: 'bt709', range: 'limited' }

function picture(width: number, height: number): Planes {
  const [w, h] = [Math.ceil(width / 2), Math.ceil(height / 2)]
  const plane = (count: number, salt: number) =>
    Uint8Array.from({ length: count }, (_, i) => 16 + ((i * 31 + salt * 57) % 220))
  return {
    width,
    height,
    bitDepth: 8,
    across: 2,
    down: 2,
    luma: plane(width * height, 0),
    chroma: { cb: plane(w * h, 1), cr: plane(w * h, 2) },
    alpha: null,
  }
}

describe('a picture for playing', () => {
  it('is at its own size what the screen shows, within a code', () => {
    for (const range of ['limited', 'full'] as const)
      for (const matrix of ['bt709', 'bt601-625']) {
        const read = { ...meaning, range, matrix }
        const planes = picture(37, 21)
        const { data } = previewer(planes, read, 37, 21)(planes)
        const exact = toScreen(planes, read).data
        expect(Math.max(...data.map((value, i) => Math.abs(value - exact[i]!)))).toBeLessThanOrEqual(1)
      }
  })

  it('is small where it is wanted so, its brightness kept', () => {
    const planes = picture(64, 48)
    planes.chroma!.cb.fill(128)
    planes.chroma!.cr.fill(128)
    planes.luma.forEach((_, i) => (planes.luma[i] = (i % 64) % 2 ? 200 : 100))
    const small = previewer(planes, meaning, 16, 12)(planes)
    expect([small.width, small.height]).toEqual([16, 12])
    for (let i = 0; i < small.data.length; i += 4)
      expect(Math.abs(small.data[i]! - 156)).toBeLessThanOrEqual(60)
  })

  it('can be of one field alone, and of more bits', () => {
    const planes = picture(32, 32)
    planes.luma.forEach((_, i) => (planes.luma[i] = Math.floor(i / 32) % 2 ? 200 : 60))
    planes.chroma!.cb.fill(128)
    planes.chroma!.cr.fill(128)
    const values = (field: 'top' | 'bottom', source = planes) =>
      new Set(previewer(source, meaning, 16, 12, field)(source).data.filter((_, i) => i % 4 === 1))
    expect([...values('top')]).toEqual([51])
    expect([...values('bottom')]).toEqual([214])
    const deep = (samples: Planes['luma']) => Uint16Array.from(samples, (v) => v * 4)
    const { cb, cr } = planes.chroma!
    const chroma = { cb: deep(cb), cr: deep(cr) }
    expect([...values('top', { ...planes, bitDepth: 10, luma: deep(planes.luma), chroma })]).toEqual([51])
  })

  it('is for plain pictures alone', () => {
    const planes = picture(4, 4)
    expect(hasPreview(planes, meaning)).toBe(true)
    expect(hasPreview(planes, { ...meaning, transfer: 'hlg' })).toBe(false)
    expect(hasPreview({ ...planes, chroma: null }, meaning)).toBe(false)
  })
})
