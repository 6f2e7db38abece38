import { describe, expect, it } from 'vitest'
import { aDoc, aStill, aVideo } from '../edit/doc.fixture'
import { addTimeline, setProjectFormat } from '../edit/operations'
import { append, newTimeline, placementOf } from '../edit/placing'
import { treat } from '../edit/treating'
import { parseFormat } from '../format/parse'
import { proposalOf, proposalsOf } from './better'
import { checkTimeline } from './check'

const hd25 = parseFormat('1920x1080@25p')!.format

function cut() {
  const doc = aDoc([aVideo('bell', '1920x1080@50p', 4), aVideo('tape', '1920x1080@50i', 4), aStill('card')])
  setProjectFormat(doc, { at: '', setBy: 'typed', format: hd25, reason: '' })
  addTimeline(doc, newTimeline('t', 'Main cut', ''))
  const placements = ['bell', 'tape', 'card'].map((id) => placementOf(doc.clips[id]!, hd25, id))
  append(doc, 't', placements)
  return doc
}

describe('what a timeline would lose less by', () => {
  it('is nothing where nobody has treated anything', () => {
    const doc = cut()
    expect(proposalsOf(doc, doc.timelines.t!)).toEqual([])
  })

  it('is told of each that is treated worse, and what the check finds once it is taken', () => {
    const doc = cut()
    treat(doc, 't', ['bell', 'card'], { motion: { kind: 'blend' } })
    treat(doc, 't', ['tape'], { fields: { kind: 'weave' } })
    const before = checkTimeline(doc, doc.timelines.t!)!
    const proposals = proposalsOf(doc, doc.timelines.t!)
    expect(proposals.map(({ placement }) => placement.id)).toEqual(['bell', 'tape'])
    for (const { placement, now } of proposals)
      expect(now.toll).toEqual(before.findings.find((found) => found.placement.id === placement.id)!.toll)
    for (const { placement, set } of proposals) treat(doc, 't', [placement.id], set)
    const after = checkTimeline(doc, doc.timelines.t!)!
    for (const { placement, toll } of proposals)
      expect(after.findings.find((found) => found.placement.id === placement.id)!.toll).toEqual(toll)
    expect(proposalsOf(doc, doc.timelines.t!)).toEqual([])
  })

  it('is nothing while there is no format', () => {
    const doc = aDoc([aVideo('bell', '1920x1080@50p', 4)])
    addTimeline(doc, newTimeline('t', 'Main cut', ''))
    expect(
      proposalOf(doc, doc.timelines.t!, { ...placementOf(doc.clips.bell!, hd25, 'p'), start: 0 }),
    ).toBeNull()
  })
})
