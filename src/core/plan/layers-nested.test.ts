import { describe, expect, it } from 'vitest'
import { rational, toNumber } from '../rational/rational'
import type { Draft } from '../edit/draft'
import { layersAt } from './layers'
import { addTimeline, setTimelineFormat } from '../edit/operations'
import { append, newTimeline, placementOf } from '../edit/placing'
import type { Doc } from '../model/project'
import type { Placement } from '../model/timeline'
import { at, format, hd25, placed, placement } from './layers.fixture'

describe('one line lower', () => {
  const i50 = format('1920x1080@50i')
  const shifted = (clip: string, runsIn = i50, change: (doc: Draft<Doc>) => void = () => {}) => {
    const doc = placed([['reel', clip]], runsIn)
    placement(doc).treatment = { shiftOrder: true }
    change(doc)
    return toNumber(at(doc, 3)[0]!.rasterMap.y)
  }
  it('stand only fields that stay fields, at their own height', () => {
    expect(shifted('1920x1080@50i')).toBe(1)
    expect(shifted('1440x1080/4:3@50i')).toBe(1)
    expect(shifted('1920x1080@25p')).toBe(0)
    expect(shifted('1920x1080@50p')).toBe(0)
    expect(shifted('1920x1080@50i', hd25)).toBe(0)
    expect(shifted('1920x540@50i')).toBe(271)
    expect(shifted('1280x720@50i')).toBe(0)
    const woven = (doc: Draft<Doc>) => {
      placement(doc).treatment = { shiftOrder: true, fields: { kind: 'weave' } }
    }
    expect(shifted('1920x1080@50i', i50, woven)).toBe(0)
  })
})

describe('a timeline that is looked through', () => {
  const inner = format('1280x720@25p')
  function nested(change: (inside: Draft<Placement>, outside: Draft<Placement>, doc: Draft<Doc>) => void) {
    const doc = placed([['hall', '1280x720@25p']], inner)
    addTimeline(doc, newTimeline('outer', 'Trailer', '', hd25))
    append(doc, 'outer', [
      {
        ...placementOf(doc.clips.hall!, hd25, 'p-inner'),
        source: { kind: 'timeline', timelineId: 't' },
        length: 50,
      },
    ])
    change(placement(doc), doc.timelines.outer!.tracks[0]!.placements[0]!, doc)
    return layersAt(doc, doc.timelines.outer!, 12)
  }
  const kinds = (...given: Parameters<typeof nested>) => nested(...given).map(({ source }) => source.kind)
  const crop = (side: 'left' | 'right' | 'top' | 'bottom') => ({
    left: 0,
    right: 0,
    top: 0,
    bottom: 0,
    [side]: 10,
  })

  it('is not where any side of it is cropped', () => {
    expect(kinds(() => {})).toEqual(['clip'])
    for (const side of ['left', 'right', 'top', 'bottom'] as const)
      expect(kinds((_, outside) => (outside.treatment = { framing: { crop: crop(side) } }))).toEqual([
        'timeline',
      ])
  })

  it('is not where anything in it hangs over any of its edges', () => {
    const moved = (x: number, y: number) =>
      kinds(
        (inside) =>
          (inside.treatment = {
            framing: {
              mode: { kind: 'fit' },
              zoom: rational(1, 2),
              position: { x: rational(x), y: rational(y) },
            },
          }),
      )
    // Half as large it has 320 and 180 pixels of room to each side.
    expect([moved(0, 0), moved(320, 180), moved(-320, -180)]).toEqual([['clip'], ['clip'], ['clip']])
    expect([moved(321, 0), moved(-321, 0), moved(0, 181), moved(0, -181)]).toEqual(
      Array(4).fill(['timeline']),
    )
  })

  it('is not where one of several hangs over, and is where all lie within', () => {
    const two = (zoom: number) =>
      kinds((inside, _, doc) => {
        const [track] = doc.timelines.t!.tracks
        const above = {
          ...structuredClone(inside),
          id: 'above',
          treatment: { framing: { zoom: rational(zoom) } },
        }
        doc.timelines.t!.tracks.splice(1, 0, { ...track!, id: 'v2', placements: [above] })
      })
    expect(two(1)).toEqual(['clip', 'clip'])
    expect(two(2)).toEqual(['timeline'])
  })

  it('is not where its frames stand as fields, or it is gone', () => {
    expect(kinds((_, __, doc) => setTimelineFormat(doc, 'outer', format('1920x1080@50i')))).toEqual(['clip'])
    expect(
      kinds((_, outside, doc) => {
        setTimelineFormat(doc, 't', format('1280x720@50p'))
        setTimelineFormat(doc, 'outer', format('1920x1080@50i'))
        outside.length = 50
      }),
    ).toEqual(['timeline'])
    expect(kinds((_, outside) => (outside.source = { kind: 'timeline', timelineId: 'gone' }))).toEqual([])
  })
})

describe('an interlaced timeline within another', () => {
  /** A timeline of an order in which a clip runs, and one of the other order around it. */
  function nestedOrders(clip: string) {
    const doc = placed([['hall', clip]], { ...format('1920x1080@50i'), fieldOrder: 'top-first' })
    addTimeline(
      doc,
      newTimeline('o', 'Outer', '', { ...format('1920x1080@50i'), fieldOrder: 'bottom-first' }),
    )
    append(doc, 'o', [
      { ...placementOf(doc.clips.hall!, hd25, 'n'), source: { kind: 'timeline', timelineId: 't' } },
    ])
    return doc
  }
  it('of the other order shows its fields in the order of the outer one', () => {
    const doc = nestedOrders('1920x1080@50p')
    const [layer] = layersAt(doc, doc.timelines.o!, 3)
    // The first field in time stands on the bottom lines.
    expect(layer!.shown).toEqual({
      kind: 'fields',
      top: { frame: 7, parity: 'top' },
      bottom: { frame: 6, parity: 'bottom' },
    })
    expect(toNumber(layer!.rasterMap.y)).toBe(0)
  })
  it('shifts a clip of its own order by a line, once, and leaves one of the outer order alone', () => {
    const doc = nestedOrders('1920x1080@50i')
    const [shifted] = layersAt(doc, doc.timelines.o!, 3)
    expect([toNumber(shifted!.rasterMap.y), shifted!.inFields]).toEqual([
      1,
      { outOf: 'fields', crossed: true },
    ])
    doc.clips.hall!.reading!.video!.fieldOrder = 'bottom-first'
    const [straight] = layersAt(doc, { ...doc.timelines.o! }, 3)
    expect([toNumber(straight!.rasterMap.y), straight!.inFields]).toEqual([
      0,
      { outOf: 'fields', crossed: false },
    ])
  })
})
