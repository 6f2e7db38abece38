import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { parseFormat } from '../format/parse'
import { framesLeft } from '../motion/shown'
import { toNumber } from '../rational/rational'
import {
  addTrack,
  changeTrack,
  closeGaps,
  copied,
  movePlacements,
  putAbove,
  putAt,
  removeTrack,
} from './arranging'
import { aDoc, aStill, aVideo } from '../model/doc.fixture'
import { layersAt } from '../plan/layers'
import { link } from './linking'
import { addTimeline, removePlacements, setProjectFormat } from './operations'
import { append, cutAt, movePlacement, newTimeline, placementOf } from './placing'
import { runningOf, timingOfPlacement } from '../plan/running'
import { treat } from './treating'
import { lengthen, slip, trimEnd, trimStart } from './trimming'
import { placementsIn } from '../model/timeline'

const hd25 = parseFormat('1920x1080@25p')!.format
const hd50 = '1920x1080@50p'

/** Three clips of 100 frames one behind the other, out of clips of 200, each from its 50th frame on; a sound track below. */
function cut() {
  const doc = aDoc([
    aVideo('a', '1920x1080@25p', 8),
    aVideo('b', hd50, 8),
    aVideo('c', '1920x1080@25p', 8),
    aStill('card'),
  ])
  setProjectFormat(doc, { at: '', setBy: 'typed', format: hd25, reason: '' })
  addTimeline(doc, newTimeline('t', 'Main cut', ''))
  append(
    doc,
    't',
    ['a', 'b', 'c'].map((id) => ({
      ...placementOf(doc.clips[id]!, hd25, id),
      length: 100,
      sourceIn: { num: 2, den: 1 },
    })),
  )
  return doc
}
type Cut = ReturnType<typeof cut>
let ids = 0
const newId = () => `n${ids++}`
const spans = (doc: Cut, track = 0) =>
  doc.timelines.t!.tracks[track]!.placements.map(({ id, start, length }) => `${id} ${start}+${length}`)
const shown = (doc: Cut, frame: number) => {
  const layer = layersAt(doc, doc.timelines.t!, frame).at(-1)
  return layer?.shown.kind === 'frame' && layer.source.kind === 'clip'
    ? `${layer.source.clipId} ${layer.shown.index}`
    : null
}
const placementById = (doc: Cut, id: string) =>
  placementsIn(doc.timelines.t!).find((placement) => placement.id === id)!

describe('trimming', () => {
  it('moves a beginning with what follows staying: what is seen at each frame stays', () => {
    const doc = cut()
    const before = shown(doc, 130)
    expect(trimStart(doc, 't', 'b', 20, 'stays')).toBe(20)
    expect(spans(doc)).toEqual(['a 0+100', 'b 120+80', 'c 200+100'])
    expect(shown(doc, 130)).toBe(before)
    expect(trimStart(doc, 't', 'b', -50, 'stays')).toBe(-20)
    expect(spans(doc)).toEqual(spans(cut()))
    expect(shown(doc, 130)).toBe(before)
  })

  it('moves a beginning with what follows moving along', () => {
    const doc = cut()
    const [second, third] = [shown(doc, 130), shown(doc, 210)]
    expect(trimStart(doc, 't', 'b', 20, 'moves')).toBe(20)
    expect(spans(doc)).toEqual(['a 0+100', 'b 100+80', 'c 180+100'])
    expect([shown(doc, 110), shown(doc, 190)]).toEqual([second, third])
    // 50 frames lie before the first in its source, and no more.
    expect(trimStart(doc, 't', 'a', -80, 'moves')).toBe(-50)
    expect(placementById(doc, 'a').sourceIn).toEqual({ num: 0, den: 1 })
    expect(spans(doc)).toEqual(['a 0+150', 'b 150+80', 'c 230+100'])
  })

  it('moves an end as far as there is source, and room where what follows stays', () => {
    const doc = cut()
    expect(trimEnd(doc, 't', 'b', 30, 'stays')).toBe(0)
    expect(trimEnd(doc, 't', 'b', -30, 'stays')).toBe(-30)
    expect(trimEnd(doc, 't', 'b', 80, 'stays')).toBe(30)
    expect(trimEnd(doc, 't', 'b', 80, 'moves')).toBe(50)
    expect(spans(doc)).toEqual(['a 0+100', 'b 100+150', 'c 250+100'])
    expect(trimEnd(doc, 't', 'b', -500, 'moves')).toBe(-149)
    expect(spans(doc)).toEqual(['a 0+100', 'b 100+1', 'c 101+100'])
  })

  it('slips what is inside, by frames of the timeline, to its ends', () => {
    const doc = cut()
    expect(slip(doc, 't', 'b', 10)).toBe(10)
    expect(shown(doc, 100)).toBe('b 121')
    expect(slip(doc, 't', 'b', 500)).toBe(40)
    expect(slip(doc, 't', 'b', -500)).toBe(-100)
    expect(shown(doc, 100)).toBe('b 1')
    expect(spans(doc)).toEqual(spans(cut()))
  })

  it('takes along what is paired, and neither goes further than the other can', () => {
    const doc = cut()
    putAbove(
      doc,
      't',
      [{ kind: 'audio', offset: 0, above: 0, placement: { ...placementById(doc, 'b'), id: 's' } }],
      100,
      newId,
    )
    link(doc, 't', new Set(['b', 's']), newId)
    trimEnd(doc, 't', 'b', -10, 'stays')
    trimStart(doc, 't', 's', 5, 'stays')
    expect(spans(doc, 1)).toEqual(['s 105+85'])
    expect(placementById(doc, 'b')).toMatchObject({
      start: 105,
      length: 85,
      sourceIn: placementById(doc, 's').sourceIn,
    })
    changeTrack(doc, 't', doc.timelines.t!.tracks[1]!.id, { locked: true })
    trimEnd(doc, 't', 'b', -5, 'stays')
    expect([placementById(doc, 'b').length, placementById(doc, 's').length]).toEqual([80, 85])
    expect(trimEnd(doc, 't', 's', -5, 'stays')).toBe(0)
  })

  it('gives a clip at another speed all of its length', () => {
    const doc = cut()
    const halved = { kind: 'speed', pace: { kind: 'every-frame' }, wanted: true, keepPitch: true } as const
    treat(doc, 't', ['b'], { motion: halved })
    const there = framesLeft(
      runningOf(doc, doc.timelines.t!, placementById(doc, 'b')),
      timingOfPlacement(doc, placementById(doc, 'b')),
      hd25.rate,
    )!
    expect(there).toBe(300)
    lengthen(doc, 't', 'b', there)
    expect(spans(doc)).toEqual(['a 0+100', 'b 100+300', 'c 400+100'])
  })
})

describe('arranging', () => {
  const card = (doc: Cut, length = 50) => ({
    kind: 'video' as const,
    offset: 0,
    above: 0,
    placement: { ...placementOf(doc.clips.card!, hd25, newId()), length },
  })

  it('inserts: what stood there goes on behind it, every frame as it was', () => {
    const doc = cut()
    const seen = [90, 149, 150, 299].map((frame) => shown(doc, frame))
    putAt(doc, 't', [card(doc)], { frame: 150, putting: 'insert' }, newId)
    expect(doc.timelines.t!.tracks[0]!.placements.map(({ start }) => start)).toEqual([0, 100, 150, 200, 250])
    expect([90, 149, 200, 349].map((frame) => shown(doc, frame))).toEqual(seen)
  })

  it('puts over: what is covered goes, what is beside stays', () => {
    const doc = cut()
    const seen = [149, 200, 299].map((frame) => shown(doc, frame))
    putAt(doc, 't', [card(doc)], { frame: 150, putting: 'over' }, newId)
    expect([149, 200, 299].map((frame) => shown(doc, frame))).toEqual(seen)
    expect(shown(doc, 150)).toBe('card 0')
    putAt(doc, 't', [card(doc, 10)], { frame: 120, putting: 'over' }, newId)
    expect(shown(doc, 130)).toBe('b 161')
  })

  it('puts above what is there, on a new track where none is free', () => {
    const doc = cut()
    putAbove(doc, 't', [card(doc)], 10, newId)
    putAbove(doc, 't', [card(doc)], 40, newId)
    expect(doc.timelines.t!.tracks.map(({ name }) => name)).toEqual(['V1', 'V2', 'V3', 'A1'])
    // Not below the one that it would come to lie under.
    putAbove(doc, 't', [card(doc)], 30, newId)
    expect(doc.timelines.t!.tracks.map(({ placements }) => placements.length)).toEqual([3, 1, 1, 1, 0])
    removeTrack(doc, 't', doc.timelines.t!.tracks[1]!.id)
    expect(placementsIn(doc.timelines.t!)).toHaveLength(5)
  })

  it('moves together, never before the first frame nor onto a track that is locked', () => {
    const doc = cut()
    addTrack(doc, 't', 'video', newId)
    expect(movePlacements(doc, 't', new Set(['b', 'c']), { byFrames: -20, byTracks: 1 }, newId)).toBe(true)
    expect([spans(doc, 0), spans(doc, 1)]).toEqual([['a 0+100'], ['b 80+100', 'c 180+100']])
    expect(movePlacements(doc, 't', new Set(['b', 'c']), { byFrames: -500, byTracks: 0 }, newId)).toBe(true)
    expect(spans(doc, 1)).toEqual(['b 0+100', 'c 100+100'])
    changeTrack(doc, 't', doc.timelines.t!.tracks[0]!.id, { locked: true })
    expect(movePlacements(doc, 't', new Set(['b']), { byFrames: 10, byTracks: -1 }, newId)).toBe(false)
    // Nothing on it is taken out or cut either.
    removePlacements(doc, 't', ['a'], true)
    expect(cutAt(doc, 't', ['a'], 50, newId)).toEqual([])
    expect(spans(doc, 0)).toEqual(['a 0+100'])
    expect(movePlacements(doc, 't', new Set(['b']), { byFrames: 10, byTracks: 1 }, newId)).toBe(false)
    expect(spans(doc, 1)).toEqual(['b 0+100', 'c 100+100'])
  })

  it('is copied with its treatment and its pairs, as far apart as it stood', () => {
    const doc = cut()
    treat(doc, 't', ['b'], { motion: { kind: 'blend' } })
    for (const placement of doc.timelines.t!.tracks[0]!.placements.slice(1)) placement.pairId = 'p'
    const taken = copied(doc.timelines.t!, new Set(['b', 'c']), newId)
    expect(taken.map(({ offset }) => offset)).toEqual([0, 100])
    expect(taken[0]!.placement).toMatchObject({ treatment: { motion: { kind: 'blend' } }, length: 100 })
    expect(taken[0]!.placement.pairId).toBe(taken[1]!.placement.pairId)
    expect(taken[0]!.placement.pairId).not.toBe('p')
    putAt(doc, 't', taken, { frame: 400, putting: 'over' }, newId)
    closeGaps(doc, 't', null)
    expect(doc.timelines.t!.tracks[0]!.placements.map(({ start }) => start)).toEqual([0, 100, 200, 300, 400])
  })

  it('keeps sound with its picture when gaps are closed, on another track where its own is not free', () => {
    const doc = cut()
    const sound = (pictureId: string) => ({
      kind: 'audio' as const,
      offset: 0,
      above: 0,
      placement: { ...placementById(doc, pictureId), id: `s-${pictureId}` },
    })
    putAbove(doc, 't', [sound('b')], 100, newId)
    putAbove(doc, 't', [sound('c')], 200, newId)
    link(doc, 't', new Set(['b', 's-b']), newId)
    link(doc, 't', new Set(['c', 's-c']), newId)
    removePlacements(doc, 't', ['a'], true)
    expect([spans(doc, 0), spans(doc, 1)]).toEqual([
      ['b 0+100', 'c 100+100'],
      ['s-b 0+100', 's-c 100+100'],
    ])
    movePlacement(doc, 't', 'c', 0)
    expect(spans(doc, 1)).toEqual(['s-c 0+100', 's-b 100+100'])
    // A bed of sound lies where it would go.
    putAt(
      doc,
      't',
      [{ ...sound('b'), placement: { ...placementById(doc, 'b'), id: 'bed', pairId: null, length: 40 } }],
      { frame: 220, putting: 'over' },
      newId,
    )
    trimEnd(doc, 't', 'c', 30, 'moves')
    expect(placementById(doc, 'b').start).toBe(130)
    expect(placementById(doc, 's-b').start).toBe(130)
  })

  it('never overlaps, whatever is done', () => {
    const act = fc.tuple(fc.nat(7), fc.nat(400), fc.integer({ min: -60, max: 60 }), fc.nat(9))
    fc.assert(
      fc.property(fc.array(act, { maxLength: 12 }), (acts) => {
        const doc = cut()
        for (const [what, frame, by, which] of acts) {
          const all = placementsIn(doc.timelines.t!)
          const id = all[which % all.length]!.id
          const move = which % 2 ? 'stays' : 'moves'
          const does = [
            () => trimStart(doc, 't', id, by, move),
            () => trimEnd(doc, 't', id, by, move),
            () => slip(doc, 't', id, by),
            () => putAt(doc, 't', [card(doc)], { frame, putting: 'insert' }, newId),
            () => putAt(doc, 't', [card(doc)], { frame, putting: 'over' }, newId),
            () => putAbove(doc, 't', [card(doc)], frame, newId),
            () => movePlacements(doc, 't', new Set([id]), { byFrames: by, byTracks: (which % 3) - 1 }, newId),
            () => closeGaps(doc, 't', which % 2 ? null : doc.timelines.t!.tracks[0]!.id),
          ]
          does[what]!()
        }
        const { tracks } = doc.timelines.t!
        expect(new Set(placementsIn(doc.timelines.t!).map(({ id }) => id)).size).toBe(
          placementsIn(doc.timelines.t!).length,
        )
        for (const { placements } of tracks)
          placements.forEach((placement, i) => {
            expect(placement.length).toBeGreaterThan(0)
            expect(toNumber(placement.sourceIn)).toBeGreaterThanOrEqual(0)
            const before = placements[i - 1]
            expect(placement.start).toBeGreaterThanOrEqual(before ? before.start + before.length : 0)
          })
      }),
      { numRuns: 150 },
    )
  })
})
