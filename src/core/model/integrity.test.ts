import { describe, expect, it } from 'vitest'
import { parseFormat } from '../format/parse'
import { rational } from '../rational/rational'
import { aDoc, aVideo } from './doc.fixture'
import type { Draft } from '../edit/draft'
import { addTimeline } from '../edit/operations'
import { append, newTimeline, placementOf } from '../edit/placing'
import type { Doc } from './project'
import { nonsenseOf, showsTimeline } from './integrity'

const hd25 = parseFormat('1920x1080@25p')!.format

function sensible(): Draft<Doc> {
  const doc = aDoc([aVideo('a', '1920x1080@25p', 4), aVideo('b', '1920x1080@25p', 4)])
  for (const id of ['t', 'u', 'v']) {
    addTimeline(doc, newTimeline(id, `Cut ${id}`, '', hd25))
    append(doc, id, [placementOf(doc.clips.a!, hd25, `${id}-a`), placementOf(doc.clips.b!, hd25, `${id}-b`)])
  }
  doc.project.deliverables = ['d', 'e'].map(
    (id) => ({ id, name: `For ${id}`, timelineId: 't', format: hd25 }) as never,
  )
  return doc
}
const show = (doc: Draft<Doc>, outer: string, inner: string) => {
  doc.timelines[outer]!.tracks[0]!.placements[0]!.source = { kind: 'timeline', timelineId: inner }
}

describe('a document', () => {
  it('that makes sense has nothing against it', () => expect(nonsenseOf(sensible())).toBeNull())

  it.each<[string, (doc: Draft<Doc>) => void, RegExp]>([
    ['lists a clip twice', (d) => void d.project.clipOrder.push('a'), /clip “a” is listed twice/],
    [
      'lists a clip that is not there',
      (d) => void d.project.clipOrder.push('z'),
      /“z” is listed and not there/,
    ],
    ['holds a clip that is not listed', (d) => void d.project.clipOrder.pop(), /“b” is there and not listed/],
    ['lists a timeline twice', (d) => void d.project.timelineOrder.push('t'), /timeline “t” is listed twice/],
    [
      'uses an id twice in a timeline',
      (d) => void (d.timelines.t!.tracks[1]!.id = 't-a'),
      /“Cut t” holds “t-a” twice/,
    ],
    [
      'lets placements overlap',
      (d) => void (d.timelines.t!.tracks[0]!.placements[1]!.start = 99),
      /at frame 99, where another runs until 100/,
    ],
    [
      'reaches beyond all frames',
      (d) => Object.assign(d.timelines.t!.tracks[0]!.placements[1]!, { start: 2 ** 40, length: 1 }),
      /beyond frame 2⁴⁰/,
    ],
    [
      'places a clip that is not there',
      (d) => void (d.timelines.t!.tracks[0]!.placements[0]!.source = { kind: 'clip', clipId: 'z' }),
      /places a clip “z” that is not there/,
    ],
    [
      'places a timeline that is not there',
      (d) => show(d, 't', 'z'),
      /places a timeline “z” that is not there/,
    ],
    [
      'counts frames at another rate than its format',
      (d) => void (d.timelines.t!.rate = rational(24)),
      /“Cut t” counts frames at another rate/,
    ],
    [
      'counts frames at no rate',
      (d) => void (d.timelines.t!.rate = null),
      /does not say at which rate its frames are counted/,
    ],
    [
      'has frames that belong to no rate though it has no format',
      (d) => Object.assign(d.timelines.t!, { rate: null, ownFormat: null }),
      /does not say at which rate/,
    ],
    [
      'has a deliverable twice',
      (d) => void (d.project.deliverables[1]!.id = 'd'),
      /The deliverable “d” is there twice/,
    ],
    [
      'delivers a timeline that is not there',
      (d) => void (d.project.deliverables[1]!.timelineId = 'z'),
      /“For e” delivers a timeline “z”/,
    ],
    ['places a timeline in itself', (d) => show(d, 't', 't'), /“Cut t” is placed inside itself/],
    [
      'places timelines in a ring',
      (d) => {
        show(d, 't', 'u')
        show(d, 'u', 'v')
        show(d, 'v', 't')
      },
      /is placed inside itself/,
    ],
  ])('that %s is refused with a sentence', (_, spoil, said) => {
    const doc = sensible()
    spoil(doc)
    expect(nonsenseOf(doc)).toMatch(said)
  })

  it('may hold an empty timeline that belongs to no rate, and one shown in two', () => {
    const doc = sensible()
    addTimeline(doc, newTimeline('empty', 'Later', ''))
    show(doc, 't', 'v')
    show(doc, 'u', 'v')
    expect(nonsenseOf(doc)).toBeNull()
    expect([
      showsTimeline(doc, 't', 'v'),
      showsTimeline(doc, 'v', 't'),
      showsTimeline(doc, 'z', 't'),
    ]).toEqual([true, false, false])
  })
})
