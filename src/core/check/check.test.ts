import { describe, expect, it } from 'vitest'
import { aDoc, aStill, aVideo } from '../model/doc.fixture'
import { addTimeline, setProjectFormat } from '../edit/operations'
import { append, newTimeline, placementOf } from '../edit/placing'
import { parseFormat } from '../format/parse'
import { checkTimeline, worstFirst } from './check'
import { mismatchOf } from './mismatch'

const format = (text: string) => parseFormat(text)!.format
const hd25 = format('1920x1080@25p')

function cut() {
  const clips = [
    aVideo('hall', '3840x2160@25p', 4),
    aVideo('bell', '1920x1080@50p', 4),
    aVideo('yard', '1920x1080@25p', 8),
    aStill('title'),
  ]
  const doc = aDoc(clips)
  setProjectFormat(doc, { at: '', setBy: 'typed', format: hd25, reason: '' })
  addTimeline(doc, newTimeline('t', 'Main cut', ''))
  return doc
}

describe('the check of a timeline', () => {
  it('says of each clip whether it runs as it is, and the whole at a glance', () => {
    const doc = cut()
    append(
      doc,
      't',
      ['hall', 'bell', 'yard'].map((id) => placementOf(doc.clips[id]!, hd25, id)),
    )
    const check = checkTimeline(doc, doc.timelines.t!)!
    expect(check.findings.map((f) => [f.clip!.id, f.toll.grade])).toEqual([
      ['hall', 'light'],
      ['bell', 'light'],
      ['yard', 'free'],
    ])
    expect(check.untouchedShare).toBeCloseTo(0.5, 12)
    expect(check.countByGrade).toEqual({ free: 1, light: 2, heavy: 0, severe: 0 })
    expect(worstFirst(check.findings).map((f) => f.clip!.id)).toEqual(['hall', 'bell', 'yard'])
  })

  it('counts pictures only: sound pays nothing, another timeline its inner format', () => {
    const doc = cut()
    append(doc, 't', [placementOf(doc.clips.yard!, hd25, 'yard')])
    const sound = { ...doc.timelines.t!.tracks[1]!, placements: [] as never[] }
    doc.timelines.t!.tracks[1] = sound
    // A clip with pictures on a track of sound is heard, not seen.
    sound.placements.push({ ...doc.timelines.t!.tracks[0]!.placements[0]!, id: 'heard' } as never)
    expect(checkTimeline(doc, doc.timelines.t!)!.findings.map(({ placement }) => placement.id)).toEqual([
      'yard',
    ])

    addTimeline(doc, newTimeline('outer', 'Trailer', '', format('3840x2160@25p')))
    append(doc, 'outer', [
      {
        ...placementOf(doc.clips.yard!, hd25, 'nested'),
        source: { kind: 'timeline', timelineId: 't' },
      },
    ])
    const [finding] = checkTimeline(doc, doc.timelines.outer!)!.findings
    expect(finding).toMatchObject({ name: 'Main cut', clip: null, toll: { grade: 'severe' } })
    expect(finding!.inner!.findings.map(({ name }) => name)).toEqual(['yard.mp4'])
    expect(checkTimeline(doc, doc.timelines.t!)!.findings[0]!.inner).toBeNull()
  })

  it('calls the test figure by its name, and takes an empty timeline as untouched', () => {
    const doc = cut()
    expect(checkTimeline(doc, doc.timelines.t!)).toMatchObject({ frames: 0, untouchedShare: 1, findings: [] })
    append(doc, 't', [
      {
        ...placementOf(doc.clips.yard!, hd25, 'figure'),
        source: { kind: 'figure', size: hd25, rate: hd25.rate, scan: 'progressive' },
      },
    ])
    expect(checkTimeline(doc, doc.timelines.t!)!.findings[0]).toMatchObject({
      name: 'test figure',
      clip: null,
    })
  })

  it('does not take a turned clip for untouched, though it costs nothing', () => {
    const doc = cut()
    Object.assign(doc.clips.yard!.reading!.video!, { rotation: 180 })
    append(doc, 't', [placementOf(doc.clips.yard!, hd25, 'yard')])
    expect(checkTimeline(doc, doc.timelines.t!)).toMatchObject({
      untouchedShare: 0,
      countByGrade: { free: 1 },
    })
  })

  it('puts the worst first, by grade and then by what is lost over the time', () => {
    const doc = cut()
    const finding = (id: string, grade: 'light' | 'heavy', loss: number, length: number) => ({
      placement: { ...placementOf(doc.clips.yard!, hd25, id), start: 0, length },
      clip: null,
      name: id,
      toll: { grade, loss, untouched: false, charges: [] },
      inner: null,
    })
    const list = [
      finding('a', 'light', 0.3, 100),
      finding('b', 'heavy', 0.01, 1),
      finding('c', 'light', 0.2, 1000),
    ]
    expect(worstFirst(list).map(({ name }) => name)).toEqual(['b', 'c', 'a'])
  })

  it('has nothing to say while the format is undecided', () => {
    const doc = aDoc([])
    addTimeline(doc, newTimeline('t', 'Main cut', ''))
    expect(checkTimeline(doc, doc.timelines.t!)).toBeNull()
  })
})

describe('the question when a clip does not match', () => {
  it('is not asked for a match, a still or sound', () => {
    const doc = cut()
    expect(mismatchOf(doc, doc.timelines.t!, doc.clips.yard!)).toBeNull()
    expect(mismatchOf(doc, doc.timelines.t!, doc.clips.title!)).toBeNull()
  })

  it('prices both answers', () => {
    const doc = cut()
    append(doc, 't', [placementOf(doc.clips.yard!, hd25, 'p1')])
    const asked = mismatchOf(doc, doc.timelines.t!, doc.clips.hall!)!
    expect(asked.differsIn).toEqual(['size'])
    expect(asked.kept.toll.charges.map((c) => c.kind)).toEqual(['reduce'])
    // 8 s run untouched of 12 s; taking UHD would leave only the new 4 s untouched.
    expect(asked.kept.untouchedShare).toBeCloseTo(2 / 3, 9)
    expect(asked.taken.untouchedShare).toBeCloseTo(1 / 3, 9)
    expect(asked.taken).toMatchObject({ worsened: 1, toll: { grade: 'free', charges: [] } })
  })

  it('is not asked without a format, or of what holds no picture', () => {
    const doc = cut()
    const hall = doc.clips.hall!
    expect(mismatchOf(doc, doc.timelines.t!, { ...hall, reading: null })).toBeNull()
    expect(
      mismatchOf(doc, doc.timelines.t!, {
        ...hall,
        reading: { ...hall.reading!, kind: 'audio', video: null },
      }),
    ).toBeNull()
    doc.project.format = null
    expect(mismatchOf(doc, { ...doc.timelines.t!, rate: null }, hall)).toBeNull()
  })

  it('counts what is untouched in seconds, and only those that pay more', () => {
    const doc = cut()
    const ntsc = format('1920x1080@29.97p')
    const reel = aVideo('reel', '1920x1080@29.97p', 10.01)
    doc.clips.reel = reel
    doc.clips.late = aVideo('late', '1920x1080@23.976p', 4.004)
    addTimeline(doc, newTimeline('n', 'Export cut', '', ntsc))
    append(doc, 'n', [placementOf(reel, ntsc, 'p1'), placementOf(doc.clips.hall!, ntsc, 'p2')])
    const placed = doc.timelines.n!.tracks[0]!.placements.map(({ length }) => (length * 1001) / 30_000)
    const asked = mismatchOf(doc, doc.timelines.n!, doc.clips.late)!
    expect(asked.differsIn).toEqual(['rate'])
    expect(asked.kept.untouchedShare).toBeCloseTo(placed[0]! / (placed[0]! + placed[1]! + 4.004), 9)
    // UHD at 25 is worse off at 23.976 than at 29.97? Its own toll decides; the reel certainly is.
    const worse = ['p1', 'p2'].filter((id) => {
      const loss = (f: typeof ntsc) =>
        checkTimeline(
          { ...doc, timelines: { ...doc.timelines, n: { ...doc.timelines.n!, ownFormat: f, rate: f.rate } } },
          { ...doc.timelines.n!, ownFormat: f, rate: f.rate },
        )!.findings.find(({ placement }) => placement.id === id)!.toll.loss
      return loss(asked.clipFormat) > loss(ntsc)
    })
    expect(worse).toContain('p1')
    expect(asked.taken.worsened).toBe(worse.length)
    // Nothing placed, nothing that lasts: all of it is untouched.
    doc.timelines.n!.tracks[0]!.placements = []
    const instant = { ...doc.clips.late, reading: { ...doc.clips.late.reading!, durationSec: null } }
    expect(mismatchOf(doc, doc.timelines.n!, instant)!.kept.untouchedShare).toBe(1)
    expect(mismatchOf(doc, doc.timelines.n!, instant)!.taken.worsened).toBe(0)
    expect(mismatchOf(doc, doc.timelines.n!, doc.clips.late)!.kept.untouchedShare).toBe(0)
  })

  it('does not call free what pays even in its own format', () => {
    const doc = cut()
    Object.assign(doc.clips.hall!.reading!.video!, { rateMode: 'variable', offNominalShare: 0.25 })
    const { kept, taken } = mismatchOf(doc, doc.timelines.t!, doc.clips.hall!)!
    expect(kept.toll.charges.map((c) => c.kind)).toEqual(['reduce', 'variable-rate'])
    expect(taken.toll.charges.map((c) => c.kind)).toEqual(['variable-rate'])
    expect(taken.untouchedShare).toBe(0)
  })
})
