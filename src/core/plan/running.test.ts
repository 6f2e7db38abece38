import { describe, expect, it } from 'vitest'
import { parseFormat } from '../format/parse'
import { rational } from '../rational/rational'
import { aDoc, aVideo } from '../model/doc.fixture'
import { addTimeline } from '../edit/operations'
import { append, newTimeline, placementOf } from '../edit/placing'
import { pictureOfPlacement, runningOf, settlePlacement, timingOfPlacement } from './running'
import { type Placement, type PlacementSource, mostFrames } from '../model/timeline'

const hd25 = parseFormat('1920x1080@25p')!.format
const figure = (scan: 'progressive' | 'interlaced'): PlacementSource => ({
  kind: 'figure',
  size: { width: 1440, height: 1080, pixelAspect: rational(4, 3) },
  rate: rational(30),
  scan,
})
function placed() {
  const doc = aDoc([aVideo('reel', '1920x1080@50i', 4)])
  addTimeline(doc, newTimeline('inner', 'Pour', '', parseFormat('1280x720@50p')!.format))
  addTimeline(doc, newTimeline('t', 'Main cut', '', hd25))
  append(doc, 't', [placementOf(doc.clips.reel!, hd25, 'p')])
  const [placement] = doc.timelines.t!.tracks[0]!.placements
  const sourced = (source: PlacementSource) => ({ ...placement!, source }) as Placement
  return { doc, sourced }
}

describe('what a placement shows', () => {
  it('is a clip, a timeline in its own format, or the test figure', () => {
    const { doc, sourced: placementOf } = placed()
    expect(pictureOfPlacement(doc, placementOf({ kind: 'clip', clipId: 'reel' }))).toMatchObject({
      width: 1920,
      scan: 'interlaced',
      fieldOrder: 'top-first',
    })
    expect(pictureOfPlacement(doc, placementOf({ kind: 'timeline', timelineId: 'inner' }))).toMatchObject({
      width: 1280,
      rate: rational(50),
    })
    expect(pictureOfPlacement(doc, placementOf(figure('interlaced')))).toMatchObject({
      width: 1440,
      pixelAspect: rational(4, 3),
      rotation: 0,
      rate: rational(30),
      fieldOrder: 'top-first',
    })
    expect(pictureOfPlacement(doc, placementOf(figure('progressive')))!.fieldOrder).toBeNull()
    for (const gone of [
      { kind: 'clip', clipId: 'gone' },
      { kind: 'timeline', timelineId: 'gone' },
    ] as const)
      expect(pictureOfPlacement(doc, placementOf(gone))).toBeNull()
    doc.clips.reel!.reading = null
    expect(pictureOfPlacement(doc, placementOf({ kind: 'clip', clipId: 'reel' }))).toBeNull()
  })

  it('has frames for as long as it lasts: a timeline for its own length, the figure for ever', () => {
    const { doc, sourced } = placed()
    const timing = (source: PlacementSource) => timingOfPlacement(doc, sourced(source))
    expect(timing({ kind: 'clip', clipId: 'reel' })).toMatchObject({ kind: 'constant', count: 100 })
    const inner = { kind: 'timeline', timelineId: 'inner' } as const
    expect(timing(inner)).toEqual({ kind: 'constant', rate: rational(50), count: 1, counted: true })
    append(doc, 'inner', [{ ...placementOf(doc.clips.reel!, hd25, 'q'), length: 70 }])
    expect(timing(inner)).toEqual({ kind: 'constant', rate: rational(50), count: 70, counted: true })
    expect(timing(figure('progressive'))).toEqual({
      kind: 'constant',
      rate: rational(30),
      count: mostFrames,
      counted: true,
    })
    expect(timing({ kind: 'clip', clipId: 'gone' })).toEqual({ kind: 'still' })
    expect(timing({ kind: 'timeline', timelineId: 'gone' })).toEqual({ kind: 'still' })
    doc.timelines.inner!.rate = null
    expect(timing(inner)).toEqual({ kind: 'still' })
  })
})

describe('how a placement runs', () => {
  it('knows the order of its fields and of those that are shown', () => {
    const { doc, sourced: placementOf } = placed()
    const reel = placementOf({ kind: 'clip', clipId: 'reel' })
    const i50 = { ...parseFormat('1920x1080@50i')!.format, fieldOrder: 'bottom-first' as const }
    expect(runningOf(doc, doc.timelines.t!, reel, i50)).toMatchObject({
      fieldOrder: 'top-first',
      shownOrder: 'bottom-first',
      way: { taking: { kind: 'fields', outOf: 'fields' } },
    })
    expect(runningOf(doc, doc.timelines.t!, reel)).toMatchObject({
      fieldOrder: 'top-first',
      shownOrder: null,
    })
    expect(runningOf(doc, doc.timelines.t!, placementOf({ kind: 'clip', clipId: 'gone' }))).toMatchObject({
      fieldOrder: null,
      shownOrder: null,
    })
  })

  it('pays nothing and is as it is without a format', () => {
    const { doc, sourced: placementOf } = placed()
    const reel = placementOf({ kind: 'clip', clipId: 'reel' })
    expect(settlePlacement(doc, doc.timelines.t!, reel, null)).toMatchObject({
      toll: { grade: 'free', loss: 0, untouched: true, charges: [] },
      way: { passing: { kind: 'in-time', factor: rational(1) }, taking: { kind: 'frames', mixed: false } },
    })
    expect(runningOf(doc, { ...doc.timelines.t!, ownFormat: null }, reel)).toMatchObject({ shownOrder: null })
  })
})
