import { describe, expect, it } from 'vitest'
import type { Planes } from '../planes/planes'
import { rational } from '../rational/rational'
import { resampling } from '../resample/picture'
import { compose } from './compose'
import { drawn, fast, ground, halved, layer, meaning, pixel, raster } from './compose.fixture'

describe('a raster with less colour than luma', () => {
  it('has an untouched picture byte for byte, its colour too', () => {
    const picture = drawn(24, 16)
    const made = compose([layer(picture, { width: 24, height: 16 })], halved, raster(24, 16), fast)
    expect([made.luma, made.chroma]).toEqual([picture.planes.luma, picture.planes.chroma])
  })

  it('has a picture as it is made into that size alone', () => {
    const picture = drawn(48, 32)
    const size = { width: 24, height: 16, filter: 'lanczos', sharpen: null } as const
    const alone = resampling({ width: 48, height: 32 }, picture.siting, size)(picture.planes)
    const made = compose([layer(picture, { width: 24, height: 16 })], halved, raster(24, 16), fast)
    expect([made.luma, made.chroma]).toEqual([alone.luma, alone.chroma])
  })

  it('keeps black where a picture that begins between two colours ends', () => {
    const picture = drawn(12, 8)
    picture.planes.chroma?.cb.fill(200)
    const over = layer(
      picture,
      { width: 16, height: 8 },
      { mode: { kind: 'one-to-one' }, position: { x: rational(1), y: rational(0) } },
    )
    const made = compose([over], halved, raster(16, 8), fast)
    // It covers pixels 3 to 14: of the pair at 2 and 3 the first is black, and so is their colour.
    expect([pixel(made, 2, 4), pixel(made, 3, 4), pixel(made, 15, 4)]).toEqual([
      16,
      picture.planes.luma[4 * 12],
      16,
    ])
    expect([...made.chroma!.cb.slice(16, 24)]).toEqual([128, 128, 200, 200, 200, 200, 200, 200])
  })

  it('has a picture of another matrix as the whole one has it, where colour lies', () => {
    const picture = { ...drawn(16, 16, false), meaning: { ...meaning, matrix: 'bt601-625' as const } }
    const [whole, less] = [ground, halved].map((one) =>
      compose([layer(picture, { width: 16, height: 16 })], one, raster(16, 16), fast),
    ) as [Planes, Planes]
    expect(less.luma).toEqual(whole.luma)
    expect([less.chroma!.cb.length, whole.chroma!.cb.length]).toEqual([64, 256])
  })
})
