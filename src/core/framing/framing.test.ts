import { exactly, rational } from '../rational/rational'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { parsePicture, parseSize } from '../format/parse'
import { noSides } from '../treatment/treatment'
import { cropToShape, fitPicture, hasHairline, lockedCrop, sharpnessAtZoom } from './framing'

const fit = (
  source: string,
  frame: string,
  kind: 'fit' | 'fill' | 'stretch' | 'one-to-one' = 'fit',
  zoom = 1,
) => fitPicture(parsePicture(source)!, parseSize(frame)!, { mode: { kind }, zoom: exactly(zoom) })

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
    expect(fitted.bars.top).toBeCloseTo(0.355, 3)
    expect(hasHairline(fitted)).toBe(true)
    expect(fit('2704x1520', '1920x1080', 'fill').cropShare).toBeCloseTo(0.0007, 4)
    expect(hasHairline(fit('4096x2160', '3840x2160'))).toBe(false)
    expect(hasHairline(fit('1920x1080', '1920x1080'))).toBe(false)
    expect(hasHairline(fit('1920x1076', '1920x1080'))).toBe(false)
    expect(hasHairline(fit('1920x1078', '1920x1080'))).toBe(true)
  })

  it('keeps detail at a zoom when the reduction is kept, and not when it is baked', () => {
    expect(sharpnessAtZoom(0.5, 2)).toEqual({ kept: 1, baked: 0.5 })
    expect(sharpnessAtZoom(2, 1)).toEqual({ kept: 0.5, baked: 0.5 })
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
    expect(fit('1280x720', '1920x1080', 'one-to-one').untouched).toBe(true)
    expect(fit('1279x720', '1920x1080', 'one-to-one').untouched).toBe(false)
    expect(fit('1920x1080', '1920x1080', 'fit', 1.5).crop.left).toBeCloseTo(320, 9)
  })

  it('moves the picture in the frame', () => {
    const at = (x: number, y = 0) =>
      fitPicture(parsePicture('1080x1920')!, parseSize('1920x1080')!, {
        position: { x: exactly(x), y: exactly(y) },
      })
    expect(at(0).bars).toEqual({ left: 656.25, right: 656.25, top: 0, bottom: 0 })
    expect(at(-656.25).bars).toEqual({ left: 0, right: 1312.5, top: 0, bottom: 0 })
    // What hangs out of the frame is lost, and leaves more of it empty.
    const out = at(0, 108)
    expect(out.crop).toEqual({ left: 0, right: 0, top: 0, bottom: 192 })
    expect(out.cropShare).toBeCloseTo(0.1, 12)
    expect(out.barsShare).toBeCloseTo(1 - (607.5 * 972) / (1920 * 1080), 12)
    expect(at(5000)).toMatchObject({ barsShare: 1, cropShare: 1 })
    expect(
      fitPicture(parsePicture('1920x1080')!, parseSize('1920x1080')!, {
        position: { x: rational(1, 2), y: rational(0) },
      }),
    ).toMatchObject({
      untouched: false,
      crop: { right: 0.5 },
    })
  })

  it('crops before it frames, locked to the shape of the frame', () => {
    const [source, frame] = [parsePicture('4096x2160')!, parseSize('1920x1080')!]
    const crop = cropToShape(source, frame)
    expect(crop).toEqual({ left: 128, right: 128, top: 0, bottom: 0 })
    const cropped = fitPicture(source, frame, { crop })
    expect(cropped).toMatchObject({ scaleX: 0.5, scaleY: 0.5, barsShare: 0, headroom: 2 })
    expect(cropped.cropShare).toBeCloseTo(1 / 16, 12)
    // Twice as near, in the top left corner: pixel on pixel.
    const near = fitPicture(source, frame, { crop: cropToShape(source, frame, 2, { x: 0, y: 0 }) })
    expect(near).toMatchObject({
      scaleX: 1,
      scaleY: 1,
      untouched: true,
      crop: { left: 0, right: 2176, top: 0 },
    })
  })

  it('brings any crop to the shape of the frame, about its own middle', () => {
    const [source, frame] = [parsePicture('4000x3000')!, parseSize('1000x500')!]
    // 2000 across are left, their middle at 1500 of 4000 and at 1700 of 3000.
    expect(lockedCrop(source, frame, { left: 500, right: 1500, top: 1000, bottom: 600 })).toEqual({
      left: 500,
      right: 1500,
      top: 1200,
      bottom: 800,
    })
    expect(lockedCrop(source, frame, noSides)).toEqual({ left: 0, right: 0, top: 500, bottom: 500 })
    // Turned, its columns are what stands across.
    const turned = parsePicture('3000x4000@90')!
    expect(lockedCrop(turned, frame, noSides)).toEqual({ left: 0, right: 0, top: 500, bottom: 500 })
  })

  it('places a picture where it is said, each figure along its own axis', () => {
    const fitted = fitPicture(parsePicture('1000x500')!, parseSize('1920x1080')!, {
      mode: {
        kind: 'placed',
        scaleX: rational(3, 2),
        scaleY: rational(5, 4),
        x: rational(100),
        y: rational(-50),
      },
      position: { x: rational(10), y: rational(20) },
      zoom: rational(2),
      crop: { left: 10, right: 30, top: 5, bottom: 45 },
    })
    // 960×450 kept at 3 by 2.5, its middle at 1070, 510.
    expect(fitted).toMatchObject({
      scaleX: 3,
      scaleY: 2.5,
      left: -370,
      top: -52.5,
      width: 2880,
      height: 1125,
      bars: { left: 0, right: 0, top: 0, bottom: 7.5 },
      distortion: 1.2,
      untouched: false,
    })
    const { left, right, top, bottom } = fitted.crop
    expect(left).toBeCloseTo(10 + 370 / 3, 12)
    expect(right).toBeCloseTo(30 + 590 / 3, 12)
    expect([top, bottom]).toEqual([26, 45])
    expect(fitted.barsShare).toBeCloseTo(7.5 / 1080, 12)
    expect(fitted.cropShare).toBeCloseTo(1 - (1920 * 1072.5) / (3000 * 1250), 12)
    expect(fitted.headroom).toBeCloseTo(1 / 3, 12)
  })

  it('has a middle, and says whole numbers without dust, whatever is cropped', () => {
    for (let cut = 1; cut < 200; cut++) {
      const crop = { left: cut, right: 3 * cut, top: 0, bottom: 9 }
      const source = `${777 + 4 * cut}x${342}`
      const fitted = fitPicture(parsePicture(source)!, parseSize('1554x666')!, { crop })
      expect([fitted.left, fitted.top, fitted.width, fitted.height]).toEqual([0, 0, 1554, 666])
      expect(fitted.crop.bottom).toBe(9)
      expect(fitted.bars).toEqual({ left: 0, right: 0, top: 0, bottom: 0 })
    }
  })

  it('is untouched in neither direction alone', () => {
    const stretched = fit('1000x1080', '1920x1080', 'stretch')
    expect([stretched.scaleY, stretched.untouched]).toEqual([1, false])
    expect(fit('1920x1000', '1920x1080', 'stretch').untouched).toBe(false)
    const fields = fit('720x1080/2:1', '1440x1080', 'stretch')
    expect(fields).toMatchObject({ scaleX: 2, scaleY: 1, untouched: false })
  })

  it('keeps the crop that has the frame’s shape inside the picture, at each side', () => {
    const [source, frame] = [parsePicture('4000x3000')!, parseSize('1000x500')!]
    const at = (x: number, y: number, zoom = 1) => cropToShape(source, frame, zoom, { x, y })
    expect(at(0.5, 0.5)).toEqual({ left: 0, right: 0, top: 500, bottom: 500 })
    expect(at(0.5, 0)).toEqual({ left: 0, right: 0, top: 0, bottom: 1000 })
    expect(at(0.5, 0.4)).toEqual({ left: 0, right: 0, top: 200, bottom: 800 })
    expect(at(1, 1, 2)).toEqual({ left: 2000, right: 0, top: 2000, bottom: 0 })
    expect(at(0.4, 0.6, 2)).toEqual({ left: 600, right: 1400, top: 1300, bottom: 700 })
    // Below zoom 1 there is no more picture to show.
    expect(at(0.5, 0.5, 0.5)).toEqual(at(0.5, 0.5))
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
        const crop = cropToShape(parsePicture(source)!, parseSize(frame)!, 1.7, { x: 0.2, y: 0.9 })
        for (const side of Object.values(crop)) expect(side).toBeGreaterThanOrEqual(0)
        const locked = fitPicture(parsePicture(source)!, parseSize(frame)!, { crop })
        expect(locked.barsShare).toBeCloseTo(0, 6)
      }),
    )
  })
})
