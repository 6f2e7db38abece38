/**
 * Changes of the code that no test noticed once, each with the test that notices it: what is expected is worked out by hand or from a
 * standard, not by the code under test.
 */
import { describe, expect, it } from 'vitest'
import { compose } from '../compose/compose'
import {
  drawnPlanes,
  ground,
  halved,
  layer,
  meaning,
  pixel,
  plain,
  raster,
  squarePixels,
} from '../compose/compose.fixture'
import type { StoredPicture } from '../compose/stored'
import { counting } from '../edit/cut.fixture'
import { restore } from '../edit/restoring'
import { addTimeline } from '../edit/operations'
import { append, newTimeline, placementOf } from '../edit/placing'
import { toEdl } from '../exchange/edl'
import { fromEdl } from '../exchange/edl-read'
import { fromOtio } from '../exchange/otio-read'
import { toOtio } from '../exchange/otio'
import { parseFormat } from '../format/parse'
import { mapToRaster } from '../framing/raster-map'
import { aDoc, aVideo } from '../model/doc.fixture'
import type { Doc } from '../model/project'
import { layersAt } from '../plan/layers'
import type { Meaning } from '../planes/screen'
import { rational, toNumber } from '../rational/rational'
import { type ChromaSiting, chromaSiting, wholeChroma } from '../resample/picture'
import { weightsFor } from '../sound/loudness'
import { downmix } from '../sound/mix'
import { plainTreatment } from '../treatment/treatment'

const hd25 = parseFormat('1920x1080@25p')!.format
const uhd25 = parseFormat('3840x2160@25p')!.format
const making = () => ({ name: 'Taken in', at: '2026-06-02T08:00:00Z', newId: counting() })

/**
 * A picture whose Cb rises from left to right and whose Cr rises from top to bottom, by five codes a pixel of luma.
 * @param down how many lines share their chroma
 */
function ramps(width: number, height: number, down: 1 | 2, siting: ChromaSiting): StoredPicture {
  const [w, h] = [width / 2, height / down]
  const chroma = (of: (x: number, y: number) => number) =>
    Uint8Array.from({ length: w * h }, (_, i) => of(i % w, Math.floor(i / w)))
  const planes = {
    width,
    height,
    bitDepth: 8,
    across: 2,
    down,
    luma: new Uint8Array(width * height).fill(120),
    chroma: { cb: chroma((x) => 40 + 10 * x), cr: chroma((_, y) => 60 + 5 * down * y) },
    alpha: null,
  }
  return { planes, meaning, siting }
}

describe('chroma after a quarter turn', () => {
  const [width, height] = [24, 16]
  const turns = [
    [90, (x: number, y: number) => [y, height - 1 - x]],
    [180, (x: number, y: number) => [width - 1 - x, height - 1 - y]],
    [270, (x: number, y: number) => [width - 1 - y, x]],
  ] as const
  const [onFirst, between] = [
    { every: 2, halves: 1 },
    { every: 2, halves: 2 },
  ]
  // On the left of two samples of luma Cb is 40 + 5·X; between two lines Cr is 60 + 5·(Y − 0.5), on the first or its own 60 + 5·Y.
  const kinds = [
    ['4:2:0', 2, { across: onFirst, down: between }, 0.5],
    ['4:2:0 on the first line', 2, { across: onFirst, down: onFirst }, 0],
    ['4:2:2', 1, { across: onFirst, down: { every: 1, halves: 1 } }, 0],
  ] as const
  const cases = turns.flatMap(([rotation, sourceAt]) =>
    kinds.map(([name, down, siting, below]) => ({ rotation, sourceAt, name, down, siting, below })),
  )
  it.each(cases)('by $rotation degrees lies where its picture does: $name', (drawn) => {
    const { rotation, sourceAt, down, siting, below } = drawn
    const picture = ramps(width, height, down, siting)
    const frame = rotation === 180 ? { width, height } : { width: height, height: width }
    const framing = { ...plainTreatment.framing, filter: 'bilinear' as const }
    const turned = {
      ...layer(picture, frame, { filter: 'bilinear' }),
      rasterMap: mapToRaster(
        { width, height, pixelAspect: squarePixels, rotation },
        { ...frame, pixelAspect: squarePixels },
        framing,
      ),
    }
    const { chroma } = compose([turned], ground, raster(frame.width, frame.height), plain)
    for (let y = 3; y < frame.height - 3; y++)
      for (let x = 3; x < frame.width - 3; x++) {
        const [X = 0, Y = 0] = sourceAt(x, y)
        const at = y * frame.width + x
        expect(Math.abs(chroma!.cb[at]! - (40 + 5 * X)), `Cb at ${x}, ${y}`).toBeLessThanOrEqual(1)
        expect(Math.abs(chroma!.cr[at]! - (60 + 5 * (Y - below))), `Cr at ${x}, ${y}`).toBeLessThanOrEqual(1)
      }
  })
})

describe('fields in an area that begins on an odd line', () => {
  it.each([1, 3, 4, 7])('are those of the whole frame, from line %i on', (top) => {
    const [first, second] = [drawnPlanes(16, 32, false, 1), drawnPlanes(16, 32, false, 40)]
    const fields = {
      ...layer(first, { width: 16, height: 24 }),
      shown: {
        kind: 'fields' as const,
        top: { frame: 0, parity: 'top' as const },
        bottom: { frame: 1, parity: 'bottom' as const },
      },
      inFields: { outOf: 'frames' as const, crossed: false },
      frameOf: (index: number) => (index === 0 ? first : second),
    }
    const whole = compose([fields], ground, raster(16, 24), plain)
    const part = compose([fields], ground, { x: 2, y: top, width: 9, height: 24 - top }, plain)
    for (let y = top; y < 24; y++)
      expect([...part.luma.subarray((y - top) * 9, (y - top + 1) * 9)], `line ${y}`).toEqual([
        ...whole.luma.subarray(y * 16 + 2, y * 16 + 11),
      ])
    // The two fields are two pictures: lines of one parity are of the first alone, those of the other of the second.
    const alone = (picture: StoredPicture) =>
      compose([{ ...fields, frameOf: () => picture }], ground, raster(16, 24), plain).luma
    const lineOf = (luma: typeof whole.luma, y: number) => [...luma.subarray(y * 16, y * 16 + 16)]
    for (let y = 0; y < 24; y++)
      expect(lineOf(whole.luma, y), `line ${y}`).toEqual(lineOf(alone(y % 2 === 0 ? first : second), y))
  })
})

describe('partial upper and lower edges', () => {
  it('share a pixel with what is under them by how much of it they cover', () => {
    const white: StoredPicture = {
      planes: { ...drawnPlanes(8, 8, false).planes, luma: new Uint8Array(64).fill(235), chroma: null },
      meaning,
      siting: wholeChroma,
    }
    const over = layer(white, { width: 8, height: 8 })
    // From 2.25 to 10.5: three quarters of line 2, half of line 10.
    const placed = {
      ...over,
      rasterMap: { ...over.rasterMap, y: rational(9, 4), scaleY: rational(33, 32) },
    }
    const planes = compose([placed], ground, raster(8, 14), plain)
    const column = Array.from({ length: 14 }, (_, y) => pixel(planes, 4, y))
    expect(column).toEqual([16, 16, 180, 235, 235, 235, 235, 235, 235, 235, 126, 16, 16, 16])
  })
})

describe('BT.2020 of standard range in high dynamic range', () => {
  const wide: Meaning = { matrix: 'bt2020nc', primaries: 'bt2020', transfer: 'bt709', range: 'limited' }
  const pq: Meaning = { ...wide, transfer: 'pq' }
  /** A flat colour in 4:4:4 of ten bits. */
  const flat = (luma: number, cb: number, cr: number): StoredPicture => ({
    planes: {
      width: 4,
      height: 4,
      bitDepth: 10,
      across: 1,
      down: 1,
      luma: new Uint16Array(16).fill(luma),
      chroma: { cb: new Uint16Array(16).fill(cb), cr: new Uint16Array(16).fill(cr) },
      alpha: null,
    },
    meaning: wide,
    siting: wholeChroma,
  })
  const [kr, kb] = [0.2627, 0.0593]
  /** Samples of a signal of red, green and blue (ITU-R BT.2020, ten bits). */
  function codesOf([r, g, b]: readonly [number, number, number]): [number, number, number] {
    const y = kr * r + (1 - kr - kb) * g + kb * b
    return [
      Math.round(64 + 876 * y),
      Math.round(512 + (896 * (b - y)) / (2 * (1 - kb))),
      Math.round(512 + (896 * (r - y)) / (2 * (1 - kr))),
    ]
  }
  /** The signal of PQ for light in cd/m² (SMPTE ST 2084). */
  const signal = (light: number) => {
    const power = (light / 10_000) ** (2610 / 16_384)
    return ((3424 / 4096 + (2413 / 128) * power) / (1 + (2392 / 128) * power)) ** (2523 / 32)
  }
  it.each([
    ['white', [1, 1, 1]],
    ['grey', [0.5, 0.5, 0.5]],
    ['green', [0, 1, 0]],
    ['a red that BT.709 has not', [0.9, 0.1, 0.05]],
  ] as const)('%s keeps its primaries, with white at 203 cd/m²', (_, rgb) => {
    const picture = flat(...codesOf(rgb))
    const target = { meaning: pq, bitDepth: 10, siting: wholeChroma }
    const { luma, chroma } = compose([layer(picture, { width: 4, height: 4 })], target, raster(4, 4), plain)
    const [r, g, b] = rgb.map((x) => signal(203 * x ** 2.4)) as [number, number, number]
    const expected = codesOf([r, g, b])
    const found = [luma[0]!, chroma!.cb[0]!, chroma!.cr[0]!]
    // Steep near black: a code of standard range is some of PQ there.
    found.forEach((code, i) => expect(Math.abs(code - expected[i]!)).toBeLessThanOrEqual(16))
  })
})

describe('a nested picture’s place', () => {
  it('is where its timeline lies, and within it where it lies there', () => {
    const doc = aDoc([aVideo('hall', '1920x1080@25p', 8)])
    addTimeline(doc, newTimeline('inner', 'Pour', '', hd25))
    addTimeline(doc, newTimeline('outer', 'Main cut', '', uhd25))
    const framed = { zoom: rational(1, 2), position: { x: rational(100), y: rational(-60) } }
    append(doc, 'inner', [
      { ...placementOf(doc.clips.hall!, hd25, 'p'), treatment: { framing: { ...framed } } },
    ])
    append(doc, 'outer', [
      {
        ...placementOf(doc.clips.hall!, uhd25, 'n'),
        source: { kind: 'timeline', timelineId: 'inner' },
        treatment: { framing: { position: { x: rational(-30), y: rational(44) } } },
      },
    ])
    const placeOf = (timelineId: string) => {
      const [found] = layersAt(doc, doc.timelines[timelineId] as never, 0)
      const { x, y, scaleX, scaleY } = found!.rasterMap
      return [x, y, scaleX, scaleY].map(toNumber)
    }
    // Half of 1920 × 1080 in the middle of it: 480 and 270 from the edges, and moved.
    expect(placeOf('inner')).toEqual([480 + 100, 270 - 60, 0.5, 0.5])
    // 1920 × 1080 fills 3840 × 2160 at twice its size, and is moved: all of it is twice as far from its corner, and moved.
    expect(placeOf('outer')).toEqual([2 * 580 - 30, 2 * 210 + 44, 1, 1])
  })
})

describe('what comes from other programs', () => {
  function cut(): Doc {
    const doc = aDoc([aVideo('hall', '1920x1080@25p', 8)])
    addTimeline(doc, newTimeline('t', 'Main cut', '', hd25))
    append(doc, 't', [placementOf(doc.clips.hall!, hd25, 'p')])
    return doc
  }
  it('a track that is not enabled in OpenTimelineIO is hidden, of sound mute', () => {
    const doc = cut()
    const file = JSON.parse(JSON.stringify(toOtio(doc, doc.timelines.t!))) as {
      metadata: unknown
      tracks: { metadata: unknown; children: { kind: string; metadata: unknown; enabled: boolean }[] }
    }
    // As another program would write it: nothing of ours in it.
    file.metadata = {}
    file.tracks.metadata = {}
    for (const track of file.tracks.children) Object.assign(track, { metadata: {}, enabled: false })
    const read = fromOtio(JSON.stringify(file), doc, making())
    if (!read.ok) throw new Error(read.error)
    const tracks = read.timelines[0]!.tracks
    expect(tracks.length).toBeGreaterThan(0)
    for (const { kind, hidden, muted } of tracks)
      expect([hidden, muted]).toEqual(kind === 'video' ? [true, false] : [false, true])
  })

  // In a list of 25 frames a second a number below 25 counts two frames of the source; one above can only be the source's own.
  it.each([
    ['10:00:01:00', 50, 50],
    ['10:00:01:24', 50, 74],
    ['10:00:01:25', 50, 75],
    ['10:00:01:49', 50, 99],
    ['10:00:01:24', 25, 98],
    ['10:00:01:25', 25, 75],
    ['10:00:01:49', 25, 99],
  ])(
    'the label %s of a 50p source, in a list of %i frames a second, means its frame %i',
    (label, rate, frame) => {
      const clip = aVideo('bell', '1920x1080@50p', 60)
      const stamped = {
        ...clip,
        reading: { ...clip.reading!, timecode: { start: '10:00:00:00', dropFrame: false } },
      }
      const doc = aDoc([stamped]) as Doc
      const stated = parseFormat(`1920x1080@${rate}p`)!.format
      const list = `TITLE: POUR\n\n001  BELL     V     C        ${label} 10:00:05:00 01:00:00:00 01:00:03:00\n* FROM CLIP NAME: ${clip.name}\n`
      const read = fromEdl(list, doc, making(), stated)
      if (!read.ok) throw new Error(read.error)
      const [placed] = read.timeline.tracks[0]!.placements
      expect(toNumber(placed!.sourceIn) * 50).toBe(frame)
      const after = { ...doc, timelines: { [read.timeline.id]: read.timeline } }
      if (rate === 50) expect(toEdl(after, read.timeline).text).toContain(label)
    },
  )
})

describe('surround channels', () => {
  it('count by BS.1770: behind the listener more, low frequencies not at all, in five channels and in six', () => {
    expect(weightsFor(5)).toEqual([1, 1, 1, 1.41, 1.41])
    expect(weightsFor(6)).toEqual([1, 1, 1, 0, 1.41, 1.41])
  })
  it('of the left stay on the left and those of the right on the right', () => {
    const [left, right, centre, low, leftBehind, rightBehind] = downmix(6, 'stereo')
    expect([left, right]).toEqual([
      [1, 0],
      [0, 1],
    ])
    expect([leftBehind![1], rightBehind![0], low]).toEqual([0, 0, [0, 0]])
    for (const share of [...centre!, leftBehind![0]!, rightBehind![1]!]) expect(share).toBeCloseTo(0.7071, 4)
    expect(downmix(6, '5.1').map((row) => row.indexOf(1))).toEqual([0, 1, 2, 3, 4, 5])
  })
})

describe('a restore point', () => {
  it('brings back how much a clip counts', () => {
    const then = aDoc([aVideo('hall', '1920x1080@25p', 8), aVideo('bell', '1920x1080@25p', 8)])
    then.clips.hall!.priority = 'key'
    const now = structuredClone(then)
    now.clips.hall!.priority = 'normal'
    now.clips.bell!.priority = 'left-out'
    restore(now, then)
    expect([now.clips.hall!.priority, now.clips.bell!.priority]).toEqual(['key', then.clips.bell!.priority])
  })
})

describe('halved chroma', () => {
  it('of a ramp stays a ramp where it is delivered as it came', () => {
    const picture = ramps(24, 16, 2, chromaSiting({ across: 2, down: 2 }, ''))
    const planes = compose([layer(picture, { width: 24, height: 16 })], halved, raster(24, 16), plain)
    expect(planes.chroma).toEqual(picture.planes.chroma)
  })
})
