import { describe, expect, it } from 'vitest'
import { aDoc, aStill, aVideo } from '../model/doc.fixture'
import { addTimeline, setProjectFormat } from '../edit/operations'
import { append, newTimeline, placementOf } from '../edit/placing'
import {
  acceptFindings,
  commonCondition,
  moveRule,
  removeRule,
  setDefaults,
  setRule,
  treat,
  untreat,
} from '../edit/treating'
import { pictureOfPlacement } from '../plan/running'
import { placementsIn } from '../model/timeline'
import { parseFormat } from '../format/parse'
import { rational } from '../rational/rational'
import { conditionWords, overrideWords } from '../treatment/words'
import { checkTimeline } from './check'
import { choicesOf } from './choices'
import { findingGroups } from './findings'
import { take } from './proposals'

const hd25 = parseFormat('1920x1080@25p')!.format

function cut() {
  const doc = aDoc([
    aVideo('hall', '1920x1080@25p', 4),
    aVideo('tape', '1440x1080/4:3@50i', 4),
    aVideo('visitor', '1920x1080@30p', 4),
    aVideo('wide', '2704x1520@25p', 4),
    aStill('card'),
  ])
  setProjectFormat(doc, { at: '', setBy: 'typed', format: hd25, reason: '' })
  addTimeline(doc, newTimeline('t', 'Main cut', ''))
  append(
    doc,
    't',
    ['hall', 'tape', 'visitor', 'wide', 'card'].map((id) => placementOf(doc.clips[id]!, hd25, id)),
  )
  return doc
}
const standingsOfClips = (doc: ReturnType<typeof cut>, ...ids: string[]) =>
  placementsIn(doc.timelines.t!).filter(({ id }) => ids.includes(id))
const choice = (doc: ReturnType<typeof cut>, id: string, ...ids: string[]) =>
  choicesOf(doc, doc.timelines.t!, standingsOfClips(doc, ...ids)).find((choice) => choice.id === id)

describe('what can be chosen for a placement', () => {
  it('says what each does and costs, and which is taken', () => {
    const doc = cut()
    expect(choice(doc, 'framing fit', 'tape')).toMatchObject({ does: 'whole', taken: 'all' })
    expect(choice(doc, 'framing one-to-one', 'card')).toMatchObject({ does: 'bars 56 %', taken: 'none' })
    expect(choice(doc, 'framing fill', 'wide')).toMatchObject({ does: 'cuts 0.07 %' })
    expect(choice(doc, 'framing stretch', 'wide')!.does).toMatch(/^distorts/)
    expect(choice(doc, 'fields weave', 'tape')).toMatchObject({ price: { grade: 'severe', loss: 0.6 } })
    expect(choice(doc, 'fields adaptive same', 'tape')!.price.loss).toBeCloseTo(1 - 0.92 * 0.96, 12)
    expect(choice(doc, 'motion every-frame', 'visitor')!.does).toBe('at 83 % speed, × 1.2 long')
    expect(choice(doc, 'kept', 'wide')!.does).toBe('sharp to a zoom of 141 %')
  })

  it('leaves out what makes no sense there', () => {
    const doc = cut()
    expect(choice(doc, 'fields weave', 'hall')).toBeUndefined()
    expect(choice(doc, 'motion every-frame', 'hall')).toBeUndefined()
    expect(choice(doc, 'motion hold', 'card')).toBeUndefined()
    expect(choice(doc, 'baked', 'hall')).toBeUndefined()
    expect(choice(doc, 'colour matrix', 'hall')).toBeUndefined()
    expect(choicesOf(doc, doc.timelines.t!, [])).toEqual([])
  })

  it('costs what the check then finds, whichever is taken', () => {
    for (const id of ['tape', 'visitor', 'wide', 'card'])
      for (const offered of choicesOf(cut(), cut().timelines.t!, standingsOfClips(cut(), id))) {
        const doc = cut()
        treat(doc, 't', [id], offered.set)
        const { toll } = checkTimeline(doc, doc.timelines.t!)!.findings.find(
          ({ placement }) => placement.id === id,
        )!
        expect(toll.loss, offered.id).toBeCloseTo(offered.whole.loss, 12)
        expect([offered.id, toll.grade]).toEqual([offered.id, offered.whole.grade])
        expect(choice(doc, offered.id, id)!.taken).toBe('all')
      }
  })

  it('of several tells what some of them have', () => {
    const doc = cut()
    treat(doc, 't', ['wide'], { framing: { mode: { kind: 'fill' } } })
    expect(choice(doc, 'framing fill', 'wide', 'card')!.taken).toBe('some')
    expect(choice(doc, 'framing fit', 'wide', 'card')!.taken).toBe('some')
    treat(doc, 't', ['wide', 'card'], choice(doc, 'framing stretch', 'wide', 'card')!.set)
    expect(choice(doc, 'framing stretch', 'wide', 'card')!.taken).toBe('all')
  })
})

describe('what happens on a timeline', () => {
  const groups = (doc: ReturnType<typeof cut>) =>
    findingGroups(doc, doc.timelines.t!, checkTimeline(doc, doc.timelines.t!)!)

  it('is grouped by kind, the worst first, each with what would help', () => {
    const doc = cut()
    treat(doc, 't', ['tape'], { fields: { kind: 'weave' } })
    const found = groups(doc)
    expect(
      found
        .map(({ kind }) => kind)
        .slice(0, 2)
        .sort(),
    ).toEqual(['uneven', 'weave'])
    const woven = found.find(({ kind }) => kind === 'weave')!
    expect(woven).toMatchObject({ title: '1 woven', grade: 'severe', frames: 100, accepted: null })
    // An editor has woven it: that stays, and what loses less stands beside it.
    expect(woven.cure).toBeNull()
    expect(woven.less!.does).toMatch(/fields as costs least|adaptive/)
    expect(woven.less!.becomes.severe[1]).toBe(woven.less!.becomes.severe[0] - 1)
    expect(found.find(({ kind }) => kind === 'hairline')!.cure!.does).toBe('fill')
    expect(found.some(({ kind }) => kind === 'bars')).toBe(false)
  })

  it('offers against a kind only what helps against it', () => {
    const doc = aDoc([aVideo('both', '2048x1080@30p', 4)])
    setProjectFormat(doc, { at: '', setBy: 'typed', format: hd25, reason: '' })
    addTimeline(doc, newTimeline('t', 'Main cut', ''))
    append(doc, 't', [placementOf(doc.clips.both!, hd25, 'both')])
    const found = groups(doc).map(({ kind, cure, less }) => [kind, cure?.does, less?.does])
    // Nobody mixes as a matter of course; that it loses less is told.
    expect(found).toContainEqual(['uneven', undefined, expect.stringContaining('blend')])
    expect(found.filter(([kind]) => kind !== 'uneven').map(([, , does]) => does)).not.toContain('blend')
  })

  it('becomes what its cure says', () => {
    const doc = cut()
    const before = checkTimeline(doc, doc.timelines.t!)!
    const helps = groups(doc).flatMap(({ cure, less }) => [cure, less].filter((cure) => cure !== null))
    expect(helps.length).toBeGreaterThan(2)
    for (const { treats, becomes } of helps) {
      const after = cut()
      take(after, 't', treats)
      const check = checkTimeline(after, after.timelines.t!)!
      expect(becomes.untouched).toEqual([before.untouchedShare, check.untouchedShare])
      expect(becomes.severe[1]).toBe(check.countByGrade.severe)
      expect(becomes.loss[1]).toBeLessThan(becomes.loss[0])
    }
  })

  it('is accepted with a word, stands last so, and is open again without', () => {
    const doc = cut()
    acceptFindings(doc, 't', ['visitor'], { charge: 'uneven', word: 'it is the archive’s own', at: '' })
    const accepted = groups(doc).at(-1)!
    expect(accepted).toMatchObject({ kind: 'uneven', accepted: 'it is the archive’s own' })
    acceptFindings(doc, 't', ['visitor'], { charge: 'uneven', word: null, at: '' })
    expect(groups(doc).every((group) => group.accepted === null)).toBe(true)
  })
})

describe('defaults, rules and what is a placement’s own', () => {
  it('go over each other in this order, and are taken back part by part', () => {
    const doc = cut()
    const taken = (group: string) =>
      choicesOf(doc, doc.timelines.t!, standingsOfClips(doc, 'tape')).filter(
        (choice) => choice.group === group && choice.taken === 'all',
      )
    setDefaults(doc, 't', { framing: { filter: 'bicubic', mode: { kind: 'fill' } } })
    expect(taken('quality').map(({ id }) => id)).toEqual(['bicubic'])
    const when = commonCondition([pictureOfPlacement(doc, standingsOfClips(doc, 'tape')[0]!)!])
    expect(conditionWords(when)).toBe('every 1440×1080 (4:3) 50i clip of standard range')
    const double = { kind: 'deinterlace', method: 'interpolate', rate: { kind: 'double' } } as const
    setRule(doc, 't', { id: 'r1', when, set: { fields: double }, on: true })
    setRule(doc, 't', { id: 'r2', when: {}, set: { framing: { filter: 'nearest' } }, on: true })
    expect(taken('fields').map(({ id }) => id)).toEqual(['fields interpolate double'])
    expect(taken('quality').map(({ id }) => id)).toEqual(['nearest'])
    setRule(doc, 't', { id: 'r3', when: {}, set: { framing: { filter: 'bilinear' } }, on: true })
    expect(taken('quality').map(({ id }) => id)).toEqual(['bilinear'])
    moveRule(doc, 't', 'r3', -2)
    expect(doc.timelines.t!.rules.map(({ id }) => id)).toEqual(['r3', 'r1', 'r2'])
    expect(taken('quality').map(({ id }) => id)).toEqual(['nearest'])
    setRule(doc, 't', { ...doc.timelines.t!.rules[2]!, on: false })
    removeRule(doc, 't', 'r3')
    expect(taken('quality').map(({ id }) => id)).toEqual(['bicubic'])
    treat(doc, 't', ['tape'], {
      framing: { filter: 'lanczos', zoom: rational(2) },
      fields: { kind: 'weave' },
    })
    untreat(doc, 't', ['tape'], ['fields', 'framing.zoom'])
    expect(standingsOfClips(doc, 'tape')[0]!.treatment).toEqual({ framing: { filter: 'lanczos' } })
    untreat(doc, 't', ['tape'])
    expect(standingsOfClips(doc, 'tape')[0]!.treatment).toEqual({})
  })

  it('say what they set', () => {
    expect(overrideWords({})).toBe('nothing')
    const double = { kind: 'deinterlace', method: 'interpolate', rate: { kind: 'double' } } as const
    expect(overrideWords({ fields: double, framing: { mode: { kind: 'fill' } } })).toBe(
      'interpolate, double rate; fill',
    )
    expect(
      overrideWords({
        motion: {
          kind: 'speed',
          pace: { kind: 'factor', factor: rational(1, 2) },
          wanted: true,
          keepPitch: false,
        },
        framing: {
          zoom: rational(3, 2),
          crop: { left: 4, right: 0, top: 0.5, bottom: 0 },
          sharpen: { amount: 0.4, radius: 1.2 },
        },
        colour: 'hdr-to-sdr',
      }),
    ).toBe('50 % speed, wanted; zoom 150 %; crop 4, 0, 0.5, 0; sharpened 0.4 at 1.2 px; colour: hdr to sdr')
    const pictures = ['hall', 'visitor'].map((id) =>
      pictureOfPlacement(cut(), standingsOfClips(cut(), id)[0]!)!,
    )
    expect(conditionWords(commonCondition(pictures))).toBe(
      'every 1920×1080 progressive clip of standard range',
    )
    expect(conditionWords({})).toBe('every clip')
  })
})
