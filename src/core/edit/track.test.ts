import { describe, expect, it } from 'vitest'
import { parseFormat } from '../format/parse'
import { rational } from '../rational/rational'
import { aDoc, aStill, aVideo } from '../model/doc.fixture'
import type { Draft } from './draft'
import { addTimeline, removePlacements, removeTimeline, setProjectFormat, takeOut } from './operations'
import { append, cutAt, framesThere, movePlacement, newTimeline, placementOf } from './placing'
import type { Doc } from '../model/project'
import { runsOut } from './reformat'
import { clipIdOf, lengthOf } from '../model/timeline'
import { followPictures, startsOf } from './track'

const hd25 = parseFormat('1920x1080@25p')!.format

/** Three clips of 100 frames, a gap of 20 before the last. */
function placed(): Draft<Doc> {
  const doc = aDoc([...['a', 'b', 'c'].map((id) => aVideo(id, '1920x1080@25p', 4)), aStill('title')])
  doc.clips.sound = { ...structuredClone(doc.clips.title!), id: 'sound', name: 'sound.wav' }
  Object.assign(doc.clips.sound.reading!, { kind: 'audio', video: null, durationSec: 2 })
  doc.project.clipOrder.push('sound')
  addTimeline(doc, newTimeline('t', 'Main cut', '', hd25))
  append(
    doc,
    't',
    ['a', 'b', 'c'].map((id) => placementOf(doc.clips[id]!, hd25, `p-${id}`)),
  )
  doc.timelines.t!.tracks[0]!.placements[2]!.start = 220
  return doc
}
const spans = (doc: Draft<Doc>, id = 't') =>
  doc.timelines[id]!.tracks[0]!.placements.map(
    (p) => `${clipIdOf(p) ?? p.source.kind} ${p.start}+${p.length}`,
  )

describe('what is taken out', () => {
  it('closes the gap it leaves, or leaves it, the same for clips and placements', () => {
    const closed = placed()
    removePlacements(closed, 't', ['p-b'], true)
    expect(spans(closed)).toEqual(['a 0+100', 'c 120+100'])
    const open = placed()
    removePlacements(open, 't', ['p-b'], false)
    expect(spans(open)).toEqual(['a 0+100', 'c 220+100'])
    const without = placed()
    takeOut(without, ['a', 'b'], true)
    expect(spans(without)).toEqual(['c 20+100'])
    expect(without.project.clipOrder).toEqual(['c', 'title', 'sound'])
    const gaps = placed()
    takeOut(gaps, ['a'], false)
    expect(spans(gaps)).toEqual(['b 100+100', 'c 220+100'])
  })

  it('is no longer accepted as it is', () => {
    const doc = placed()
    doc.timelines.t!.accepted = ['p-a', 'p-b'].map((placementId) => ({
      placementId,
      charge: 'reduce',
      at: '',
      word: '',
    }))
    removePlacements(doc, 't', ['p-b'], true)
    expect(doc.timelines.t!.accepted.map(({ placementId }) => placementId)).toEqual(['p-a'])
  })

  it('of a timeline goes with what others show of it, and what would be delivered of it', () => {
    const doc = placed()
    addTimeline(doc, newTimeline('outer', 'Trailer', '', hd25))
    append(doc, 'outer', [
      { ...placementOf(doc.clips.a!, hd25, 'n'), source: { kind: 'timeline', timelineId: 't' } },
      placementOf(doc.clips.b!, hd25, 'b'),
    ])
    doc.project.deliverables = [
      {
        id: 'd',
        name: 'Festival',
        timelineId: 't',
        format: structuredClone(hd25),
        wrapper: null,
        video: null,
        sound: null,
        treatment: {},
      } as never,
    ]
    removeTimeline(doc, 't')
    expect(doc.project.timelineOrder).toEqual(['outer'])
    expect(spans(doc, 'outer')).toEqual(['b 0+100'])
    expect(doc.project.deliverables[0]!.timelineId).toBeNull()
  })
})

describe('moving', () => {
  it('closes the gap that is left and opens one where it goes; other gaps stay', () => {
    const doc = placed()
    movePlacement(doc, 't', 'p-a', 1)
    expect(spans(doc)).toEqual(['b 0+100', 'a 120+100', 'c 220+100'])
    movePlacement(doc, 't', 'p-c', 0)
    expect(spans(doc)).toEqual(['c 0+100', 'b 100+100', 'a 220+100'])
    movePlacement(doc, 't', 'p-c', 99)
    expect(spans(doc)).toEqual(['b 0+100', 'a 120+100', 'c 220+100'])
    movePlacement(doc, 't', 'p-c', -5)
    expect(spans(doc)[0]).toBe('c 0+100')
    movePlacement(doc, 't', 'nobody', 0)
    expect(spans(doc)).toHaveLength(3)
  })
})

describe('placing', () => {
  it('puts sound on a track of sound, and makes a track where there is none of its kind', () => {
    const doc = placed()
    doc.timelines.t!.tracks = []
    append(doc, 't', [
      placementOf(doc.clips.sound!, hd25, 's'),
      placementOf(doc.clips.a!, hd25, 'p'),
      placementOf(doc.clips.title!, hd25, 'q'),
    ])
    expect(
      doc.timelines.t!.tracks.map(({ kind, name, placements }) => [kind, name, placements.length]),
    ).toEqual([
      ['video', 'V1', 2],
      ['audio', 'A1', 1],
    ])
    expect(doc.timelines.t!.tracks[1]!.placements[0]).toMatchObject({ length: 50, start: 0 })
  })

  it('leaves locked tracks alone', () => {
    const doc = placed()
    doc.timelines.t!.tracks[0]!.locked = true
    append(doc, 't', [placementOf(doc.clips.title!, hd25, 'q')])
    expect(doc.timelines.t!.tracks.map(({ id, name }) => [id, name])).toEqual([
      ['t-v1', 'V1'],
      ['t-v2', 'V2'],
      ['t-a1', 'A1'],
    ])
    expect(doc.timelines.t!.tracks[1]!.placements).toMatchObject([{ id: 'q', start: 0, length: 125 }])
    expect(lengthOf(doc.timelines.t!)).toBe(320)
  })

  it('gives a track a name for itself where its own is taken', () => {
    const doc = placed()
    const [video, audio] = doc.timelines.t!.tracks
    doc.timelines.t!.tracks = [
      { ...video!, locked: true },
      { ...audio!, id: 't-v2' },
    ]
    append(doc, 't', [placementOf(doc.clips.title!, hd25, 'q')])
    expect(doc.timelines.t!.tracks.map(({ id }) => id)).toEqual(['t-v1', 't-v2+', 't-v2'])
  })
})

describe('frames that a placement has', () => {
  it('end with its source, and are counted at the rate of the timeline', () => {
    const doc = placed()
    const t = doc.timelines.t!
    const [a] = t.tracks[0]!.placements
    expect(framesThere(doc, t, a!)).toBe(100)
    expect(runsOut(doc, t, a!)).toBe(false)
    expect(runsOut(doc, t, { ...a!, length: 101 })).toBe(true)
    expect(framesThere(doc, t, { ...a!, sourceIn: rational(3) })).toBe(25)
    expect(framesThere(doc, { ...t, rate: null }, a!)).toBeNull()
    expect(runsOut(doc, { ...t, rate: null }, { ...a!, length: 999 })).toBe(false)
    const speed = {
      kind: 'speed',
      pace: { kind: 'factor', factor: rational(1, 2) },
      wanted: true,
      keepPitch: true,
    } as const
    expect(framesThere(doc, t, { ...a!, treatment: { motion: speed } })).toBe(200)
    const still = { ...a!, source: { kind: 'clip', clipId: 'title' } as const }
    expect(framesThere(doc, t, still)).toBeNull()
  })

  it('are cut at source times of a slowed clip', () => {
    const doc = placed()
    const placement = doc.timelines.t!.tracks[0]!.placements[0]!
    placement.treatment = {
      motion: {
        kind: 'speed',
        pace: { kind: 'factor', factor: rational(1, 2) },
        wanted: true,
        keepPitch: false,
      },
    }
    cutAt(doc, 't', ['p-a'], 50, () => 'p-2')
    expect(doc.timelines.t!.tracks[0]!.placements[1]!.sourceIn).toEqual(rational(1))
  })
})

describe('the rate of frames', () => {
  it('is that of the project’s format from the moment it is there', () => {
    const doc = aDoc([])
    addTimeline(doc, newTimeline('t', 'Main cut', ''))
    expect(doc.timelines.t!.rate).toBeNull()
    setProjectFormat(doc, { at: '', setBy: 'typed', format: hd25, reason: '' })
    expect(doc.timelines.t!.rate).toEqual(rational(25))
    addTimeline(doc, newTimeline('u', 'Trailer', ''))
    expect(doc.timelines.u!.rate).toEqual(rational(25))
  })
})

describe('what follows its picture', () => {
  it('stands on a track of its own where there is no room, and loses what would come before the first frame', () => {
    const doc = placed()
    const timeline = doc.timelines.t!
    const [pictures, sounds] = timeline.tracks
    const sound = (id: string, start: number, length: number, pairId: string | null) => ({
      ...structuredClone(pictures!.placements[0]!),
      ...{ id, start, length, pairId },
    })
    pictures!.placements.forEach((placement) => (placement.pairId = `link ${placement.id}`))
    sounds!.placements = [
      sound('bell', 0, 30, null),
      sound('s-b', 90, 100, 'link p-b'),
      sound('s-c', 220, 20, 'link p-c'),
    ]
    const before = startsOf(timeline)
    pictures!.placements = pictures!.placements
      .map((placement) => ({ ...placement, start: placement.start - 100 }))
      .slice(1)
    followPictures(timeline, before)
    expect(
      timeline.tracks
        .slice(1)
        .map(({ placements }) =>
          placements.map((placement) => `${placement.id} ${placement.start}+${placement.length}`),
        ),
    ).toEqual([['bell 0+30', 's-c 120+20'], ['s-b 0+90']])
  })
})
