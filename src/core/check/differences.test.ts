import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { correct } from '../edit/correction'
import { cuts, docOf } from '../edit/cut.fixture'
import { aDoc, aVideo } from '../model/doc.fixture'
import type { Draft } from '../edit/draft'
import {
  addTimeline,
  removePlacements,
  setProjectFormat,
  setTimelineFormat,
  takeIn,
  takeOut,
} from '../edit/operations'
import { append, newTimeline, placementOf } from '../edit/placing'
import type { Doc } from '../model/project'
import { restore } from '../edit/restoring'
import { treat } from '../edit/treating'
import { parseFormat } from '../format/parse'
import { rational } from '../rational/rational'
import { differencesBetween } from './differences'

const format = (text: string) => parseFormat(text)!.format
function placed(): Draft<Doc> {
  const hd = format('1920x1080@25p')
  const doc = aDoc(['hall', 'bell', 'pour'].map((id) => aVideo(id, '1920x1080@25p', 4)))
  addTimeline(doc, newTimeline('t', 'Main cut', '', hd))
  append(
    doc,
    't',
    ['hall', 'bell'].map((id) => placementOf(doc.clips[id]!, hd, `p-${id}`)),
  )
  return doc
}
const after = (act: (doc: Draft<Doc>) => void) => {
  const doc = placed()
  act(doc)
  return differencesBetween(placed(), doc)
}

describe('what differs', () => {
  it('is nothing between a state and itself', () => {
    expect(after(() => {})).toEqual([])
  })

  it('is told in words: formats, clips, placements, treatments', () => {
    expect(
      after((doc) =>
        setProjectFormat(doc, { at: '', setBy: 'typed', format: format('3840x2160@25p'), reason: '' }),
      ),
    ).toEqual(['project format not chosen → 3840×2160 · 25p'])
    expect(after((doc) => setTimelineFormat(doc, 't', format('1920x1080@50p')))).toEqual([
      '“Main cut”: 1920×1080 · 25p → 1920×1080 · 50p',
      '“Main cut”: 1 placement moved: bell.mp4',
      '“Main cut”: 2 placements trimmed: hall.mp4, bell.mp4',
    ])
    expect(after((doc) => removePlacements(doc, 't', ['p-hall'], true))).toEqual([
      '“Main cut”: 1 placement less: hall.mp4',
      '“Main cut”: 1 placement moved: bell.mp4',
    ])
    expect(after((doc) => treat(doc, 't', ['p-bell'], { motion: { kind: 'blend' } }))).toEqual([
      '“Main cut”: bell.mp4 treated otherwise: blend',
    ])
    expect(after((doc) => correct(doc, ['pour'], { rate: rational(24), rotation: 90 }))).toEqual([
      'pour.mp4 corrected otherwise: rate, turn',
    ])
    expect(
      after((doc) => {
        takeIn(doc, [aVideo('tower', '1920x1080@25p', 4)])
        takeOut(doc, ['pour'], true)
      }),
    ).toEqual(['1 clip more: tower.mp4', '1 clip less: pour.mp4'])
    expect(
      after((doc) => addTimeline(doc, newTimeline('u', 'Portrait', '', format('1080x1920@25p')))),
    ).toEqual(['“Portrait” is there, with 0 placements'])
  })
})

describe('going back to a point', () => {
  it('leaves no difference, and what was found out since', () => {
    fc.assert(
      fc.property(cuts, cuts, (then, after) => {
        const [point, doc] = [docOf(then), docOf(after)]
        doc.clips.c0!.hash = 'found since'
        point.clips.c1!.priority = 'key'
        correct(point, ['c2'], { rate: rational(24) })
        restore(doc, point)
        expect(differencesBetween(point as Doc, doc as Doc)).toEqual(['c0.mp4: another file'])
        expect(doc.clips.c0!.hash).toBe('found since')
        expect(doc.timelines).toEqual(point.timelines)
        expect(doc.clips.c2!.reading!.video!.rate).toEqual(rational(24))
      }),
      { numRuns: 40 },
    )
  })
})
