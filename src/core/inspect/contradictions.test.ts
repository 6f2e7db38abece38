import { describe, expect, it } from 'vitest'
import { aVideo } from '../model/doc.fixture'
import type { Clip } from '../model/clip'
import { corrected, withEvidence } from '../edit/correction'
import { combedEvidence, evidenceWith } from '../evidence/evidence.fixture'
import { parseFormat } from '../format/parse'
import { rational } from '../rational/rational'
import { defaultWeights } from '../toll/policy'
import { contradictionsOf, outcomeOf } from './contradictions'
import { measuredOf, sureWords } from './measured'

const clip = (format: string) => aVideo('dub', format, 100) as Clip
const said = (clip: Clip) => contradictionsOf(clip).map(({ title, seen }) => [title, seen])
const film = evidenceWith({
  repeats: {
    verdict: 'pattern',
    pattern: '2:3',
    holds: [2, 3],
    phase: 1,
    trueRate: rational(24),
    confidence: 0.95,
  },
})

describe('a claim against the picture', () => {
  it('of whole frames that comb: one action takes it as fields, one holds to the claim', () => {
    const dub = withEvidence(clip('1920x1080@25p'), combedEvidence('top-first'))
    expect(said(dub)).toEqual([
      [
        'Flagged progressive, but it combs.',
        'Two moments in each frame, top field first: 100 % of the frames comb, in 243 frames seen.',
      ],
    ])
    const [found] = contradictionsOf(dub)
    expect(found!.action).toBe('Take it as 50i, top first')
    const taken = corrected(dub, found!.change)
    expect(taken.reading!.video).toMatchObject({ scan: 'interlaced', fieldOrder: 'top-first' })
    expect(contradictionsOf(taken)).toEqual([])
    expect(contradictionsOf(corrected(dub, found!.holding!))).toEqual([])
    // Unsure, it says nothing.
    expect(contradictionsOf(withEvidence(clip('1920x1080@25p'), combedEvidence('top-first', 0.4)))).toEqual(
      [],
    )
  })

  it('of fields that are whole frames, and of the wrong field first', () => {
    const whole = withEvidence(clip('1920x1080@50i'), evidenceWith())
    expect(said(whole)[0]![0]).toBe('Flagged interlaced, but its frames are whole.')
    expect(contradictionsOf(whole)[0]).toMatchObject({
      change: { scan: 'progressive' },
      holding: { scan: 'interlaced' },
    })
    const turned = withEvidence(clip('1920x1080@50i'), combedEvidence('bottom-first'))
    expect(said(turned)[0]![0]).toBe('Flagged top field first, but the other field is first in time.')
    expect(contradictionsOf(turned)[0]).toMatchObject({
      about: 'field order',
      action: 'Take it bottom field first',
      change: { fieldOrder: 'bottom-first' },
    })
    expect(contradictionsOf(withEvidence(clip('1920x1080@50i'), combedEvidence('top-first')))).toEqual([])
  })

  it('of a rate that hides another, until its repeats are taken out', () => {
    const print = withEvidence(clip('1920x1080@60p'), film)
    expect(said(print)).toEqual([
      ['A 24 shot in a file of 60.', 'Frames repeat 2:3 in 243 frames seen: only 24 a second are new.'],
    ])
    const [found] = contradictionsOf(print)
    expect(found).toMatchObject({
      action: 'Take each frame once, at 24',
      change: { repeatsOut: { holds: [2, 3], phase: 1 } },
      holding: null,
    })
    expect(corrected(print, found!.change).reading!.video!.rate).toEqual(rational(24))
    expect(contradictionsOf(corrected(print, found!.change))).toEqual([])
    // Where runs do not agree on a pattern there is nothing to take out.
    const { holds: _h, phase: _p, ...open } = film.repeats
    const loose = evidenceWith({ repeats: { ...open, holds: null, phase: null } })
    expect(contradictionsOf(withEvidence(clip('1920x1080@60p'), loose))).toEqual([])
  })

  it('of a picture with bars baked in: what is left of it is the picture', () => {
    const boxed = withEvidence(
      clip('1920x1080@25p'),
      evidenceWith({ bars: { top: 138, bottom: 138, left: 0, right: 0, confidence: 1 } }),
    )
    expect(said(boxed)).toEqual([
      [
        'Bars are baked into the picture.',
        'Bars of 138 · 138 px above and below: 26 % of 1920×1080 is black.',
      ],
    ])
    const [found] = contradictionsOf(boxed)
    expect(found!.action).toBe('Take 1920×804 as the picture')
    expect(corrected(boxed, found!.change).reading!.video).toMatchObject({ width: 1920, height: 804 })
    const faint = evidenceWith({ bars: { top: 138, bottom: 138, left: 0, right: 0, confidence: 0.3 } })
    expect(contradictionsOf(withEvidence(clip('1920x1080@25p'), faint))).toEqual([])
  })

  it('is not known before it is measured, nor of stills and sound', () => {
    expect(contradictionsOf(clip('1920x1080@25p'))).toEqual([])
    const still = { ...withEvidence(clip('1920x1080@25p'), film) }
    expect(contradictionsOf({ ...still, reading: { ...still.reading!, kind: 'still' } })).toEqual([])
  })
})

describe('what the picture says, fact by fact', () => {
  const says = (clip: Clip) => measuredOf(clip).map(({ about, kind, short }) => `${about}: ${kind}, ${short}`)

  it('in a word for lists', () => {
    expect(measuredOf(clip('1920x1080@25p'))).toEqual([])
    expect(says(withEvidence(clip('1920x1080@25p'), evidenceWith()))).toEqual([
      'scan: clean, whole frames',
      'motion: no repeats, no repeats',
      'picture: full, full detail',
    ])
    const unknown = evidenceWith({
      combing: { verdict: 'cannot-tell', share: 0, confidence: 0 },
      repeats: { ...film.repeats, verdict: 'cannot-tell' },
      detail: { verdict: 'cannot-tell', width: null, height: null, confidence: 0 },
    })
    expect(says(withEvidence(clip('1920x1080@25p'), unknown))).toEqual([
      'scan: cannot tell, scan ?',
      'motion: cannot tell, repeats ?',
      'picture: cannot tell, detail ?',
    ])
  })

  it('with figures in a sentence', () => {
    const rich = evidenceWith({
      ...combedEvidence('bottom-first'),
      repeats: { ...film.repeats, trueRate: rational(24000, 1001) },
      pulldown: { pattern: '2:3', phase: 2 },
      detail: { verdict: 'enlarged', width: 1280, height: 720, confidence: 0.9 },
      bars: { top: 0, bottom: 0, left: 240, right: 238, confidence: 0.9 },
      mixed: [
        { about: 'field order', first: 0, says: 'progressive' },
        { about: 'field order', first: 500, says: 'top-first' },
      ],
    })
    expect(measuredOf(withEvidence(clip('1920x1080@29.97i'), rich)).map(({ says }) => says)).toEqual([
      'two moments in each frame, bottom field first; 100 % of the frames seen comb',
      '2:3 pulldown, 23.976 new frames a second',
      'no more than 1280×720 in it',
      'bars of 240 · 238 px left and right',
      'mixed: field order progressive from frame 0, field order top first from frame 500',
    ])
    const uneven = evidenceWith({ repeats: { ...film.repeats, verdict: 'irregular', trueRate: null } })
    expect(measuredOf(withEvidence(clip('1920x1080@60p'), uneven))[1]!.says).toBe(
      'frames repeat without a pattern',
    )
  })

  it('and how sure that is', () => expect(sureWords(0.976)).toBe('confidence 0.98'))
})

describe('film in pulldown', () => {
  const dub = withEvidence(clip('1920x1080@29.97p'), {
    ...combedEvidence('top-first'),
    repeats: { ...film.repeats, holds: null, trueRate: { num: 24000, den: 1001 } },
    pulldown: { pattern: '2:3', phase: 1 },
  })

  it('is offered to be taken out, and explains what combs', () => {
    const found = contradictionsOf(dub)
    expect(found.map(({ about, action }) => [about, action])).toEqual([
      ['pulldown', 'Remove pulldown, 23.976'],
    ])
    expect(contradictionsOf(corrected(dub, found[0]!.change))).toEqual([])
  })
})

describe('what follows from a correction', () => {
  it('is told before: for the clip, and for what it pays in formats', () => {
    const print = withEvidence(clip('1920x1080@60p'), film)
    const [found] = contradictionsOf(print)
    const formats = ['1920x1080@24p'].map((text) => parseFormat(text)!.format)
    expect(outcomeOf(print, found!.change, formats, defaultWeights)).toEqual([
      'Each frame is taken once: 24 true frames a second.',
      'In 1920×1080 · 24p its toll goes from heavy to free.',
    ])
    const dub = withEvidence(clip('1920x1080@25p'), combedEvidence('top-first'))
    const hd = parseFormat('1920x1080@25p')!.format
    expect(outcomeOf(dub, contradictionsOf(dub)[0]!.change, [hd], defaultWeights)).toContain(
      'In 1920×1080 · 25p its toll goes from severe to light.',
    )
  })
})
