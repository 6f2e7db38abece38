import { describe, expect, it } from 'vitest'
import type { Planes } from '../planes/planes'
import { rational } from '../rational/rational'
import { chromaSiting, resampling, wholeChroma } from '../resample/picture'
import { compose } from './compose'
import {
  drawnPlanes,
  fast,
  ground,
  halved,
  layer,
  meaning,
  pixel,
  raster,
  squarePixels,
} from './compose.fixture'
import type { StoredPicture } from './stored'

describe('a raster with less colour than luma', () => {
  it('has an untouched picture byte for byte, its colour too', () => {
    const picture = drawnPlanes(24, 16)
    const planes = compose([layer(picture, { width: 24, height: 16 })], halved, raster(24, 16), fast)
    expect([planes.luma, planes.chroma]).toEqual([picture.planes.luma, picture.planes.chroma])
  })

  it('has a picture as it is made into that size alone', () => {
    const picture = drawnPlanes(48, 32)
    const size = { width: 24, height: 16, filter: 'lanczos', sharpen: null } as const
    const alone = resampling({ width: 48, height: 32 }, picture.siting, size)(picture.planes)
    const planes = compose([layer(picture, { width: 24, height: 16 })], halved, raster(24, 16), fast)
    expect([planes.luma, planes.chroma]).toEqual([alone.luma, alone.chroma])
  })

  it('keeps black where a picture that begins between two colours ends', () => {
    const picture = drawnPlanes(12, 8)
    picture.planes.chroma?.cb.fill(200)
    const over = layer(
      picture,
      { width: 16, height: 8 },
      { mode: { kind: 'one-to-one' }, position: { x: rational(1), y: rational(0) } },
    )
    const planes = compose([over], halved, raster(16, 8), fast)
    // It covers pixels 3 to 14: of the pair at 2 and 3 the first is black, and so is their colour.
    expect([pixel(planes, 2, 4), pixel(planes, 3, 4), pixel(planes, 15, 4)]).toEqual([
      16,
      picture.planes.luma[4 * 12],
      16,
    ])
    expect([...planes.chroma!.cb.slice(16, 24)]).toEqual([128, 128, 200, 200, 200, 200, 200, 200])
  })

  it('has a picture of another matrix as the whole one has it, where colour lies', () => {
    const picture = { ...drawnPlanes(16, 16, false), meaning: { ...meaning, matrix: 'bt601-625' as const } }
    const [whole, less] = [ground, halved].map((ground) =>
      compose([layer(picture, { width: 16, height: 16 })], ground, raster(16, 16), fast),
    ) as [Planes, Planes]
    expect(less.luma).toEqual(whole.luma)
    expect([less.chroma!.cb.length, whole.chroma!.cb.length]).toEqual([64, 256])
  })
})

describe('a crop whose edges are odd', () => {
  it('keeps the colour of every pixel, whatever stands on either side', () => {
    // Of a picture whose every column of chroma is another, each pixel shows its own.
    for (const [across, down] of [
      [2, 2],
      [2, 1],
    ] as const)
      for (const crop of [
        { left: 3, right: 5, top: 0, bottom: 0 },
        { left: 3, right: 4, top: 1, bottom: 3 },
        { left: 2, right: 7, top: 5, bottom: 1 },
      ]) {
        const [width, height] = [24, 16]
        const [w, h] = [width / across, height / down]
        const plane = (valueAt: (x: number, y: number) => number) =>
          Uint8Array.from({ length: w * h }, (_, i) => valueAt(i % w, Math.floor(i / w)))
        const planes: Planes = {
          ...{ width, height, bitDepth: 8, across, down, alpha: null },
          luma: new Uint8Array(width * height).fill(120),
          chroma: { cb: plane((x) => 60 + 8 * x), cr: plane((_, y) => 60 + 8 * y) },
        }
        const picture = { planes, meaning, siting: chromaSiting({ across, down }, '') }
        const [whole, part] = [{ left: 0, right: 0, top: 0, bottom: 0 }, crop].map((cut) =>
          compose(
            [layer(picture, { width, height }, { crop: cut, filter: 'bilinear', mode: oneToOneAt(cut) })],
            ground,
            raster(width, height),
            fast,
          ),
        ) as [Planes, Planes]
        for (let y = crop.top + 2; y < height - crop.bottom - 2; y++)
          for (let x = crop.left + 2; x < width - crop.right - 2; x++) {
            const at = y * width + x
            expect([part.chroma!.cb[at], part.chroma!.cr[at]]).toEqual([
              whole.chroma!.cb[at],
              whole.chroma!.cr[at],
            ])
          }
      }
  })
})

/** One to one, with what a crop leaves where it stood. */
const oneToOneAt = ({
  left,
  right,
  top,
  bottom,
}: {
  left: number
  right: number
  top: number
  bottom: number
}) => ({
  kind: 'placed' as const,
  ...{ scaleX: squarePixels, scaleY: squarePixels },
  ...{ x: rational(left - right, 2), y: rational(top - bottom, 2) },
})

describe('a title with opacity', () => {
  /** A grey square in the middle of a title that is seen through all around it. */
  function title(size: number, grey: number): StoredPicture {
    const isSeen = (i: number) => {
      const [x, y] = [i % size, Math.floor(i / size)]
      return x >= size / 4 && x < (3 * size) / 4 && y >= size / 4 && y < (3 * size) / 4
    }
    const plane = (valueAt: (i: number) => number) =>
      Uint8Array.from({ length: size * size }, (_, i) => valueAt(i))
    const planes: Planes = {
      ...{ width: size, height: size, bitDepth: 8, across: 1, down: 1 },
      // What is not seen may hold anything.
      luma: plane((i) => (isSeen(i) ? grey : 16)),
      chroma: { cb: plane((i) => (isSeen(i) ? 128 : 0)), cr: plane((i) => (isSeen(i) ? 128 : 255)) },
      alpha: plane((i) => (isSeen(i) ? 255 : 0)),
    }
    return { planes, meaning, siting: wholeChroma }
  }

  it('stays grey at its edges, and is nowhere brighter than it is, enlarged over black, whatever the chroma', () => {
    for (const siting of [ground, halved, { ...halved, siting: chromaSiting({ across: 2, down: 1 }, '') }])
      for (const size of [37, 48, 61]) {
        const planes = compose(
          [layer(title(16, 200), { width: size, height: size })],
          siting,
          raster(size, size),
          fast,
        )
        for (const plane of [planes.chroma!.cb, planes.chroma!.cr])
          for (const value of plane) expect(Math.abs(value - 128)).toBeLessThanOrEqual(1)
        for (const value of planes.luma) {
          expect(value).toBeGreaterThanOrEqual(16)
          expect(value).toBeLessThanOrEqual(201)
        }
        expect(planes.luma[Math.floor(size / 2) * size + Math.floor(size / 2)]).toBe(200)
      }
  })

  it('has a colour that is the share of it that is seen, by where chroma lies', () => {
    // Over grey, one to one: of a pair of which one pixel is red, chroma stands on the first.
    const red = title(16, 120)
    red.planes.chroma!.cr.fill(220)
    const planes = compose([layer(red, { width: 16, height: 16 })], halved, raster(16, 16), fast)
    const at = (x: number, y: number) => planes.chroma!.cr[y * 8 + x]!
    expect([at(0, 4), at(1, 4), at(2, 4), at(4, 4), at(6, 4)]).toEqual([128, 128, 220, 220, 128])
  })
})
