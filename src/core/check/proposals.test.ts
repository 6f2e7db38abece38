import { describe, expect, it } from 'vitest'
import { withEvidence } from '../edit/correction'
import { aDoc, aStill, aVideo } from '../model/doc.fixture'
import { addTimeline, setProjectFormat } from '../edit/operations'
import { append, newTimeline, placementOf } from '../edit/placing'
import { placementsIn } from '../model/timeline'
import { setRule, treat } from '../edit/treating'
import type { Evidence } from '../evidence/evidence'
import { evidenceWith } from '../evidence/evidence.fixture'
import { parseFormat } from '../format/parse'
import { checkTimeline } from './check'
import { proposalGroups, proposalsOf, take } from './proposals'

const hd25 = parseFormat('1920x1080@25p')!.format

/** A cut of videos by name and format, and a still, in HD at 25. */
function cut(
  videos: Readonly<Record<string, string>>,
  evidence: Readonly<Record<string, Partial<Evidence>>> = {},
) {
  const doc = aDoc([
    ...Object.entries(videos).map(([name, format]) => aVideo(name, format, 4)),
    aStill('card'),
  ])
  for (const [name, seen] of Object.entries(evidence))
    doc.clips[name] = withEvidence(doc.clips[name] as never, evidenceWith(seen)) as never
  setProjectFormat(doc, { at: '', setBy: 'typed', format: hd25, reason: '' })
  addTimeline(doc, newTimeline('t', 'Main cut', ''))
  append(
    doc,
    't',
    [...Object.keys(videos), 'card'].map((name) => placementOf(doc.clips[name] as never, hd25, name)),
  )
  return doc
}
const offered = (doc: ReturnType<typeof cut>) =>
  Object.fromEntries(
    proposalsOf(doc, doc.timelines.t!).map(({ placement, first, less }) => [
      placement.id,
      [first?.reason ?? null, less && less.set],
    ]),
  )
const tollsOf = (doc: ReturnType<typeof cut>) =>
  Object.fromEntries(
    checkTimeline(doc, doc.timelines.t!)!.findings.map(({ placement, toll }) => [placement.id, toll]),
  )

const film = {
  trueRate: { num: 24, den: 1 },
  verdict: 'pattern',
  pattern: '2:3',
  holds: [2, 3],
  phase: 0,
  confidence: 0.9,
} as const

describe('what is proposed for the clips of a timeline', () => {
  it('is what an editor does as a matter of course, with its reason; what loses less stands beside it', () => {
    const doc = cut({
      hall: '1920x1080@25p',
      bell: '1920x1080@24p',
      roof: '1920x1080@29.97p',
      tape: '1920x1080@50i',
    })
    const { hall, bell, roof, tape } = offered(doc)
    expect([hall, tape]).toEqual([undefined, undefined])
    expect(bell![0]).toBe('24 in 25: every frame once, 4.2 % faster, sound with it, pitch kept')
    expect(roof).toEqual([null, { motion: { kind: 'blend' } }])
  })

  it('leaves alone what an editor has set, by itself or by a rule', () => {
    const doc = cut({ bell: '1920x1080@24p', ring: '1920x1080@24p' })
    treat(doc, 't', ['bell'], { motion: { kind: 'hold' } })
    const usual = () => ['bell', 'ring'].filter((name) => offered(doc)[name]?.[0])
    expect(usual()).toEqual(['ring'])
    setRule(doc, 't', { id: 'r', when: {}, set: { motion: { kind: 'hold' } }, on: true })
    expect(usual()).toEqual([])
  })

  it('takes what was measured for true, and pays then what it said', () => {
    const bars = { top: 140, bottom: 140, left: 0, right: 0, confidence: 0.9 }
    const doc = cut(
      { reel: '1920x1080@60p', dub: '1920x1080@59.94i', box: '1440x1090@25p', whole: '1920x1080@50i' },
      {
        reel: { repeats: film },
        dub: {
          repeats: { ...film, holds: null, trueRate: { num: 24000, den: 1001 } },
          pulldown: { pattern: '2:3', phase: 2 },
        },
        box: { bars },
        whole: { fieldOrder: { verdict: 'progressive', confidence: 0.9 } },
      },
    )
    const before = offered(doc)
    expect(before.reel![0]).toMatch(
      /^60 in 25: only 24 frames a second are new, each taken once, every frame once, 4\.2 % faster/,
    )
    expect(before.dub![0]).toMatch(
      /^59\.94i in 25: 2:3 pulldown measured, taken out, every frame once, 4\.3 % faster/,
    )
    expect(before.box![0]).toMatch(/baked bars cropped away, 1440×810 fills the frame/)
    expect(before.whole![0]).toBe('50i in 25: both fields are of one moment, frames taken whole')
    const groups = proposalGroups(doc, doc.timelines.t!)
    expect(groups.map(({ taken }) => taken.length)).toEqual([1, 1, 1, 1, 1])
    const promised = Object.fromEntries(
      proposalsOf(doc, doc.timelines.t!).map(({ placement, first }) => [placement.id, first?.toll]),
    )
    take(
      doc,
      't',
      groups.flatMap(({ taken }) => taken),
    )
    expect(tollsOf(doc)).toMatchObject(promised)
    expect(Object.values(offered(doc)).filter(([reason]) => reason)).toEqual([])
    expect(doc.clips.dub!.corrections).toEqual({ pulldownOut: 2 })
    expect(placementsIn(doc.timelines.t!)).toHaveLength(5)
  })

  it('is nothing while there is no format', () => {
    const doc = aDoc([aVideo('bell', '1920x1080@50p', 4)])
    addTimeline(doc, newTimeline('t', 'Main cut', ''))
    expect(proposalsOf(doc, doc.timelines.t!)).toEqual([])
  })
})
