import fc from 'fast-check'
import { putAtEnd } from '../edit/arranging'
import { change } from '../edit/change'
import type { Clip } from '../model/clip'
import { counting } from '../edit/cut.fixture'
import { addTimeline, setProjectFormat } from '../edit/operations'
import { newTimeline, placedClip } from '../edit/placing'
import type { Doc } from '../model/project'
import { parseFormat } from '../format/parse'
import { type Act, diceOf, operationsDrawn } from './history.fixture'
import { everyKind } from './kinds.fixture'

const formats = ['1920x1080@25p', '1920x1080@24p', '1920x1080@50i', '1920x1080@59.94i', '1920x1080@50p']

/** A cut of some of every kind, each with its sound, of which parts are placed. */
export const begun = fc.record({
  format: fc.constantFrom(...formats),
  placed: fc.array(
    fc.record({ clip: fc.nat(20), from: fc.nat(40), count: fc.integer({ min: 1, max: 90 }) }),
    {
      minLength: 1,
      maxLength: 6,
    },
  ),
})
export function docThrough({ format, placed }: typeof begun extends fc.Arbitrary<infer T> ? T : never): Doc {
  const doc = everyKind()
  const newId = counting()
  const { format: own } = parseFormat(format)!
  setProjectFormat(doc, { at: '', setBy: 'typed', format: own, reason: '' })
  addTimeline(doc, newTimeline('t', 'Main cut', ''))
  const clips = Object.values(doc.clips) as Clip[]
  for (const { clip, from, count } of placed) {
    const ids = [newId(), newId(), newId()].map((id) => `first-${id}`) as [string, string, string]
    putAtEnd(doc, 't', placedClip(clips[clip % clips.length]!, own, { from, to: from + count }, ids), newId)
  }
  return doc
}

/** Goes through a history, and looks at what each step leaves. */
export function through(
  start: Doc,
  drawn: readonly Act[],
  look: (doc: Doc, act: string, before: Doc) => void,
): Doc {
  let n = 0
  const id = () => `n${++n}`
  let doc = start
  for (const act of drawn) {
    const dice = diceOf(act, id, start)
    const before = doc
    const changed = change(doc, (draft) => void operationsDrawn[act.act]!(draft, dice), id)
    if (!changed.ok) continue
    doc = changed.doc
    look(doc, act.act, before)
  }
  return doc
}
