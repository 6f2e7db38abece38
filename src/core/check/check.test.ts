import { describe, expect, it } from 'vitest'
import { aDoc, aStill, aVideo } from '../edit/doc.fixture'
import { addTimeline, setProjectFormat } from '../edit/operations'
import { append, newTimeline, placementOf } from '../edit/placing'
import { parseFormat } from '../format/parse'
import { checkTimeline, worstFirst } from './check'
import { differencesFrom, oddities } from './marks'
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

  it('does not call free what pays even in its own format', () => {
    const doc = cut()
    Object.assign(doc.clips.hall!.reading!.video!, { rateMode: 'variable', offNominalShare: 0.25 })
    const { kept, taken } = mismatchOf(doc, doc.timelines.t!, doc.clips.hall!)!
    expect(kept.toll.charges.map((c) => c.kind)).toEqual(['reduce', 'variable-rate'])
    expect(taken.toll.charges.map((c) => c.kind)).toEqual(['variable-rate'])
    expect(taken.untouchedShare).toBe(0)
  })
})

describe('marks of a clip', () => {
  const short = (text: string, more = {}) => {
    const { reading } = aVideo('c', text, 2)
    Object.assign(reading!.video!, more)
    return {
      differing: differencesFrom(reading!, hd25).map((m) => m.short),
      odd: oddities(reading!).map((m) => m.short),
    }
  }
  it('name each property alone', () => {
    expect(short('1920x1080@25p').differing).toEqual([])
    expect(short('3840x2160@50p').differing).toEqual(['size', 'rate'])
    expect(short('1440x1080/4:3@50i').differing).toEqual(['size', 'pixels', 'fields'])
    expect(short('1920x1080@25p', { rotation: 90, bitDepth: 10 }).differing).toEqual(['size', '10 bit'])
  })
  it('name what is odd in itself', () => {
    expect(short('720x576/64:45@50i').odd).toEqual(['fields', 'pixels 64:45', 'no sound'])
    expect(short('640x480@9p').odd).toEqual(['unusual rate', 'no sound'])
    expect(
      short('1920x1080@30p', {
        rateMode: 'variable',
        minRate: 24.1,
        maxRate: 31,
        meanRate: 29,
        offNominalShare: 0.2,
      }).odd[0],
    ).toBe('variable 24.1–31.0')
    expect(oddities(aStill('t').reading!)).toEqual([])
  })
})
