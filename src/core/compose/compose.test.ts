import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { type Meaning, toScreen } from '../planes/screen'
import { exactly, rational, toNumber } from '../rational/rational'
import { resampling, wholeChroma } from '../resample/picture'
import { conversionOf } from './colour'
import { type Composed, compose } from './compose'
import {
  drawnPlanes,
  fast,
  ground,
  layer,
  meaning,
  pixel,
  plain,
  raster,
  squarePixels,
} from './compose.fixture'
import type { StoredPicture } from './stored'
import { framesNeeded } from './field-arrangement'

describe('a raster that is composed', () => {
  it('has a picture of its size as it is', () => {
    const picture = drawnPlanes(24, 16, false)
    const planes = compose([layer(picture, { width: 24, height: 16 })], ground, raster(24, 16), plain)
    expect(planes.luma).toEqual(picture.planes.luma)
    expect(planes.chroma).toEqual(picture.planes.chroma)
  })

  it('scales as whole pictures are scaled, by each filter', () => {
    const picture = drawnPlanes(48, 32, false)
    for (const filter of ['nearest', 'bilinear', 'bicubic', 'lanczos'] as const)
      for (const [width, height] of [
        [24, 16],
        [72, 48],
        [33, 22],
      ] as const) {
        const wanted = { width, height, filter, sharpen: null }
        const expected = resampling(picture.planes, picture.siting, wanted)(picture.planes)
        const planes = compose(
          [layer(picture, { width, height }, { filter })],
          ground,
          raster(width, height),
          plain,
        )
        expect(planes.luma).toEqual(expected.luma)
        expect(planes.chroma?.cr).toEqual(expected.chroma?.cr)
      }
  })

  it('is the same whether all of it is made or a part, by reference and by kernel', () => {
    const side = fc.integer({ min: 3, max: 40 })
    const set = fc.record({
      mode: fc.constantFrom(
        { kind: 'fit' as const },
        { kind: 'fill' as const },
        { kind: 'one-to-one' as const },
      ),
      zoom: fc.constantFrom(rational(1), rational(3, 2), rational(2, 3)),
      position: fc.record({ x: fc.integer({ min: -9, max: 9 }), y: fc.integer({ min: -9, max: 9 }) }),
      reduction: fc.constantFrom('kept' as const, 'baked' as const),
    })
    fc.assert(
      fc.property(
        side,
        side,
        fc.boolean(),
        set,
        fc.nat(12),
        fc.nat(12),
        (w, h, subsampled, framing, x, y) => {
          const position = { x: exactly(framing.position.x), y: exactly(framing.position.y) }
          const laying = layer(
            drawnPlanes(w, h, subsampled),
            { width: 32, height: 24 },
            { ...framing, position },
          )
          const all = compose([laying], ground, raster(32, 24), plain)
          const area = { x, y, width: 32 - x, height: 24 - y }
          const part = compose([laying], ground, area, fast)
          for (let row = 0; row < area.height; row++)
            for (let column = 0; column < area.width; column++)
              expect(pixel(part, column, row)).toBe(pixel(all, x + column, y + row))
        },
      ),
      { numRuns: 60 },
    )
  })

  it('is black beside a picture, and shares an edge that cuts a pixel', () => {
    const picture = drawnPlanes(10, 10, false)
    picture.planes.luma.fill(216)
    const laying = layer(picture, { width: 21, height: 10 }, { mode: { kind: 'one-to-one' } })
    const planes = compose([laying], ground, raster(21, 10), plain)
    // 5.5 pixels stay free on each side.
    expect([4, 5, 6, 14, 15, 16].map((x) => pixel(planes, x, 3))).toEqual([16, 116, 216, 216, 116, 16])
  })

  it('crops where it is told, and does not let what is cut off bleed in', () => {
    const picture = drawnPlanes(16, 16, false)
    picture.planes.luma.fill(50)
    for (let y = 0; y < 16; y++) picture.planes.luma.fill(235, y * 16, y * 16 + 4)
    const crop = { left: 4, right: 0, top: 0, bottom: 0 }
    const laying = layer(picture, { width: 24, height: 32 }, { crop, mode: { kind: 'stretch' } })
    expect(new Set(compose([laying], ground, raster(24, 32), plain).luma)).toEqual(new Set([50]))
  })

  it('shows the same where it is cropped as where it is not, chroma too, but for the edge', () => {
    for (const [left, top] of [
      [3, 0],
      [4, 5],
      [1, 1],
    ] as const)
      for (const scale of [rational(1), rational(3, 2), rational(2, 3)]) {
        const base = layer(drawnPlanes(48, 40), { width: 48, height: 40 }, { filter: 'bicubic' })
        const shifted = { ...base.rasterMap, scaleX: scale, scaleY: scale, x: rational(1, 2), y: rational(0) }
        const cropped = { ...shifted, crop: { left, right: 0, top, bottom: 0 } }
        const [whole, part] = [shifted, cropped].map((rasterMap) =>
          compose([{ ...base, rasterMap }], ground, raster(48, 40), plain),
        )
        const beyond = Math.ceil((Math.max(left, top) + 8) * toNumber(scale))
        for (let y = beyond; y < 40 * Math.min(1, toNumber(scale)) - 1; y++)
          for (let x = beyond; x < 48 * Math.min(1, toNumber(scale)) - 1; x++) {
            const at = y * 48 + x
            expect([part!.luma[at], part!.chroma!.cb[at]]).toEqual([whole!.luma[at], whole!.chroma!.cb[at]])
          }
      }
  })

  it('is turned, each sample once', () => {
    const picture = drawnPlanes(6, 4, false)
    const turned = (turn: 90 | 180 | 270, width: number, height: number) => {
      const laying = layer(picture, { width, height })
      const { crop } = laying.rasterMap
      const rasterMap = {
        turn,
        crop,
        scaleX: squarePixels,
        scaleY: squarePixels,
        x: rational(0),
        y: rational(0),
      }
      return compose([{ ...laying, rasterMap }], ground, raster(width, height), plain)
    }
    const at = (x: number, y: number) => pixel(picture.planes, x, y)
    expect(pixel(turned(90, 4, 6), 0, 0)).toBe(at(0, 3))
    expect(pixel(turned(90, 4, 6), 3, 5)).toBe(at(5, 0))
    expect(pixel(turned(180, 6, 4), 0, 0)).toBe(at(5, 3))
    expect(pixel(turned(270, 4, 6), 0, 0)).toBe(at(5, 0))
    expect(pixel(turned(270, 4, 6), 3, 1)).toBe(at(4, 3))
  })

  it('lays a title over by its opacity, and what is not seen leaves no rim', () => {
    const title = drawnPlanes(8, 8, false)
    const alpha = new Uint8Array(64)
    title.planes.luma.forEach((_, i) => {
      const isSeen = i % 8 >= 4
      alpha[i] = isSeen ? 255 : 0
      title.planes.luma[i] = isSeen ? 200 : 16
    })
    const over = layer({ ...title, planes: { ...title.planes, alpha } }, { width: 32, height: 32 })
    const under = drawnPlanes(32, 32, false)
    under.planes.luma.fill(100)
    const planes = compose([layer(under, { width: 32, height: 32 }), over], ground, raster(32, 32), plain)
    expect([pixel(planes, 2, 9), pixel(planes, 29, 9)]).toEqual([100, 200])
    // Between, it is a mixture of what is under it and of what is seen: never darker than both.
    for (let x = 0; x < 32; x++) expect(pixel(planes, x, 9)).toBeGreaterThanOrEqual(99)
  })

  it('keeps detail at a zoom, or bakes it away', () => {
    const picture = drawnPlanes(64, 64, false)
    picture.planes.luma.forEach((_, i) => (picture.planes.luma[i] = i % 2 ? 180 : 60))
    const spread = (reduction: 'kept' | 'baked') => {
      const laying = layer(picture, { width: 32, height: 32 }, { zoom: rational(2), reduction })
      const { luma } = compose([laying], ground, raster(32, 32), plain)
      return Math.max(...luma) - Math.min(...luma)
    }
    expect(spread('kept')).toBe(120)
    expect(spread('baked')).toBeLessThan(12)
  })
})

describe('fields on a raster', () => {
  /** A frame whose lines of one parity all have a value, and those of the other another. */
  function fielded(even: number, odd: number): StoredPicture {
    const picture = drawnPlanes(16, 16, false)
    picture.planes.luma.forEach((_, i) => (picture.planes.luma[i] = Math.floor(i / 16) % 2 ? odd : even))
    return picture
  }
  const frames = [fielded(40, 60), fielded(80, 100), fielded(120, 140)]
  const frameOf = (index: number) => frames[index] ?? null
  const rows = (laying: Partial<Composed>, height = 16) => {
    const base = layer(fielded(0, 0), { width: 16, height }, { mode: { kind: 'stretch' } })
    const planes = compose([{ ...base, frameOf, ...laying }], ground, raster(16, height), plain)
    return Array.from({ length: 6 }, (_, y) => pixel(planes, 8, y + 4))
  }
  const pair = (top: number, bottom: number) =>
    ({
      kind: 'fields',
      top: { frame: top, parity: 'top' },
      bottom: { frame: bottom, parity: 'bottom' },
    }) as const

  it('are woven, each on the lines that it has', () => {
    expect(rows({ shown: pair(1, 0) })).toEqual([80, 60, 80, 60, 80, 60])
    expect(rows({ shown: pair(1, 0), inFields: { outOf: 'fields', crossed: false } })).toEqual([
      80, 60, 80, 60, 80, 60,
    ])
  })

  it('that stand on their own lines are left as they are, each sample', () => {
    const picture = drawnPlanes(16, 16, false)
    const frameOf = (index: number) => (index === 0 ? picture : null)
    const base = { ...layer(picture, { width: 16, height: 16 }), frameOf }
    const inFields = (crossed: boolean) => ({ outOf: 'fields', crossed }) as const
    const straight = compose([{ ...base, inFields: inFields(false) }], ground, raster(16, 16), plain)
    expect(straight.luma).toEqual(picture.planes.luma)
    // A line lower, the other order.
    const lower = { ...base, rasterMap: { ...base.rasterMap, y: rational(1) }, inFields: inFields(true) }
    const shifted = compose([lower], ground, raster(16, 16), plain)
    expect(shifted.luma.subarray(16)).toEqual(picture.planes.luma.subarray(0, 240))
    // A line lower in the same order would show the second moment first: it is made whole instead.
    const wrong = compose([{ ...lower, inFields: inFields(false) }], ground, raster(16, 16), plain)
    expect(wrong.luma.subarray(16)).not.toEqual(picture.planes.luma.subarray(0, 240))
  })

  it('of the other order stand a line lower, the first in time on the first lines', () => {
    const base = layer(fielded(0, 0), { width: 16, height: 16 })
    const lower = { ...base.rasterMap, y: rational(1) }
    const shown = {
      kind: 'fields',
      top: { frame: 0, parity: 'bottom' },
      bottom: { frame: 1, parity: 'top' },
    } as const
    // Even lines of the raster take the odd lines of frame 0, which comes first.
    expect(rows({ shown, rasterMap: lower, inFields: { outOf: 'fields', crossed: true } })).toEqual([
      60, 80, 60, 80, 60, 80,
    ])
    expect(
      rows({
        shown: { kind: 'frame', index: 2 },
        rasterMap: lower,
        inFields: { outOf: 'fields', crossed: true },
      }),
    ).toEqual([140, 120, 140, 120, 140, 120])
  })

  it('are made whole before they are scaled, and taken apart again', () => {
    const tall = { inFields: { outOf: 'fields', crossed: false } } as const
    // Scaled as they are, their lines would mix; so each line is of one moment alone.
    expect(rows({ ...tall, shown: { kind: 'frame', index: 0 } }, 32)).toEqual([40, 60, 40, 60, 40, 60])
    expect(rows({ ...tall, shown: pair(1, 0) }, 32)).toEqual([80, 60, 80, 60, 80, 60])
    const stretched = layer(fielded(0, 0), { width: 16, height: 32 }, { mode: { kind: 'stretch' } })
    expect(framesNeeded({ ...stretched, ...tall, shown: pair(1, 0) })).toEqual({
      needed: [1, 0],
      helpful: [2],
    })
  })

  it('out of frames are lines of whole frames, at any scale', () => {
    const flat = [fielded(50, 50), fielded(90, 90)]
    const composed = rows(
      { frameOf: (i) => flat[i] ?? null, shown: pair(0, 1), inFields: { outOf: 'frames', crossed: false } },
      24,
    )
    expect(composed).toEqual([50, 90, 50, 90, 50, 90])
  })

  it('are mixed by weight, half up', () => {
    const shown = {
      kind: 'mix',
      a: { kind: 'frame', index: 0 },
      b: { kind: 'frame', index: 1 },
      weightOfB: 0.2625,
    } as const
    expect(rows({ shown })).toEqual([51, 71, 51, 71, 51, 71])
  })
})

describe('colour on a raster', () => {
  const hlg: Meaning = { matrix: 'bt2020', primaries: 'bt2020', transfer: 'hlg', range: 'limited' }
  const pq: Meaning = { ...hlg, transfer: 'pq' }
  /** A grey of a signal in one meaning, as it comes out in another, 10 bits. */
  function grey(signal: number, from: Meaning, to: Meaning, colour: Composed['colour'] = 'auto'): number {
    const picture = drawnPlanes(4, 4, false)
    const value = Math.round(64 + 876 * signal)
    const flat = (v: number) => new Uint16Array(16).fill(v)
    const planes = {
      ...picture.planes,
      bitDepth: 10,
      luma: flat(value),
      chroma: { cb: flat(512), cr: flat(512) },
    }
    const laying = { ...layer({ ...picture, planes, meaning: from }, { width: 4, height: 4 }), colour }
    const composedPlanes = compose(
      [laying],
      { meaning: to, bitDepth: 10, siting: wholeChroma },
      raster(4, 4),
      plain,
    )
    expect(Math.abs((composedPlanes.chroma!.cb[5] as number) - 512)).toBeLessThanOrEqual(1)
    return ((composedPlanes.luma[5] as number) - 64) / 876
  }

  it('keeps grey grey between matrices and ranges, to the code', () => {
    const sd: Meaning = { ...meaning, matrix: 'bt601-625' }
    const full: Meaning = { ...meaning, range: 'full' }
    expect(grey(0.5, sd, meaning)).toBeCloseTo(0.5, 3)
    expect(conversionOf(sd, meaning, 'auto').names).toEqual(['matrix bt601-625 to bt709'])
    expect(conversionOf(full, meaning, 'auto').names).toEqual(['full range to limited'])
  })

  it('puts standard white at 203 cd/m² in PQ and at 75 % in HLG (BT.2408)', () => {
    expect(grey(1, meaning, pq)).toBeCloseTo(0.58, 2)
    expect(grey(1, meaning, hlg)).toBeCloseTo(0.75, 2)
    expect(grey(0.75, hlg, pq)).toBeCloseTo(0.58, 2)
    expect(grey(0.58, pq, hlg)).toBeCloseTo(0.75, 2)
    expect(grey(0.5, pq, hlg)).toBeLessThan(grey(0.58, pq, hlg))
  })

  it('tone maps to standard range, and leaves values alone where it is told to', () => {
    expect(grey(1, hlg, meaning)).toBeCloseTo(1, 2)
    const { data } = toScreen(
      {
        width: 1,
        height: 1,
        bitDepth: 10,
        across: 1,
        down: 1,
        luma: Uint16Array.of(721),
        chroma: null,
        alpha: null,
      },
      hlg,
    )
    expect(grey(0.75, hlg, meaning)).toBeCloseTo((data[1] as number) / 255, 2)
    expect(grey(0.75, hlg, meaning, 'none')).toBeCloseTo(0.75, 3)
    expect(grey(0.75, hlg, meaning, 'matrix')).toBeCloseTo(0.75, 2)
    expect(conversionOf(hlg, meaning, 'auto').names[0]).toMatch(/^HLG to standard range, BT\.2446 A/)
    expect(conversionOf(meaning, hlg, 'sdr-to-hdr').names[0]).toMatch(/BT\.2408/)
    expect(conversionOf(meaning, meaning, 'hdr-to-sdr').names).toEqual([])
  })
})
