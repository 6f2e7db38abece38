import type { RasterMap } from '../framing/raster-map'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { parseFormat } from '../format/parse'
import { rational, toNumber } from '../rational/rational'
import { type CarryWish, copyOf, nested, newProjectWith, recut, slowed, takeCarried } from './carrying'
import { counting, cuts, docOf } from './cut.fixture'
import { aDoc, aVideo } from '../model/doc.fixture'
import type { Draft } from './draft'
import { type Layer, layersAt } from '../plan/layers'
import { canHold, unnested } from './nesting'
import { addTimeline } from './operations'
import { append, newTimeline, placementOf } from './placing'
import { type Doc, formatOf } from '../model/project'
import { nonsenseOf } from '../model/integrity'
import { type Timeline, lengthOf, placementsIn } from '../model/timeline'

const format = (text: string) => parseFormat(text)!.format
const wish = (text: string, more: Partial<CarryWish> = {}): CarryWish => ({
  format: format(text),
  origin: { setBy: 'typed', clip: null },
  keepPitch: true,
  ...more,
})
const making = (name = 'Carried') => ({ name, at: '2026-05-01T10:00:00Z', newId: counting() })
const rates = ['23.976', '24', '25', '29.97', '50', '59.94']
const seen = (doc: Doc, timeline: Timeline, n: number) =>
  layersAt(doc, timeline, n).map(({ placementId: _, ...layer }: Layer) => layer)

/** Two clips one after the other, a second each, and a title over their boundary. */
function placed(): Draft<Doc> {
  const hd = format('1920x1080@25p')
  const doc = aDoc([aVideo('hall', '1920x1080@25p', 20), aVideo('bell', '3840x2160@50p', 20)])
  addTimeline(doc, { ...newTimeline('t', 'Cut 1920×1080 · 25p', '', hd), startTimecode: '10:00:00:20' })
  const placed = (id: string, length: number) => ({ ...placementOf(doc.clips[id]!, hd, `p-${id}`), length })
  append(doc, 't', [placed('hall', 30), placed('bell', 31)])
  return doc
}

describe('a cut that is carried', () => {
  it('has no boundary further off than half a frame, but those that are told as pushed', () => {
    fc.assert(
      fc.property(cuts, fc.constantFrom(...rates), (cut, rate) => {
        const doc = docOf(cut)
        const { timeline, boundaries } = recut(doc, doc.timelines.t!, wish(`1920x1080@${rate}p`), null)
        const half = 500 / toNumber(timeline.rate!)
        for (const { driftMs, pushed } of boundaries)
          expect(pushed || Math.abs(driftMs) <= half + 1e-9).toBe(true)
        // What was pushed is back as soon as there is room: no boundary is pushed unless the one before it is, or it ends one frame.
        for (const { placements } of timeline.tracks)
          placements.forEach((placement, i) =>
            expect(placement.start).toBeGreaterThanOrEqual(i ? placements[i - 1]!.start + 1 : 0),
          )
        expect(nonsenseOf({ ...doc, timelines: { t: timeline } })).toBeNull()
      }),
      { numRuns: 200 },
    )
  })

  it('tells one-frame placements that push, and is back in time behind them', () => {
    const hd50 = format('1920x1080@50p')
    const doc = aDoc([aVideo('hall', '1920x1080@50p', 60)])
    addTimeline(doc, newTimeline('t', 'Main cut', '', hd50))
    const unplaced = placementOf(doc.clips.hall!, hd50, '')
    const ticks = Array.from({ length: 40 }, (_, i) => ({ ...unplaced, id: `p${i}`, length: 1 }))
    append(doc, 't', [
      ...ticks,
      { ...unplaced, id: 'long', length: 200 },
      { ...unplaced, id: 'last', length: 50 },
    ])
    const { timeline, boundaries } = recut(doc, doc.timelines.t!, wish('1920x1080@25p'), null)
    expect(boundaries.filter(({ pushed }) => pushed).at(-1)).toMatchObject({
      frame: 40,
      carried: 40,
      driftMs: 800,
    })
    expect(
      placementsIn(timeline)
        .slice(-2)
        .map(({ start, length }) => [start, length]),
    ).toEqual([
      [40, 80],
      [120, 25],
    ])
  })

  it('in place goes under its name, as a copy leaves the old one alone', () => {
    const doc = placed()
    const inPlace = recut(doc, doc.timelines.t!, wish('1920x1080@24p'), null)
    expect(inPlace.timeline).toMatchObject({
      id: 't',
      name: 'Cut 1920×1080 · 24p',
      startTimecode: '10:00:00:19',
    })
    expect(placementsIn(inPlace.timeline).map(({ start, length }) => [start, length])).toEqual([
      [0, 29],
      [29, 30],
    ])
    const copy = recut(doc, doc.timelines.t!, wish('1920x1080@24p'), making('A copy'))
    takeCarried(doc, copy)
    expect(doc.project.timelineOrder).toEqual(['t', copy.timeline.id])
    expect(doc.timelines.t!.rate).toEqual(rational(25))
    expect(doc.timelines[copy.timeline.id]!.name).toBe('A copy')
    expect(nonsenseOf(doc as Doc)).toBeNull()
  })

  it('keeps pairs and what was accepted together in a copy', () => {
    const doc = placed()
    const t = doc.timelines.t!
    t.tracks[0]!.placements.forEach((placement) => (placement.pairId = 'pair'))
    t.accepted = [{ placementId: 'p-bell', charge: 'reduce', at: '', word: 'meant' }]
    const copy = copyOf(t, making())
    const [a, b] = placementsIn(copy)
    expect(a!.pairId).toBe(b!.pairId)
    expect(a!.pairId).not.toBe('pair')
    expect(copy.accepted).toEqual([{ placementId: b!.id, charge: 'reduce', at: '', word: 'meant' }])
  })

  it('asks for drop-frame where it can be, and names no number that it leaves out', () => {
    const doc = placed()
    doc.timelines.t!.startTimecode = '10:01:00:00'
    const dropped = recut(doc, doc.timelines.t!, wish('1920x1080@29.97p', { dropFrame: true }), null)
    expect(dropped.timeline).toMatchObject({ startTimecode: '10:01:00;02', dropFrame: true })
    const counted = recut(doc, doc.timelines.t!, wish('1920x1080@29.97p'), null)
    expect(counted.timeline).toMatchObject({ startTimecode: '10:01:00:00', dropFrame: false })
    const whole = recut(doc, doc.timelines.t!, wish('1920x1080@24p', { dropFrame: true }), null)
    expect(whole.timeline.dropFrame).toBe(false)
  })
})

describe('a nested cut', () => {
  it('runs whole inside the new one, and comes out again as it went in', () => {
    fc.assert(
      fc.property(cuts, (cut) => {
        const doc = docOf(cut)
        const inner = doc.timelines.t! as Timeline
        const runsIn = formatOf(doc, inner)!
        const held = nested(doc, inner, { ...wish('1920x1080@25p'), format: runsIn }, making())
        expect(lengthOf(held.timeline)).toBe(lengthOf(inner))
        const [lead] = placementsIn(held.timeline)
        const out = unnested(held.doc, held.timeline, lead!.id, counting())
        expect(placementsIn(out).every(({ source }) => source.kind === 'clip')).toBe(true)
        expect(nonsenseOf({ ...held.doc, timelines: { ...held.doc.timelines, [out.id]: out } })).toBeNull()
        for (let n = 0; n < lengthOf(inner); n++) {
          const [was, is] = [seen(held.doc, inner, n), seen(held.doc, out, n)]
          // What hung out of the inner raster is cut off at its edge, and nothing else is another.
          const drawn = was.filter((_, i) =>
            is.some(({ source, shown }) => source === was[i]!.source && shown !== null),
          )
          expect(is.length).toBeLessThanOrEqual(was.length)
          is.forEach((layer) => {
            const same = drawn.find(
              (other) =>
                JSON.stringify(other.shown) === JSON.stringify(layer.shown) && other.source === layer.source,
            )
            const uncut = (rasterMap: RasterMap) => ({ ...rasterMap, crop: same?.rasterMap.crop })
            expect({
              ...layer,
              rasterMap: uncut(layer.rasterMap),
              unshifted: uncut(layer.unshifted),
            }).toEqual(same)
          })
        }
        const sound = (timeline: Timeline) =>
          timeline.tracks
            .filter(({ kind }) => kind === 'audio')
            .flatMap(({ placements }) =>
              placements.map(({ start, length, sourceIn }) => [start, length, sourceIn]),
            )
        expect(sound(out)).toEqual(sound(inner))
      }),
      { numRuns: 150 },
    )
  })

  it('falls by the rule of cuts at another rate, and moves no boundary before', () => {
    const doc = placed()
    const held = nested(doc, doc.timelines.t!, wish('1920x1080@24p'), making())
    expect(held.timeline.startTimecode).toBe('10:00:00:19')
    expect(placementsIn(held.timeline).map(({ start, length }) => [start, length])).toEqual([[0, 59]])
    expect(held.boundaries.filter(({ driftMs }) => Math.abs(driftMs) > 0.01)).toHaveLength(2)
    const out = unnested(held.doc, held.timeline, placementsIn(held.timeline)[0]!.id, counting())
    expect(placementsIn(out).map(({ start, length }) => [start, length])).toEqual([
      [0, 29],
      [29, 30],
    ])
  })

  it('comes out trimmed, moved, slowed and framed as it was placed', () => {
    const doc = placed()
    const held = nested(doc, doc.timelines.t!, wish('1920x1080@25p'), making())
    const [track, ...others] = held.timeline.tracks
    const half = {
      kind: 'speed',
      pace: { kind: 'factor', factor: rational(1, 2) },
      wanted: true,
      keepPitch: false,
    } as const
    const trimmed = {
      ...track!.placements[0]!,
      start: 100,
      length: 80,
      sourceIn: rational(10, 25),
      treatment: { motion: half, framing: { zoom: rational(2) } },
    }
    const outer: Timeline = { ...held.timeline, tracks: [{ ...track!, placements: [trimmed] }, ...others] }
    const out = unnested(held.doc, outer, trimmed.id, counting())
    expect(placementsIn(out)).toMatchObject([
      { start: 100, length: 40, sourceIn: rational(10, 25), treatment: { motion: half } },
      { start: 140, length: 40, sourceIn: rational(0), treatment: { motion: half } },
    ])
    for (let n = 100; n < 180; n++)
      expect(seen(held.doc, out, n)[0]!.rasterMap).toMatchObject(
        n < 140
          ? { scaleX: rational(2), x: rational(-960), crop: { left: 0 } }
          : { scaleX: rational(1), x: rational(-960), crop: { left: 0 } },
      )
    // The wide picture hangs out of nothing: its timeline does, and what of that is not seen is no concern of its own.
    expect(seen(held.doc, out, 100)[0]!.shown).toEqual({ kind: 'frame', index: 10 })
    expect(seen(held.doc, out, 102)[0]!.shown).toEqual({ kind: 'frame', index: 11 })
  })

  it('comes out cut off where it was, within parts of a pixel too', () => {
    const doc = placed()
    const held = nested(doc, doc.timelines.t!, wish('1920x1080@25p'), making())
    const [track, ...others] = held.timeline.tracks
    const crop = { left: 656.25, top: 0, right: 10.5, bottom: 0 }
    const cut = { ...track!.placements[0]!, treatment: { framing: { crop } } }
    const outer: Timeline = { ...held.timeline, tracks: [{ ...track!, placements: [cut] }, ...others] }
    const out = unnested(held.doc, outer, cut.id, counting())
    expect(seen(held.doc, out, 0)[0]!.rasterMap.crop).toEqual(crop)
  })

  it('is never inside itself', () => {
    const doc = placed()
    const held = nested(doc, doc.timelines.t!, wish('1920x1080@24p'), making())
    expect(canHold(held.doc, 't', held.timeline.id)).toBe(false)
    expect(canHold(held.doc, held.timeline.id, 't')).toBe(true)
    expect(canHold(held.doc, 't', 't')).toBe(false)
  })
})

describe('a cut that is slowed or sped', () => {
  it('shows each frame that it showed, and lasts by as much longer', () => {
    fc.assert(
      fc.property(cuts, fc.constantFrom(...rates), (cut, rate) => {
        const doc = docOf(cut)
        const t = doc.timelines.t! as Timeline
        const size = cut.format.split('@')[0]
        const scan = cut.format.endsWith('i') ? 'i' : 'p'
        const runsIn = parseFormat(`${size}@${rate}${scan}`)?.format
        if (!runsIn) return
        const {
          timeline,
          doc: after,
          held,
        } = slowed(doc, t, { ...wish('1920x1080@25p'), format: runsIn }, null)
        expect(lengthOf(timeline)).toBe(lengthOf(t))
        const other = new Set(held.map(({ id }) => id))
        for (let n = 0; n < lengthOf(t); n++) {
          const shown = (doc: Doc, timeline: Timeline) =>
            layersAt(doc, timeline, n).flatMap((layer) =>
              other.has(layer.placementId) ? [] : [[layer.placementId, layer.shown]],
            )
          expect(shown(after, timeline)).toEqual(shown(doc as Doc, t))
        }
      }),
      { numRuns: 100 },
    )
  })

  it('costs no frame: 25 at 24 lasts 4.2 % longer, and its sound follows', () => {
    const doc = placed()
    doc.timelines.t!.tracks[1]!.placements = [
      { ...structuredClone(doc.timelines.t!.tracks[0]!.placements[0]!), id: 'sound' },
    ]
    const { timeline, boundaries } = slowed(doc, doc.timelines.t!, wish('1920x1080@24p'), null)
    expect(boundaries).toEqual([])
    expect(lengthOf(timeline)).toBe(61)
    const motion = {
      kind: 'speed',
      pace: { kind: 'factor', factor: rational(24, 25) },
      wanted: true,
      keepPitch: true,
    }
    expect(placementsIn(timeline).map(({ treatment }) => treatment.motion)).toEqual([motion, motion, motion])
  })
})

describe('a new project that takes a cut over', () => {
  it('holds the clips, the cut in the new format and what is placed in it, and nothing else', () => {
    const doc = placed()
    const held = nested(doc, doc.timelines.t!, wish('1920x1080@25p'), making('Outer'))
    const other = newTimeline('other', 'Another', '', format('1280x720@25p'))
    const full = {
      ...held.doc,
      timelines: { ...held.doc.timelines, other },
      project: { ...held.doc.project, timelineOrder: [...held.doc.project.timelineOrder, 'other'] },
    }
    const begun = newProjectWith(
      full,
      held.timeline,
      wish('3840x2160@24p'),
      making('Second casting'),
      'because',
    )
    expect(begun.doc.project).toMatchObject({
      name: 'Second casting',
      format: format('3840x2160@24p'),
      decisions: [{ reason: 'because', setBy: 'typed' }],
      timelineOrder: [held.timeline.id, 't'],
      clipOrder: ['hall', 'bell'],
    })
    expect(begun.doc.timelines[held.timeline.id]).toMatchObject({ ownFormat: null, rate: rational(24) })
    expect(begun.doc.timelines.t!.ownFormat).toEqual(format('1920x1080@25p'))
    expect(nonsenseOf(begun.doc)).toBeNull()
    expect(full.project.timelineOrder).toHaveLength(3)
  })
})
