import { describe, expect, it } from 'vitest'
import { parsePicture, parseSize } from '../../../../core/format/parse'
import { axesOf, mapToRaster } from '../../../../core/framing/raster-map'
import { plainTreatment } from '../../../../core/treatment/treatment'
import { mostDetailed, sameScene } from './detail'

const scene = (source: string, frame: string, at: { x: number; y: number }) => {
  const picture = parsePicture(source)!
  const rasterMap = mapToRaster(picture, parseSize(frame)!, plainTreatment.framing)
  return sameScene({ rasterMap, size: axesOf(picture) }, at, 48, 40)
}

describe('the same piece of the scene', () => {
  it('takes more stored pixels where the clip is reduced, fewer where it is enlarged', () => {
    const middle = { x: 0.5, y: 0.5 }
    expect(scene('3840x2160', '1920x1080', middle)).toEqual({
      timeline: { x: 936, y: 520, width: 48, height: 40 },
      stored: { x: 1872, y: 1040, width: 96, height: 80 },
    })
    expect(scene('1920x1080', '3840x2160', middle).stored).toEqual({ x: 948, y: 530, width: 24, height: 20 })
    expect(scene('720x576/64:45', '1920x1080', middle).stored.width).toBeCloseTo(18, 9)
  })
  it('stays inside the picture', () => {
    expect(scene('1920x1080', '1920x1080', { x: 1, y: 0 }).stored).toEqual({
      x: 1872,
      y: 0,
      width: 48,
      height: 40,
    })
  })
})

describe('the most detailed place', () => {
  const picture = (bright: (x: number, y: number) => boolean) => {
    const [width, height] = [320, 180]
    const values = new Uint8Array(width * height)
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++) values[y * width + x] = bright(x, y) ? 200 : 40
    return { width, height, values }
  }
  it('is where most edges are, not where the hardest one is', () => {
    // A fine grid in one block, and one long line elsewhere.
    const found = mostDetailed(
      picture((x, y) => (x >= 40 && x < 60 && y >= 100 && y < 120 ? (x + y) % 3 === 0 : y === 10)),
    )
    expect(found.x * 320).toBeCloseTo(50, -1)
    expect(found.y * 180).toBeCloseTo(110, -1)
  })
  it('is the middle of an even picture', () => {
    expect(mostDetailed(picture(() => false))).toEqual({ x: 0.5, y: 0.5 })
  })
})
