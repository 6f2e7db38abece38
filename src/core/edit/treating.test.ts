import { describe, expect, it } from 'vitest'
import { parseFormat } from '../format/parse'
import { rational } from '../rational/rational'
import { aDoc, aVideo } from '../model/doc.fixture'
import { addTimeline, setProjectFormat } from './operations'
import { append, newTimeline, placementOf } from './placing'
import { settlePlacement } from '../plan/running'
import { treat, untreat } from './treating'

const hd25 = parseFormat('1920x1080@25p')!.format

function cut() {
  const doc = aDoc([aVideo('bell', '1920x1080@50p', 4), aVideo('tape', '1920x1080@50i', 4)])
  setProjectFormat(doc, { at: '', setBy: 'typed', format: hd25, reason: '' })
  addTimeline(doc, newTimeline('t', 'Main cut', ''))
  append(
    doc,
    't',
    ['bell', 'tape'].map((id) => placementOf(doc.clips[id]!, hd25, id)),
  )
  const own = (id: string) => doc.timelines.t!.tracks[0]!.placements.find((p) => p.id === id)!
  return { doc, own }
}

describe('treating placements', () => {
  it('sets what is told and leaves the rest, framing fact by fact', () => {
    const { doc, own } = cut()
    treat(doc, 't', ['bell'], { framing: { zoom: rational(2) } })
    treat(doc, 't', ['bell', 'tape'], { motion: { kind: 'blend' }, framing: { filter: 'bicubic' } })
    expect(own('bell').treatment).toEqual({
      motion: { kind: 'blend' },
      framing: { zoom: rational(2), filter: 'bicubic' },
    })
    expect(own('tape').treatment).toEqual({ motion: { kind: 'blend' }, framing: { filter: 'bicubic' } })
    const settled = settlePlacement(doc, doc.timelines.t!, own('bell'), hd25)
    expect(settled.treatment).toMatchObject({ motion: { kind: 'blend' }, fields: { kind: 'auto' } })
  })

  it('stores only what is set, and takes all of it back', () => {
    const { doc, own } = cut()
    treat(doc, 't', ['tape'], { fields: { kind: 'weave' } })
    expect(own('tape').treatment).toEqual({ fields: { kind: 'weave' } })
    expect(own('bell').treatment).toEqual({})
    untreat(doc, 't', ['tape'])
    expect(own('tape').treatment).toEqual({})
  })
})
