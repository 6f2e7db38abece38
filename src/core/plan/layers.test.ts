import { describe, expect, it } from 'vitest'
import { rational } from '../rational/rational'
import { correct } from '../edit/correction'
import type { Draft } from '../edit/draft'
import { layersAt, placementAt } from './layers'
import { addTimeline, setTimelineFormat } from '../edit/operations'
import { append, cutAt, newTimeline, placementOf } from '../edit/placing'
import type { Doc } from '../model/project'
import type { Placement } from '../model/timeline'
import { at, format, hd25, lies, placed, placement } from './layers.fixture'

describe('the layers of a frame', () => {
  it('are one for each visible video track, bottom to top, each where it lies', () => {
    const doc = placed()
    doc.timelines.t!.tracks.splice(1, 0, {
      ...structuredClone(doc.timelines.t!.tracks[0]!),
      id: 'v2',
      placements: [{ ...placementOf(doc.clips.title!, hd25, 'p-title'), start: 10 } as Draft<Placement>],
    })
    expect(at(doc, 9).map((layer) => layer.placementId)).toEqual(['p-hall'])
    const [hall, title] = at(doc, 10)
    expect([hall!.placementId, title!.placementId]).toEqual(['p-hall', 'p-title'])
    expect(hall).toMatchObject({
      shown: { kind: 'frame', index: 10 },
      source: { kind: 'clip', clipId: 'hall' },
      size: { across: 3840, down: 2160 },
      filter: 'lanczos',
      reduction: 'kept',
      sharpen: null,
      colour: 'auto',
    })
    expect(lies(hall!)).toEqual([0.5, 0.5, 0, 0])
    expect(lies(title!)).toEqual([1.5, 1.5, 0, 0])
    doc.timelines.t!.tracks[1]!.hidden = true
    expect(at(doc, 10)).toHaveLength(1)
  })

  it('are none in a gap, behind the end, on sound, and without a format', () => {
    const doc = placed()
    placement(doc).start = 5
    expect([at(doc, 4), at(doc, 105)]).toEqual([[], []])
    doc.timelines.t!.tracks[0]!.kind = 'audio'
    expect(at(doc, 10)).toEqual([])
    doc.timelines.t!.tracks[0]!.kind = 'video'
    Object.assign(doc.timelines.t!, { ownFormat: null, rate: null })
    expect(at(doc, 10)).toEqual([])
  })

  it('show the last frame at the end of a clip of odd length on half its rate', () => {
    const doc = placed([['bell', '1920x1080@50p']])
    Object.assign(doc.clips.bell!.reading!.video!, { frameCount: 101 })
    placement(doc).length = 51
    expect(at(doc, 50).map(({ shown }) => shown)).toEqual([{ kind: 'frame', index: 100 }])
  })

  it('follow what is set on timeline, rule and placement, the later over the earlier', () => {
    const doc = placed()
    const { t } = doc.timelines
    t!.treatment = { framing: { mode: { kind: 'one-to-one' }, filter: 'bilinear' } }
    expect(lies(at(doc, 0)[0]!)).toEqual([1, 1, -960, -540])
    t!.rules = [
      { id: 'r', on: true, when: { rate: rational(25) }, set: { framing: { zoom: rational(2) } } },
      { id: 'q', on: true, when: { scan: 'interlaced' }, set: { framing: { filter: 'nearest' } } },
    ]
    expect(lies(at(doc, 0)[0]!).slice(0, 2)).toEqual([2, 2])
    expect(at(doc, 0)[0]!.filter).toBe('bilinear')
    t!.rules[0]!.on = false
    expect(lies(at(doc, 0)[0]!).slice(0, 2)).toEqual([1, 1])
    placement(doc).treatment = { framing: { mode: { kind: 'fit' } } }
    expect(lies(at(doc, 0)[0]!).slice(0, 2)).toEqual([0.5, 0.5])
  })

  it('have a framing of their own for a format of another shape', () => {
    const doc = placed()
    placement(doc).framingByShape = { '9:16': { position: { x: rational(-100), y: rational(0) } } }
    expect(lies(at(doc, 0)[0]!)[2]).toBe(0)
    setTimelineFormat(doc, 't', format('1080x1920@25p'))
    expect(lies(at(doc, 0)[0]!)[2]).toBe(-100)
  })

  it('leave out baked bars, and stand upright after a corrected turn', () => {
    const doc = placed([['hall', '1920x1080@25p']])
    correct(doc, ['hall'], { crop: { left: 0, right: 0, top: 140, bottom: 100 } })
    const [barred] = at(doc, 0)
    expect(barred!.rasterMap.crop).toEqual({ left: 0, right: 0, top: 140, bottom: 100 })
    expect(barred!.size).toEqual({ across: 1920, down: 1080 })
    // 840 lines in the middle of 1080, with the bars above them left out.
    expect(lies(barred!)).toEqual([1, 1, 0, -20])
    correct(doc, ['hall'], { rotation: 90 })
    const [turned] = at(doc, 0)
    expect(turned!.rasterMap).toMatchObject({ turn: 90, crop: { left: 100, right: 140, top: 0, bottom: 0 } })
    expect(turned!.size).toEqual({ across: 1080, down: 1920 })
    const scale = 1080 / 1920
    expect(lies(turned!)[0]).toBeCloseTo(scale, 12)
    expect(lies(turned!)[2]).toBeCloseTo((1920 - 840 * scale) / 2 - 100 * scale, 9)
    correct(doc, ['hall'], { rotation: 180 })
    expect(at(doc, 0)[0]!.rasterMap.crop).toEqual({ left: 0, right: 0, top: 100, bottom: 140 })
    correct(doc, ['hall'], { rotation: 270 })
    expect(at(doc, 0)[0]!.rasterMap.crop).toEqual({ left: 140, right: 100, top: 0, bottom: 0 })
  })

  it('show fields of the other order one line lower', () => {
    const i50 = format('1920x1080@50i')
    const doc = placed([['reel', '1920x1080@50i']], i50)
    expect(lies(at(doc, 3)[0]!)).toEqual([1, 1, 0, 0])
    correct(doc, ['reel'], { fieldOrder: 'bottom-first' })
    expect(lies(at(doc, 3)[0]!)).toEqual([1, 1, 0, 1])
    expect(at(doc, 3)[0]!.shown).toEqual({ kind: 'frame', index: 3 })
    correct(doc, ['reel'], { fieldOrder: null })
    placement(doc).treatment = { shiftOrder: true }
    expect(lies(at(doc, 3)[0]!)).toEqual([1, 1, 0, 1])
  })
})

describe('a cut in two', () => {
  it('changes no frame of a timeline', () => {
    for (const text of ['1920x1080@24p', '1920x1080@50i', '1280x720@59.94p']) {
      const doc = placed([['hall', text]])
      const before = Array.from({ length: 100 }, (_, n) =>
        at(doc, n).map(({ shown, rasterMap }) => [shown, rasterMap]),
      )
      expect(cutAt(doc, 't', ['p-hall'], 37, () => 'p-2')).toEqual(['p-2'])
      expect(doc.timelines.t!.tracks[0]!.placements.map(({ start, length }) => [start, length])).toEqual([
        [0, 37],
        [37, 63],
      ])
      expect(
        Array.from({ length: 100 }, (_, n) => at(doc, n).map(({ shown, rasterMap }) => [shown, rasterMap])),
      ).toEqual(before)
    }
  })
  it('is none at the ends, or of what is not named', () => {
    const doc = placed()
    for (const frame of [0, 100, 500]) expect(cutAt(doc, 't', ['p-hall'], frame, () => 'p-2')).toEqual([])
    expect(cutAt(doc, 't', ['else'], 37, () => 'p-2')).toEqual([])
    expect(doc.timelines.t!.tracks[0]!.placements).toHaveLength(1)
  })
})

describe('a timeline within a timeline', () => {
  function nested(inner = format('1280x720@25p')) {
    const doc = placed([['hall', '3840x2160@25p']], inner)
    addTimeline(doc, newTimeline('outer', 'Trailer', '', hd25))
    append(doc, 'outer', [
      {
        ...placementOf(doc.clips.hall!, hd25, 'p-inner'),
        source: { kind: 'timeline', timelineId: 't' },
        length: 50,
      },
    ])
    return doc
  }
  const outer = (doc: Draft<Doc>, n: number) => layersAt(doc, doc.timelines.outer!, n)

  it('gives its own layers, their maps composed', () => {
    const [layer] = outer(nested(), 12)
    expect(layer).toMatchObject({
      placementId: 'p-inner',
      source: { kind: 'clip', clipId: 'hall' },
      shown: { kind: 'frame', index: 12 },
    })
    expect(lies(layer!)).toEqual([0.5, 0.5, 0, 0])
  })

  it('lands by its own rate', () => {
    const [layer] = outer(nested(format('1280x720@50p')), 12)
    expect(layer!.shown).toEqual({ kind: 'frame', index: 12 })
  })

  it('is a picture of its own where it is mixed, cropped, baked or cut off by its raster', () => {
    const whole = (change: (doc: Draft<Doc>) => void) => {
      const doc = nested()
      change(doc)
      return outer(doc, 12)[0]!.source.kind
    }
    const placedInner = (doc: Draft<Doc>) => doc.timelines.outer!.tracks[0]!.placements[0]!
    expect(whole(() => {})).toBe('clip')
    expect(
      whole((doc) => {
        setTimelineFormat(doc, 'outer', format('1920x1080@24p'))
        placedInner(doc).treatment = { motion: { kind: 'blend' } }
      }),
    ).toBe('timeline')
    const crop = { left: 10, right: 0, top: 0, bottom: 0 }
    expect(whole((doc) => void (placedInner(doc).treatment = { framing: { crop } }))).toBe('timeline')
    expect(whole((doc) => void (placedInner(doc).treatment = { framing: { reduction: 'baked' } }))).toBe(
      'timeline',
    )
    expect(whole((doc) => void (placement(doc).treatment = { framing: { zoom: rational(2) } }))).toBe(
      'timeline',
    )
  })

  it('shows nothing behind its end, nor while it has no format', () => {
    const doc = nested()
    placement(doc).length = 5
    expect(outer(doc, 12)).toEqual([])
    Object.assign(doc.timelines.t!, { ownFormat: null, rate: null })
    expect(outer(doc, 2)).toEqual([])
  })
})

describe('the test figure', () => {
  it('is placed as a picture of its own size and rate', () => {
    const doc = placed()
    append(doc, 't', [
      {
        ...placementOf(doc.clips.hall!, hd25, 'p-figure'),
        source: {
          kind: 'figure',
          size: { width: 1440, height: 1080, pixelAspect: rational(4, 3) },
          rate: rational(50),
          scan: 'progressive',
        },
      },
    ])
    const [layer] = at(doc, 110)
    expect(layer).toMatchObject({ source: { kind: 'figure' }, shown: { kind: 'frame', index: 21 } })
    expect(lies(layer!)[0]).toBeCloseTo(4 / 3, 12)
  })
})

describe('the placement at a frame', () => {
  const track = {
    placements: [3, 10, 20].map((start, i) => ({ id: String(i), start, length: 5 }) as Placement),
  }
  it('is found among those in order, none in gaps', () => {
    const found = [0, 2, 3, 7, 8, 9, 10, 14, 15, 19, 20, 24, 25].map((n) => placementAt(track, n)?.id ?? '-')
    expect(found.join('')).toBe('--00--11--22-')
    expect(placementAt({ placements: [] }, 0)).toBeNull()
  })
})

describe('what is not known', () => {
  it('is no layer: a clip that is gone, one that was not read, a timeline without a rate', () => {
    const doc = placed()
    placement(doc).source = { kind: 'clip', clipId: 'gone' }
    expect(at(doc, 3)).toEqual([])
    placement(doc).source = { kind: 'clip', clipId: 'hall' }
    const { reading } = doc.clips.hall!
    doc.clips.hall!.reading = null
    expect(at(doc, 3)).toEqual([])
    doc.clips.hall!.reading = reading
    expect(at(doc, 3)).toHaveLength(1)
    expect(layersAt(doc, { ...doc.timelines.t!, rate: null }, 3)).toEqual([])
    expect(layersAt(doc, { ...doc.timelines.t!, ownFormat: null }, 3)).toEqual([])
  })
})
