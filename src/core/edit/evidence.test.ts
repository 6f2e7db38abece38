import { describe, expect, it } from 'vitest'
import { combedEvidence, evidenceWith } from '../evidence/evidence.fixture'
import { rational } from '../rational/rational'
import type { Clip } from '../model/clip'
import { claimsOf } from '../model/clip'
import { correct, learnEvidence, resettle, withEvidence } from './correction'
import { aDoc, aVideo } from '../model/doc.fixture'
import { Clip as ClipSchema } from '../model/clip'

const clip = (format: string, video: Partial<NonNullable<NonNullable<Clip['reading']>['video']>> = {}) => {
  const dub = aVideo('dub', format, 10)
  Object.assign(dub.reading!.video!, video)
  return dub as Clip
}
const held = (clip: Clip) => clip.reading!.video!

describe('what is held true of a clip', () => {
  it('is what is claimed, though the picture says another thing; what it costs knows of the combs', () => {
    const dub = withEvidence(clip('1920x1080@25p'), combedEvidence('top-first'))
    expect(held(dub)).toMatchObject({ scan: 'progressive', measured: { combs: true, pulldownPhase: null } })
    expect(claimsOf(dub)!.video!.measured).toBeUndefined()
    const unsure = withEvidence(clip('1920x1080@25p'), combedEvidence('top-first', 0.4))
    expect(held(unsure).measured).toBeUndefined()
    expect(unsure.claimed).toBeNull()
  })

  it('is what is measured where nobody claims anything', () => {
    const silent = clip('1920x1080@25p', { scan: 'unknown' })
    expect(held(withEvidence(silent, combedEvidence('bottom-first')))).toMatchObject({
      scan: 'interlaced',
      fieldOrder: 'bottom-first',
    })
    expect(held(withEvidence(silent, evidenceWith()))).toMatchObject({ scan: 'progressive' })
    expect(held(withEvidence(silent, combedEvidence('bottom-first', 0.4)))).toMatchObject({ scan: 'unknown' })
    const order = clip('1920x1080@50i', { fieldOrder: 'unknown' })
    expect(held(withEvidence(order, combedEvidence('bottom-first'))).fieldOrder).toBe('bottom-first')
    // A claimed order stands.
    expect(held(withEvidence(clip('1920x1080@50i'), combedEvidence('bottom-first'))).fieldOrder).toBe(
      'top-first',
    )
  })

  it('is what is corrected before both, and knows of pulldown and of true detail', () => {
    const doc = aDoc([clip('1920x1080@29.97i')])
    learnEvidence(
      doc,
      'dub',
      evidenceWith({
        ...combedEvidence('top-first'),
        pulldown: { pattern: '2:3', phase: 3 },
        detail: { verdict: 'enlarged', width: 1280, height: 720, confidence: 0.8 },
      }),
    )
    expect(doc.clips.dub!.reading!.video!.measured).toEqual({
      combs: false,
      pulldownPhase: 3,
      detail: { width: 1280, height: 720 },
    })
    correct(doc, ['dub'], { scan: 'progressive' })
    expect(doc.clips.dub!.reading!.video).toMatchObject({ scan: 'progressive', measured: { combs: false } })
    expect(ClipSchema.parse(structuredClone(doc.clips.dub))).toEqual(doc.clips.dub)
  })

  it('says nothing of stills, and of clips that are gone', () => {
    const still = clip('1920x1080@25p')
    const asStill = { ...still, reading: { ...still.reading!, kind: 'still' as const } }
    expect(withEvidence(asStill, combedEvidence('top-first')).reading).toEqual(asStill.reading)
    const doc = aDoc([])
    learnEvidence(doc, 'gone', evidenceWith())
    resettle(doc, ['gone'])
    expect(doc.clips).toEqual({})
  })

  it('follows from claims, corrections and evidence again after an older state of one came back', () => {
    const doc = aDoc([clip('1920x1080@25p')])
    const before = structuredClone(doc.clips.dub!)
    correct(doc, ['dub'], { rate: rational(24) })
    learnEvidence(doc, 'dub', combedEvidence('top-first'))
    // As undoing the correction does: its fields come back, the evidence stays.
    Object.assign(doc.clips.dub!, {
      reading: before.reading,
      claimed: before.claimed,
      corrections: before.corrections,
    })
    resettle(doc, ['dub'])
    expect(doc.clips.dub!.reading!.video).toMatchObject({ rate: rational(25), measured: { combs: true } })
    expect(doc.clips.dub!.claimed).toEqual(before.reading)
  })
})
