import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { makeFormat } from '../format/format'
import { standardRates } from '../rate/rate'
import { rational } from '../rational/rational'
import { aDoc, aVideo } from '../model/doc.fixture'
import { carriedBoundaries, carryFrame, carryPlacements, driftMs } from './carry'
import {
  addTimeline,
  removeTimeline,
  takeIn,
  removePlacements,
  renameTimeline,
  setProjectFormat,
  setTimelineFormat,
  takeOut,
} from './operations'
import { originWords } from '../exchange/log'
import { append, formatOfClip, movePlacement, newTimeline, placementOf } from './placing'
import { proposeName } from './reformat'
import { formatOf } from '../model/project'
import { clipIdOf } from '../model/timeline'

const uhd25 = makeFormat({ width: 3840, height: 2160 }, rational(25))
const hd50 = makeFormat({ width: 1920, height: 1080 }, rational(50))
const decision = (format: typeof uhd25) => ({
  at: '2026-05-01T10:00:00Z',
  setBy: 'recommended' as const,
  format,
  reason: 'it is most',
})

function placed() {
  const doc = aDoc([
    aVideo('hall', '3840x2160@25p', 12),
    aVideo('bell', '1920x1080@50p', 4),
    aVideo('pour', '3840x2160@25p', 8),
  ])
  setProjectFormat(doc, decision(uhd25))
  addTimeline(doc, newTimeline('t1', 'Main cut', ''))
  append(
    doc,
    't1',
    ['hall', 'bell', 'pour'].map((id) => placementOf(doc.clips[id]!, uhd25, `p-${id}`)),
  )
  return doc
}
const spans = (doc: ReturnType<typeof placed>) =>
  doc.timelines.t1!.tracks[0]!.placements.map((p) => [clipIdOf(p), p.start, p.length])

describe('placing', () => {
  it('puts clips butt to butt for as long as they last', () => {
    expect(spans(placed())).toEqual([
      ['hall', 0, 300],
      ['bell', 300, 100],
      ['pour', 400, 200],
    ])
  })

  it('closes the gap when a clip is taken out, and keeps the cut butted when one moves', () => {
    const doc = placed()
    removePlacements(doc, 't1', ['p-bell'], true)
    expect(spans(doc)).toEqual([
      ['hall', 0, 300],
      ['pour', 300, 200],
    ])
    movePlacement(doc, 't1', 'p-pour', 0)
    expect(spans(doc)).toEqual([
      ['pour', 0, 200],
      ['hall', 200, 300],
    ])
  })

  it('takes placements out along with their clip', () => {
    const doc = placed()
    takeOut(doc, ['hall'], true)
    expect(doc.project.clipOrder).toEqual(['bell', 'pour'])
    expect(spans(doc).map(([id]) => id)).toEqual(['bell', 'pour'])
  })

  it('takes the format of a clip with its turn and fields', () => {
    const phone = aVideo('phone', '1920x1080@30p', 3)
    phone.reading!.video!.rotation = 90
    expect(formatOfClip(phone, uhd25.colour)).toMatchObject({
      width: 1080,
      height: 1920,
      scan: 'progressive',
    })
    const reel = aVideo('reel', '720x576/64:45@50i', 3)
    expect(formatOfClip(reel, uhd25.colour)).toMatchObject({
      width: 720,
      rate: { num: 25, den: 1 },
      scan: 'interlaced',
      fieldOrder: 'top-first',
    })
  })
})

describe('formats of project and timelines', () => {
  it('are written into the log, and followed', () => {
    const doc = placed()
    setProjectFormat(doc, decision(hd50))
    expect(doc.project.decisions).toHaveLength(2)
    expect(formatOf(doc, doc.timelines.t1!)).toEqual(hd50)
    expect(spans(doc)).toEqual([
      ['hall', 0, 600],
      ['bell', 600, 200],
      ['pour', 800, 400],
    ])
  })

  it('are not followed by a timeline with its own, until it follows again', () => {
    const doc = placed()
    setTimelineFormat(doc, 't1', hd50)
    setProjectFormat(doc, decision(makeFormat({ width: 1920, height: 1080 }, rational(24))))
    expect(formatOf(doc, doc.timelines.t1!)).toEqual(hd50)
    expect(spans(doc)[1]).toEqual(['bell', 600, 200])
    setTimelineFormat(doc, 't1', null)
    expect(spans(doc)[1]).toEqual(['bell', 288, 96])
  })

  it('say from what they came', () => {
    const doc = placed()
    setTimelineFormat(doc, 't1', hd50, { setBy: 'clip', clip: 'bell.mp4' })
    expect(originWords(doc.timelines.t1!.formatOrigin!)).toBe('taken from bell.mp4')
    setTimelineFormat(doc, 't1', hd50, { setBy: 'typed', clip: null })
    expect(originWords(doc.timelines.t1!.formatOrigin!)).toBe('typed')
    setTimelineFormat(doc, 't1', null, { setBy: 'typed', clip: null })
    expect(doc.timelines.t1!.formatOrigin).toBeNull()
  })

  it('propose a name that is not taken', () => {
    const doc = placed()
    expect(proposeName(doc, uhd25)).toBe('Cut 3840×2160 · 25p')
    addTimeline(doc, newTimeline('t2', 'Cut 3840×2160 · 25p', ''))
    expect(proposeName(doc, uhd25)).toBe('Cut 3840×2160 · 25p (2)')
  })
})

describe('the name of a timeline', () => {
  it('goes along with its format while it was only proposed', () => {
    const doc = placed()
    addTimeline(doc, newTimeline('t2', proposeName(doc, uhd25), ''))
    addTimeline(doc, newTimeline('t3', proposeName(doc, uhd25), ''))
    setTimelineFormat(doc, 't3', hd50)
    expect(Object.values(doc.timelines).map((t) => t.name)).toEqual([
      'Main cut',
      'Cut 3840×2160 · 25p',
      'Cut 1920×1080 · 50p',
    ])
    setProjectFormat(doc, decision(hd50))
    expect(doc.timelines.t2!.name).toBe('Cut 1920×1080 · 50p (2)')
    renameTimeline(doc, 't2', 'Festival cut')
    setProjectFormat(doc, decision(uhd25))
    expect(doc.timelines.t2!.name).toBe('Festival cut')
    expect(doc.timelines.t1!.name).toBe('Main cut')
  })
})

describe('carrying a cut to another rate', () => {
  it('rounds boundaries half up', () => {
    expect(carryFrame(1, rational(50), rational(25))).toBe(1)
    expect(carryFrame(25, rational(25), rational(24))).toBe(24)
    expect(driftMs(1, rational(25), 1, rational(50))).toBeCloseTo(20, 9)
  })

  it('keeps butt cuts butted, overlaps nothing, drifts at most half a frame', () => {
    const rate = fc.constantFrom(...standardRates)
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 1, max: 500 }), { minLength: 1, maxLength: 30 }),
        rate,
        rate,
        (lengths, from, to) => {
          const doc = placed()
          const pattern = doc.timelines.t1!.tracks[0]!.placements[0]!
          let start = 0
          const before = lengths.map((length) => {
            const placement = { ...pattern, start, length }
            start += length
            return placement
          })
          const after = carryPlacements(before, from, to)
          const pushed = new Set(
            carriedBoundaries(before, after, from, to).flatMap((b) => (b.pushed ? [b.carried] : [])),
          )
          after.forEach((p, i) => {
            expect(p.length).toBeGreaterThanOrEqual(1)
            if (i > 0) expect(p.start).toBe(after[i - 1]!.start + after[i - 1]!.length)
            if (pushed.has(p.start)) return
            expect(Math.abs(driftMs(p.start, to, before[i]!.start, from))).toBeLessThanOrEqual(
              (500 * to.den) / to.num + 1e-6,
            )
          })
        },
      ),
    )
  })
})

describe('boundaries that were carried', () => {
  const [from, to] = [rational(25), rational(10)]
  const spanned = (...spans: [number, number][]) => {
    const [pattern] = placed().timelines.t1!.tracks[0]!.placements
    return spans.map(([start, length], i) => ({ ...pattern!, id: `p${i}`, start, length }))
  }
  it('are told each once, in order of where they stood and stand', () => {
    // Out of order as they come in, one pushed by a placement of a frame, one shared by two.
    const before = spanned([0, 1], [1, 1], [2, 48])
    const after = carryPlacements(before, from, to)
    expect(after.map(({ start, length }) => [start, length])).toEqual([
      [0, 1],
      [1, 1],
      [2, 18],
    ])
    const boundaries = carriedBoundaries([...before].reverse(), [...after].reverse(), from, to)
    expect(boundaries.map(({ frame, carried, pushed }) => [frame, carried, pushed])).toEqual([
      [0, 0, false],
      [1, 1, true],
      [2, 2, true],
      [50, 20, false],
    ])
    expect(boundaries.map(({ driftMs }) => Math.round(driftMs))).toEqual([0, 60, 120, 0])
    // A boundary that two placements share and that came to lie in two places is told twice, the earlier first.
    const split = carriedBoundaries(spanned([0, 10], [10, 10]), spanned([0, 5], [4, 4]), from, to)
    expect(split.map(({ frame, carried }) => [frame, carried])).toEqual([
      [0, 0],
      [10, 4],
      [10, 5],
      [20, 8],
    ])
  })
  it('are all there where the rate stays, and none for what did not come along', () => {
    const before = spanned([0, 10], [30, 5])
    expect(carryPlacements(before, from, from)).toEqual(before)
    expect(carriedBoundaries(before, before.slice(0, 1), from, from).map(({ frame }) => frame)).toEqual([
      0, 10,
    ])
  })
})

describe('taking clips in', () => {
  it('lists a new one last, and replaces one that is there where it stands', () => {
    const doc = placed()
    const again = { ...aVideo('bell', '1280x720@25p', 2), name: 'again.mp4' }
    takeIn(doc, [again, aVideo('late', '1920x1080@25p', 2)])
    expect(doc.project.clipOrder).toEqual(['hall', 'bell', 'pour', 'late'])
    expect(doc.clips.bell!.name).toBe('again.mp4')
    expect(Object.keys(doc.clips)).toHaveLength(4)
  })
})

describe('what is left alone', () => {
  it('is what another operation is about', () => {
    const doc = placed()
    addTimeline(doc, newTimeline('t2', 'Trailer', ''))
    append(doc, 't2', [
      placementOf(doc.clips.hall!, uhd25, 'other'),
      { ...placementOf(doc.clips.hall!, uhd25, 'n'), source: { kind: 'timeline', timelineId: 't1' } },
      { ...placementOf(doc.clips.hall!, uhd25, 'm'), source: { kind: 'timeline', timelineId: 't3' } },
    ])
    const accepted = [{ placementId: 'other', charge: 'reduce', at: '', word: '' }]
    doc.timelines.t2!.accepted = accepted
    const deliverable = (id: string, timelineId: string | null) => ({ id, timelineId }) as never
    doc.project.deliverables = [deliverable('a', 't1'), deliverable('b', 't2'), deliverable('c', null)]
    const { tracks } = doc.timelines.t1!
    // Nothing of the first timeline goes: its tracks are the very same.
    removePlacements(doc, 't2', ['m'], true)
    expect(doc.timelines.t1!.tracks).toBe(tracks)
    expect(doc.timelines.t2!.accepted).toBe(accepted)
    takeOut(doc, ['bell'], true)
    expect(doc.timelines.t2!.tracks[0]!.placements.map(({ id }) => id)).toEqual(['other', 'n'])
    removeTimeline(doc, 't1')
    expect(doc.timelines.t2!.tracks[0]!.placements.map(({ id }) => id)).toEqual(['other'])
    expect(doc.project.deliverables.map(({ timelineId }) => timelineId)).toEqual([null, 't2', null])
  })

  it('is the cut of a timeline with a format of its own, whatever the project takes', () => {
    const doc = placed()
    setTimelineFormat(doc, 't1', uhd25)
    const before = doc.timelines.t1
    setProjectFormat(doc, decision(hd50))
    expect(doc.timelines.t1).toBe(before)
  })

  it('is a name that was not proposed, or that a format of the same name has', () => {
    const doc = placed()
    const named = (name: string) => {
      addTimeline(doc, newTimeline(name, name, '', uhd25))
      setTimelineFormat(doc, name, hd50)
      return doc.timelines[name]!.name
    }
    expect(named('Cut 3840×2160 · 25p (12)')).toBe('Cut 1920×1080 · 50p')
    expect(named('Cut (2) 3840×2160 · 25p')).toBe('Cut (2) 3840×2160 · 25p')
    expect(named('Cut 3840×2160 · 25p (2) b')).toBe('Cut 3840×2160 · 25p (2) b')
    addTimeline(doc, newTimeline('u', 'Cut 3840×2160 · 25p', '', uhd25))
    setTimelineFormat(doc, 'u', { ...uhd25, colour: { ...uhd25.colour, bitDepth: 10 } })
    expect(doc.timelines.u!.name).toBe('Cut 3840×2160 · 25p')
    setTimelineFormat(doc, 'u', null)
    expect(doc.timelines.u!.name).toBe('Cut 3840×2160 · 25p')
    expect(proposeName(doc, null)).toBe('Cut')
  })
})

describe('the format of a clip', () => {
  it('has the order of its fields, where they say one, and none where nothing moves', () => {
    const reel = (fieldOrder: 'bottom-first' | 'unknown' | null) => {
      const clip = aVideo('reel', '1920x1080@50i', 3)
      clip.reading!.video!.fieldOrder = fieldOrder
      return formatOfClip(clip, uhd25.colour)!.fieldOrder
    }
    expect([reel('bottom-first'), reel('unknown'), reel(null)]).toEqual(['bottom-first', 'top-first', null])
    const frames = aVideo('hall', '1920x1080@25p', 3)
    frames.reading!.video!.fieldOrder = 'bottom-first'
    expect(formatOfClip(frames, uhd25.colour)!.fieldOrder).toBeNull()
    expect(formatOfClip({ ...frames, reading: null }, uhd25.colour)).toBeNull()
    expect(
      formatOfClip({ ...frames, reading: { ...frames.reading!, kind: 'still' } }, uhd25.colour),
    ).toBeNull()
  })
})
