import { describe, expect, it } from 'vitest'
import { parseFormat } from '../format/parse'
import { aDoc, aVideo } from '../model/doc.fixture'
import type { Draft } from '../edit/draft'
import { mend } from './mend'
import { addTimeline, setProjectFormat } from '../edit/operations'
import { append, newTimeline, placementOf } from '../edit/placing'
import type { Doc } from '../model/project'

const hd25 = parseFormat('1920x1080@25p')!.format

function whole(): Draft<Doc> {
  const doc = aDoc([aVideo('hall', '3840x2160@25p', 4), aVideo('bell', '1920x1080@50p', 4)])
  setProjectFormat(doc, { at: '2026-05-01T10:00:00Z', setBy: 'typed', format: hd25, reason: '' })
  for (const [id, name] of [
    ['t', 'Main cut'],
    ['inner', 'Pour'],
  ]) {
    addTimeline(doc, newTimeline(id!, name!, '2026-05-01T10:01:00Z'))
    append(doc, id!, [placementOf(doc.clips.hall!, hd25, `${id}-p`)])
  }
  doc.leftAside = { '/x': { id: '/x', kind: 'description', source: { kind: 'file' } } } as never
  return doc
}
/** The rows of the whole document, spoilt. */
function mended(spoil: (doc: Draft<Doc>) => void) {
  const doc = whole()
  spoil(doc)
  return mend({
    project: doc.project,
    clips: Object.values(doc.clips),
    timelines: Object.values(doc.timelines),
    leftAside: Object.values(doc.leftAside),
  })
}
const aside = (spoil: (doc: Draft<Doc>) => void) =>
  mended(spoil)!.putAside.map(({ what, name, why }) => `${what} ${name}: ${why}`)
const spoilt = (value: unknown) => value as never

describe('rows that are whole', () => {
  it('are a document, with nothing put aside', () => {
    const { doc, putAside } = mended(() => undefined)!
    expect(putAside).toEqual([])
    expect(doc).toEqual(whole())
  })

  it('list what is there, each once, what was not listed last', () => {
    const { doc } = mended(({ project }) => {
      project.clipOrder = ['gone', 'bell', 'bell']
      project.timelineOrder = []
    })!
    expect(doc.project.clipOrder).toEqual(['bell', 'hall'])
    expect(doc.project.timelineOrder).toEqual(['t', 'inner'])
  })

  it('keep the timeline of a delivery, and forget one that is gone', () => {
    const delivery = (timelineId: string | null) =>
      mended(({ project }) => {
        project.deliverables = [
          {
            id: 'd',
            name: 'Festival',
            timelineId,
            format: hd25,
            wrapper: null,
            video: null,
            sound: null,
            treatment: {},
          },
        ] as never
      })!.doc.project.deliverables.map((deliverable) => deliverable.timelineId)
    expect([delivery('t'), delivery('gone'), delivery(null)]).toEqual([['t'], [null], [null]])
  })
})

describe('rows that cannot be read', () => {
  it('are put aside by what they are called, with the reason and as they were', () => {
    expect(aside(({ clips }) => Object.assign(clips.bell!, { sizeBytes: 'much' }))[0]).toMatch(
      /^clip bell\.mp4: sizeBytes: /,
    )
    expect(aside(({ clips }) => Object.assign(clips.bell!, { name: 7 }))[0]).toMatch(/^clip bell: name: /)
    expect(aside(({ clips }) => Object.assign(clips.bell!, { name: '', id: 7 }))[0]).toMatch(
      /^clip nameless: /,
    )
    expect(aside(({ clips }) => (clips.bell = spoilt(null)))[0]).toMatch(/^clip nameless: the whole of it: /)
    expect(aside(({ clips }) => (clips.bell = spoilt('text')))[0]).toMatch(/^clip nameless: /)
    expect(aside(({ timelines }) => Object.assign(timelines.t!, { tracks: 7 }))[0]).toMatch(
      /^timeline Main cut: tracks: /,
    )
    expect(aside((doc) => Object.assign(doc.leftAside['/x']!, { kind: 7 }))[0]).toMatch(
      /^left-aside \/x: kind: /,
    )
    const { putAside } = mended(({ clips }) => Object.assign(clips.bell!, { sizeBytes: 'much' }))!
    expect(putAside[0]!.row).toMatchObject({ id: 'bell', sizeBytes: 'much' })
  })

  it('of the project itself are as in a new one, the others as they were', () => {
    const { doc, putAside } = mended(({ project }) =>
      Object.assign(project, { lean: 'nowhere', mains: 60, name: 'The Ninth Bell' }),
    )!
    expect(putAside.map(({ what, name }) => `${what} ${name}`)).toEqual(['project The Ninth Bell'])
    expect(putAside[0]!.why).toMatch(/^lean: /)
    expect(doc.project).toMatchObject({
      id: 'p1',
      name: 'The Ninth Bell',
      lean: 'balanced',
      mains: 60,
      createdAt: '2026-05-01T08:00:00Z',
      format: hd25,
    })
    const nameless = mended(({ project }) => Object.assign(project, { name: 7, createdAt: 7 }))!
    expect(nameless.putAside[0]).toMatchObject({ what: 'project', name: 'Untitled' })
    expect(nameless.doc.project).toMatchObject({ name: 'Untitled', createdAt: '1970-01-01T00:00:00Z' })
    expect(mended(({ project }) => Object.assign(project, { id: 7 }))).toBeNull()
    expect(mended((doc) => (doc.project = spoilt(null)))).toBeNull()
  })

  it('take the placements of their clips along, and leave the others where they stand', () => {
    const { doc, putAside } = mended((draft) => {
      append(draft, 't', [placementOf(draft.clips.bell!, hd25, 'b')])
      Object.assign(draft.clips.bell!, { sizeBytes: 'much' })
    })!
    expect(putAside.map(({ what, why }) => `${what}: ${why}`)).toEqual([
      expect.stringMatching(/^clip: sizeBytes/),
      'timeline: 1 of its placements are of clips that cannot be read; the others stay where they are',
    ])
    expect(doc.timelines.t!.tracks[0]!.placements.map(({ id, start }) => [id, start])).toEqual([['t-p', 0]])
  })
})

describe('timelines that make no sense', () => {
  const showing = (draft: Draft<Doc>, from: string, shown: string) =>
    append(draft, from, [
      {
        ...placementOf(draft.clips.hall!, hd25, `${from}-n`),
        source: { kind: 'timeline', timelineId: shown },
      },
    ])

  it('lose what shows them in themselves, near or far, and keep what shows another', () => {
    const ids = (spoil: (doc: Draft<Doc>) => void) =>
      Object.values(mended(spoil)!.doc.timelines).map(({ id, tracks }) => [
        id,
        ...tracks[0]!.placements.map((p) => p.id),
      ])
    expect(ids((draft) => showing(draft, 't', 'inner'))).toEqual([
      ['t', 't-p', 't-n'],
      ['inner', 'inner-p'],
    ])
    expect(ids((draft) => showing(draft, 't', 't'))).toEqual([
      ['t', 't-p'],
      ['inner', 'inner-p'],
    ])
    const ring = ids((draft) => {
      showing(draft, 't', 'inner')
      showing(draft, 'inner', 't')
    })
    expect(ring.flat().filter((id) => id.endsWith('-n')).length).toBeLessThan(2)
  })

  it('count their frames at the rate of their format', () => {
    const rate = (spoil: (doc: Draft<Doc>) => void) => {
      const { doc, putAside } = mended(spoil)!
      return [doc.timelines.t!.rate?.num, doc.timelines.t!.tracks[0]!.placements[0]!.length, putAside.length]
    }
    expect(rate(() => undefined)).toEqual([25, 100, 0])
    // Without one, they take it; at another, their cut is carried, and that is told.
    expect(rate(({ timelines }) => (timelines.t!.rate = null))).toEqual([25, 100, 0])
    expect(rate(({ timelines }) => (timelines.t!.rate = { num: 50, den: 1 }))).toEqual([25, 50, 1])
  })

  it('are put aside whole where nothing can be kept of them', () => {
    const { doc, putAside } = mended(({ timelines }) => {
      const [track] = timelines.t!.tracks
      track!.placements.push({ ...track!.placements[0]!, id: 'over' })
    })!
    expect(Object.keys(doc.timelines)).toEqual(['inner'])
    expect(putAside).toMatchObject([{ what: 'timeline', name: 'Main cut', row: { id: 't' } }])
    expect(putAside[0]!.why).toContain('placements stand in order and do not overlap')
  })
})
