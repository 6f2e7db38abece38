import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { parseFormat } from '../format/parse'
import { axesOf, drawnArea } from '../framing/raster-map'
import { displaySize } from '../picture/size'
import { rational, toNumber } from '../rational/rational'
import { checkTimeline } from '../check/check'
import { cuts, docOf } from './cut.fixture'
import { aDoc, aVideo } from '../model/doc.fixture'
import type { Draft } from './draft'
import { layersAt } from '../plan/layers'
import type { FramingPlan } from './reframe'
import { addTimeline, setTimelineFormat } from './operations'
import { append, newTimeline, placementOf } from './placing'
import { type Doc, formatOf } from '../model/project'
import { reframed } from './reformat'
import { pictureOfPlacement } from '../plan/running'
import { type Timeline, placementsIn } from '../model/timeline'
import { treat, untreat } from './treating'

const format = (text: string) => parseFormat(text)!.format
const sizes = ['1920x1080', '3840x2160', '1280x720', '4096x2160', '1080x1920', '1080x1080', '1440x1080/4:3']
const inSize = (doc: Doc, timeline: Timeline, size: string, plan?: FramingPlan) => {
  const rate = timeline.rate!
  const changed = { ...timeline, ownFormat: { ...format(`${size}@25p`), rate } }
  return reframed(doc, doc, timeline, changed, plan).timeline
}
/** Where each placement's picture is drawn, from the middle of the frame, in square pixels as large as the look is. */
const looks = (doc: Doc, timeline: Timeline, size: string, by = 1) =>
  placementsIn(timeline).flatMap((placement) => {
    const [layer] = layersAt(
      doc,
      {
        ...timeline,
        tracks: timeline.tracks.map((track) => ({
          ...track,
          placements: track.placements.filter(({ id }) => id === placement.id),
        })),
      },
      placement.start,
    )
    const picture = pictureOfPlacement(doc, placement)
    if (!layer || !picture) return []
    const frame = format(`${size}@25p`)
    const area = drawnArea(layer.rasterMap, axesOf(picture))
    const aspect = toNumber(frame.pixelAspect)
    const across = [area.left, area.right].map((x) => (x - frame.width / 2) * aspect * by)
    const down = [area.top, area.bottom].map((y) => (y - frame.height / 2) * by)
    return [[...across, ...down]]
  })

/** One clip of each kind that matters: of the frame's shape, upright, and with its own zoom and place. */
function placed(): Draft<Doc> {
  const hd = format('1920x1080@25p')
  const doc = aDoc([aVideo('wide', '3840x2160@25p', 4), aVideo('phone', '1080x1920@25p', 4)])
  addTimeline(doc, newTimeline('t', 'Main cut', '', hd))
  append(
    doc,
    't',
    ['wide', 'phone'].map((id) => placementOf(doc.clips[id]!, hd, `p-${id}`)),
  )
  treat(doc, 't', ['p-phone'], {
    framing: { zoom: rational(3, 2), position: { x: rational(200), y: rational(-40) }, filter: 'bilinear' },
  })
  return doc
}
const reframedOf = (doc: Draft<Doc>, id: string) =>
  placementsIn(doc.timelines.t! as Timeline).find((p) => p.id === id)!

describe('a look', () => {
  it('is kept through another size and shape: the same picture, as large as the frame allows', () => {
    fc.assert(
      fc.property(cuts, fc.constantFrom(...sizes), (cut, size) => {
        const doc = docOf(cut) as Doc
        const t = doc.timelines.t!
        const was = cut.format.split('@')[0]!
        const kept = inSize(doc, t, size, { all: 'keep' })
        const [a, b] = [displaySize(format(`${was}@25p`)), displaySize(format(`${size}@25p`))]
        const by = Math.min(b.width / a.width, b.height / a.height)
        const [before, after] = [looks(doc, t, was, by), looks(doc, kept, size)]
        expect(after.length).toBe(before.length)
        // In fields a picture is moved by a line, so that its own fields lie on their lines.
        const most = cut.format.endsWith('i') ? Math.max(1, by) + 1e-4 : 1e-4
        after.flat().forEach((side, i) => expect(Math.abs(side - before.flat()[i]!)).toBeLessThan(most))
        expect(placementsIn(kept).map(({ start, length }) => [start, length])).toEqual(
          placementsIn(t).map(({ start, length }) => [start, length]),
        )
      }),
      { numRuns: 150 },
    )
  })

  it('leaves what is merely fitted as it is, and moves what was placed by hand', () => {
    const doc = placed()
    setTimelineFormat(doc, 't', format('3840x2160@25p'))
    expect(reframedOf(doc, 'p-wide').treatment).toEqual({})
    expect(reframedOf(doc, 'p-phone').treatment.framing).toEqual({
      zoom: rational(3, 2),
      position: { x: rational(400), y: rational(-80) },
      filter: 'bilinear',
    })
    expect(reframedOf(doc, 'p-phone').framingByShape).toEqual({})
  })

  it('is the same after landscape, portrait and landscape, and both are there', () => {
    fc.assert(
      fc.property(cuts, fc.constantFrom('keep', 'anew', 'fill-shape', 'as-before'), (cut, all) => {
        const doc = docOf({ ...cut, format: '1920x1080@25p' }) as Doc
        const t = doc.timelines.t!
        const portrait = inSize(doc, t, '1080x1920', { all })
        const back = inSize(doc, portrait, '1920x1080')
        expect(looks(doc, back, '1920x1080')).toEqual(looks(doc, t, '1920x1080'))
        const again = inSize(doc, back, '1080x1920')
        expect(looks(doc, again, '1080x1920')).toEqual(looks(doc, portrait, '1080x1920'))
        // Back in a larger frame of the same shape, it is as large as that.
        const larger = inSize(doc, portrait, '3840x2160')
        expect(
          looks(doc, larger, '3840x2160')
            .flat()
            .map((side) => Math.round(side * 1000)),
        ).toEqual(
          looks(doc, t, '1920x1080', 2)
            .flat()
            .map((side) => Math.round(side * 1000)),
        )
      }),
      { numRuns: 120 },
    )
  })

  it('fills a portrait frame about the point that is looked at, and pays for that', () => {
    const doc = placed()
    const t = doc.timelines.t! as Timeline
    const by = { 'p-phone': 'anew' as const }
    const lookAt = { 'p-wide': { x: 0.75, y: 0.5 } }
    const portrait = inSize(doc, t, '1080x1920', { all: 'fill-shape', by, lookAt })
    const [wide, phone] = placementsIn(portrait)
    // 1215 of 3840 columns, about column 2880.
    expect(wide!.framingByShape['9:16']).toMatchObject({
      cropToShape: true,
      crop: { left: 2272.5, right: 352.5, top: 0, bottom: 0 },
    })
    expect(wide!.treatment).toEqual({})
    expect(phone!.framingByShape['9:16']).toMatchObject({ mode: { kind: 'fit' }, zoom: rational(1) })
    const check = checkTimeline(doc, portrait)!
    expect(check.findings.map(({ toll }) => toll.charges.map(({ kind }) => kind))).toEqual([
      ['reduce', 'crop'],
      [],
    ])
    // What is not of where it lies holds in every shape.
    expect(layersAt(doc as Doc, portrait, 120)[0]!.filter).toBe('bilinear')
  })

  it('is changed for the shape in which it is looked at, and the other stays', () => {
    const doc = placed()
    const portrait = format('1080x1920@25p')
    setTimelineFormat(doc, 't', portrait, null, { all: 'fill-shape' })
    treat(doc, 't', ['p-phone'], {
      framing: { zoom: rational(2), filter: 'nearest' },
      motion: { kind: 'hold' },
    })
    expect(reframedOf(doc, 'p-phone').framingByShape['9:16']).toMatchObject({
      zoom: rational(2),
      cropToShape: true,
    })
    expect(reframedOf(doc, 'p-phone').treatment).toMatchObject({
      framing: { zoom: rational(3, 2), filter: 'nearest' },
      motion: { kind: 'hold' },
    })
    untreat(doc, 't', ['p-phone'], ['framing.zoom'])
    expect(reframedOf(doc, 'p-phone').framingByShape).toEqual({})
    expect(formatOf(doc as Doc, doc.timelines.t! as Timeline)).toEqual(portrait)
  })
})
