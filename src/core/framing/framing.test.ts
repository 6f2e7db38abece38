import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { parsePicture, parseSize } from '../format/parse'
import { fitPicture, hasHairline, sharpnessAtZoom } from './framing'

const fit = (source: string, frame: string, framing?: Parameters<typeof fitPicture>[2], zoom?: number) =>
  fitPicture(parsePicture(source)!, parseSize(frame)!, framing, zoom)

describe('framing', () => {
  it.each([
    ['3840x2160', '1920x1080', 1 / 2, 1 / 2, 0, 0, 2],
    ['1920x1080', '3840x2160', 2, 2, 0, 0, 1 / 2],
    ['1440x1080/4:3', '1920x1080', 4 / 3, 1, 0, 0, 3 / 4],
    ['720x576/64:45', '1920x1080', 8 / 3, 15 / 8, 0, 0, 3 / 8],
    ['1080x1920', '1920x1080', 9 / 16, 9 / 16, 175 / 256, 175 / 256, 16 / 9],
    ['4096x2160', '3840x2160', 15 / 16, 15 / 16, 1 / 16, 1 / 16, 16 / 15],
    ['640x480', '1920x1080', 9 / 4, 9 / 4, 1 / 4, 1 / 4, 4 / 9],
  ])('%s in %s', (source, frame, scaleX, scaleY, bars, crop, headroom) => {
    const fitted = fit(source, frame)
    expect(fitted.scaleX).toBeCloseTo(scaleX, 12)
    expect(fitted.scaleY).toBeCloseTo(scaleY, 12)
    expect(fitted.barsShare).toBeCloseTo(bars, 12)
    expect(fitted.cropShare).toBeCloseTo(0, 12)
    expect(fitted.headroom).toBeCloseTo(headroom, 12)
    expect(fit(source, frame, 'fill').cropShare).toBeCloseTo(crop, 12)
    expect(fitted.distortion).toBe(1)
  })

  it('tells a hairline and what filling would lose', () => {
    const fitted = fit('2704x1520', '1920x1080')
    expect(fitted.barsY).toBeCloseTo(0.355, 3)
    expect(hasHairline(fitted)).toBe(true)
    expect(fit('2704x1520', '1920x1080', 'fill').cropShare).toBeCloseTo(0.0007, 4)
    expect(hasHairline(fit('4096x2160', '3840x2160'))).toBe(false)
    expect(hasHairline(fit('1920x1080', '1920x1080'))).toBe(false)
  })

  it('keeps detail at a zoom when the reduction is linked, and not when it is baked', () => {
    expect(sharpnessAtZoom(0.5, 2)).toEqual({ linked: 1, baked: 0.5 })
    expect(sharpnessAtZoom(2, 1)).toEqual({ linked: 0.5, baked: 0.5 })
  })

  it('calls distortion distortion', () => {
    expect(fit('640x480', '1920x1080', 'stretch').distortion).toBeCloseTo(4 / 3, 12)
    expect(fit('720x576/64:45', '1920x1080', 'stretch').distortion).toBeCloseTo(1, 12)
    expect(fit('1440x1080', '1920x1080', 'stretch').distortion).toBeCloseTo(4 / 3, 12)
  })

  it('is untouched only pixel on pixel', () => {
    expect(fit('1920x1080', '1920x1080').untouched).toBe(true)
    expect(fit('1440x1080/4:3', '1440x1080/4:3').untouched).toBe(true)
    expect(fit('1440x1080/4:3', '1440x1080').untouched).toBe(false)
    expect(fit('1080x1920@90', '1920x1080').untouched).toBe(false)
    expect(fit('1280x720', '1920x1080', 'native').untouched).toBe(true)
    expect(fit('1279x720', '1920x1080', 'native').untouched).toBe(false)
    expect(fit('1920x1080', '1920x1080', 'fit', 1.5).cropX).toBeCloseTo(320, 9)
  })

  it('turns the axes with the picture', () => {
    expect(fit('1920x1080@90', '1080x1920')).toMatchObject({ scaleX: 1, scaleY: 1, barsShare: 0 })
    // A 64:45 pixel lying on its side is taller than wide.
    const turned = fit('720x576/64:45@90', '576x1024')
    expect(turned.scaleX).toBeCloseTo(1, 12)
    expect(turned.scaleY).toBeCloseTo(64 / 45, 12)
  })

  it('never crops when it fits and never bars when it fills', () => {
    const side = fc.integer({ min: 16, max: 8192 })
    const shape = fc.constantFrom('1:1', '4:3', '64:45', '8:9', '3:2')
    const turn = fc.constantFrom(0, 90, 180, 270)
    fc.assert(
      fc.property(side, side, shape, turn, side, side, shape, (w, h, p, r, W, H, P) => {
        const source = `${w}x${h}/${p}@${r}`
        const frame = `${W}x${H}/${P}`
        expect(fit(source, frame, 'fit').cropShare).toBeCloseTo(0, 9)
        expect(fit(source, frame, 'fill').barsShare).toBeCloseTo(0, 9)
        expect(fit(source, frame, 'stretch').barsShare).toBeCloseTo(0, 9)
      }),
    )
  })
})
