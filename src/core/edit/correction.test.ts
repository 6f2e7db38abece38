import { describe, expect, it } from 'vitest'
import { parseFormat } from '../format/parse'
import { equal, rational } from '../rational/rational'
import { frameTimesFrom } from '../reading/frame-times'
import { storedFrame, trueFrame } from '../reading/correct'
import { correct, correctedPlacements } from './correction'
import { aDoc, aStill, aVideo } from '../model/doc.fixture'
import { layersAt } from '../plan/layers'
import { addTimeline } from './operations'
import { append, newTimeline, placementOf } from './placing'
import { exactDuration, hasToBeWalked, storedIndexOf, storedTimingOf, timingOf } from '../model/timing'

const hd25 = parseFormat('1920x1080@25p')!.format

function placed() {
  const doc = aDoc([aVideo('bell', '1920x1080@25p', 8), aVideo('hall', '1920x1080@25p', 4), aStill('title')])
  addTimeline(doc, newTimeline('t', 'Main cut', '', hd25))
  append(
    doc,
    't',
    ['bell', 'hall'].map((id) => placementOf(doc.clips[id]!, hd25, `p-${id}`)),
  )
  return doc
}
const placements = (doc: ReturnType<typeof placed>) => doc.timelines.t!.tracks[0]!.placements
const shownAt = (doc: ReturnType<typeof placed>, n: number) => {
  const [layer] = layersAt(doc, doc.timelines.t!, n)
  return layer?.shown.kind === 'frame' ? layer.shown.index : null
}

describe('a corrected rate', () => {
  it('keeps what placements show and shortens them to what is there, which is told before', () => {
    const doc = placed()
    placements(doc)[0]!.sourceIn = rational(2)
    const before = shownAt(doc, 0)
    const retimed = correctedPlacements(doc, ['bell'], { rate: rational(50) })
    expect(retimed).toEqual([
      { timelineId: 't', placementId: 'p-bell', sourceIn: rational(1), length: 75, shortenedBy: 125 },
    ])
    correct(doc, ['bell'], { rate: rational(50) })
    expect(placements(doc).map(({ start, length }) => [start, length])).toEqual([
      [0, 75],
      [200, 100],
    ])
    // The frame that stood at the in-point still does; 50p is skipped evenly from there on.
    expect([before, shownAt(doc, 0), shownAt(doc, 1)]).toEqual([50, 51, 53])
  })

  it('that is lower plays the same frames slower and shortens nothing', () => {
    const doc = placed()
    expect(correctedPlacements(doc, ['bell'], { rate: rational(12) })).toMatchObject([{ shortenedBy: 0 }])
    correct(doc, ['bell'], { rate: rational(12) })
    expect(placements(doc)[0]!.length).toBe(200)
    expect(exactDuration(doc.clips.bell!)).toEqual(rational(200, 12))
  })

  it('touches neither other clips nor placements where the rate stays', () => {
    const doc = placed()
    expect(correctedPlacements(doc, ['bell'], { rotation: 90 })).toEqual([])
    expect(correctedPlacements(doc, ['bell', 'nobody'], { rate: rational(25) })).toEqual([])
    expect(correctedPlacements(doc, ['title'], { rate: rational(50) })).toEqual([])
  })

  it('of a variable clip counts its frames evenly, and the in-point stays on its frame', () => {
    const doc = placed()
    const { bell } = doc.clips
    const times = frameTimesFrom([0, 20, 80, 100], rational(1000), 200)!
    Object.assign(bell!, { frameTimes: times })
    Object.assign(bell!.reading!.video!, { rateMode: 'variable', frameCount: 4 })
    bell!.reading!.durationSec = 0.2
    placements(doc)[0]!.sourceIn = rational(90, 1000)
    expect(timingOf(bell!)).toMatchObject({ kind: 'table' })
    correct(doc, ['bell'], { rate: rational(10) })
    expect(timingOf(doc.clips.bell!)).toEqual({
      kind: 'constant',
      rate: rational(10),
      count: 4,
      counted: true,
    })
    // Half into frame 2 stays half into frame 2.
    expect(placements(doc)[0]!.sourceIn).toEqual(rational(25, 100))
    // A decoder still goes by the file's own times.
    expect(storedTimingOf(doc.clips.bell!)).toEqual({ kind: 'table', times })
  })
})

describe('corrections of several clips', () => {
  it('set only what the editor set, and leave each its own', () => {
    const doc = placed()
    correct(doc, ['bell'], { rotation: 90, pixelAspect: rational(4, 3) })
    correct(doc, ['hall'], { rate: rational(24) })
    correct(doc, ['bell', 'hall'], { scan: 'interlaced' })
    expect(doc.clips.bell!.corrections).toEqual({
      rotation: 90,
      pixelAspect: rational(4, 3),
      scan: 'interlaced',
    })
    expect(doc.clips.hall!.corrections).toEqual({ rate: rational(24), scan: 'interlaced' })
    correct(doc, ['bell', 'hall'], { pixelAspect: null, scan: null })
    expect(doc.clips.bell!.corrections).toEqual({ rotation: 90 })
    expect(doc.clips.hall!.corrections).toEqual({ rate: rational(24) })
    correct(doc, ['bell', 'hall'], { rotation: null, rate: null })
    expect([doc.clips.bell!.claimed, doc.clips.hall!.claimed]).toEqual([null, null])
    expect(equal(doc.clips.hall!.reading!.video!.rate!, rational(25))).toBe(true)
  })
})

describe('repeats taken out', () => {
  const repeats = { holds: [2, 3], phase: 0 }

  it('list one frame for each hold, at the true rate', () => {
    // AABBB CCDDD: frames 0, 2, 5, 7.
    expect([0, 1, 2, 3, 4].map((k) => storedFrame(repeats, k))).toEqual([0, 2, 5, 7, 10])
    expect([0, 1, 2, 4, 5, 9, 10].map((stored) => trueFrame(repeats, stored))).toEqual([0, 0, 1, 1, 2, 3, 4])
    // From the second B on: BB CC DDD.
    const later = { holds: [2, 3], phase: 3 }
    expect([0, 1, 2, 3].map((k) => storedFrame(later, k))).toEqual([0, 2, 4, 7])
    expect([0, 1, 2, 3, 4, 7].map((stored) => trueFrame(later, stored))).toEqual([0, 0, 1, 1, 2, 3])
  })

  it('make a clip of the true rate, whose placements stay on their frames', () => {
    const doc = placed()
    Object.assign(doc.clips.bell!.reading!.video!, { rate: rational(60), frameCount: 480 })
    placements(doc)[0]!.sourceIn = rational(5, 60)
    correct(doc, ['bell'], { repeatsOut: repeats })
    const bell = doc.clips.bell!
    expect(bell.reading!.video).toMatchObject({ rate: rational(24), frameCount: 192, rateMode: 'constant' })
    expect(timingOf(bell)).toMatchObject({ kind: 'constant', rate: rational(24), count: 192 })
    // Stored frame 5 is the third true one.
    expect(placements(doc)[0]!.sourceIn).toEqual(rational(2, 24))
    expect(storedIndexOf(bell, 3)).toBe(7)
    correct(doc, ['bell'], { repeatsOut: null })
    expect(placements(doc)[0]!.sourceIn).toEqual(rational(5, 60))
  })
})

describe('the timing of a clip', () => {
  const clip = (more: object) => {
    const video = aVideo('bell', '1920x1080@25p', 4)
    Object.assign(video.reading!.video!, more)
    return video
  }
  it('is its count at its rate, reckoned where nobody counted', () => {
    expect(timingOf(clip({}))).toEqual({ kind: 'constant', rate: rational(25), count: 100, counted: true })
    expect(timingOf(clip({ frameCount: null }))).toEqual({
      kind: 'constant',
      rate: rational(25),
      count: 100,
      counted: false,
    })
  })

  it('has to be walked where a variable rate is not listed, or no rate is known', () => {
    expect(timingOf(clip({ rateMode: 'variable' }))).toEqual({
      kind: 'to-walk',
      rate: rational(25),
      count: 100,
    })
    expect(timingOf(clip({ rate: null, frameCount: null }))).toMatchObject({ kind: 'to-walk', count: 100 })
    expect(hasToBeWalked(clip({ rateMode: 'variable' }))).toBe(true)
    expect(hasToBeWalked(clip({}))).toBe(false)
    expect(hasToBeWalked(aStill('title'))).toBe(false)
    expect(
      hasToBeWalked({ ...clip({ rateMode: 'variable' }), fault: { code: 'damaged', message: '' } }),
    ).toBe(false)
  })

  it('of a variable clip is its table, and it lasts to the end of that, not count by rate', () => {
    const varied = clip({ rateMode: 'variable', frameCount: 4 })
    varied.frameTimes = frameTimesFrom([0, 20, 80, 100], rational(1000), 200) as typeof varied.frameTimes
    expect(timingOf(varied).kind).toBe('table')
    expect(exactDuration(varied)).toEqual(rational(1, 5))
    expect(hasToBeWalked(varied)).toBe(false)
    const nobodyWalked = clip({ rateMode: 'variable', frameCount: 90 })
    nobodyWalked.reading!.durationSec = 4.25
    expect(exactDuration(nobodyWalked)).toEqual(rational(17, 4))
  })

  it('of a still is always, and it stays for five seconds', () => {
    expect(timingOf(aStill('title'))).toEqual({ kind: 'still' })
    expect(storedTimingOf(aStill('title'))).toEqual({ kind: 'still' })
    expect(exactDuration(aStill('title'))).toEqual(rational(5))
    expect(timingOf({ ...aStill('title'), reading: null })).toEqual({ kind: 'still' })
  })
})

describe('a correction that moves no frame', () => {
  it('is one after which the same steps stand, be they even, listed or still', () => {
    const doc = placed()
    const [p] = placements(doc)
    const outcome = (change: Parameters<typeof correctedPlacements>[2]) =>
      correctedPlacements(doc, ['bell'], change).length
    expect([outcome({ rate: rational(25) }), outcome({ rate: rational(50) })]).toEqual([0, 1])
    expect(outcome({ repeatsOut: { holds: [1, 2], phase: 0 } })).toBe(1)
    // A table stays the same table.
    const times = frameTimesFrom([0, 20, 80, 100], rational(1000), 200)!
    Object.assign(doc.clips.bell!, { frameTimes: times })
    Object.assign(doc.clips.bell!.reading!.video!, { rateMode: 'variable', frameCount: 4 })
    expect([outcome({ rotation: 90 }), outcome({ rate: rational(20) })]).toEqual([0, 1])
    // A still has but one frame, whatever is corrected.
    p!.source = { kind: 'clip', clipId: 'title' }
    expect(correctedPlacements(doc, ['title'], { rotation: 90, rate: rational(50) })).toEqual([])
  })

  it('changes nothing of a clip that was not read, and of placements of others', () => {
    const doc = placed()
    Object.assign(doc.clips.bell!, { reading: null })
    const before = structuredClone(doc)
    correct(doc, ['bell'], { rate: rational(50) })
    expect(doc).toEqual(before)
    const [p] = placements(doc)
    p!.source = { kind: 'timeline', timelineId: 't2' }
    expect(
      correctedPlacements(doc, ['bell', 'hall'], { rate: rational(50) }).map(
        (retimed) => retimed.placementId,
      ),
    ).toEqual(['p-hall'])
  })
})
