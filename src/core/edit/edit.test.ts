import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { makeFormat } from '../format/format'
import { standardRates } from '../rate/rate'
import { rational } from '../rational/rational'
import { aDoc, aVideo } from './doc.fixture'
import { carriedBoundaries, carryFrame, carryPlacements, driftMs } from './carry'
import {
  addTimeline,
  removePlacements,
  renameTimeline,
  setProjectFormat,
  setTimelineFormat,
  takeOut,
} from './operations'
import { originWords } from '../exchange/log'
import { append, formatOfClip, movePlacement, newTimeline, placementOf } from './placing'
import { proposeName } from './reformat'
import { formatOf } from './project'
import { clipIdOf } from './timeline'

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
