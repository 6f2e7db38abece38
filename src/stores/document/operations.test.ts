import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import * as arranging from '../../core/edit/arranging'
import { change } from '../../core/edit/change'
import * as correction from '../../core/edit/correction'
import { cuts, docOf } from '../../core/edit/cut.fixture'
import { acts, diceOf, operationsDrawn, textOf } from '../../core/laws/history.fixture'
import * as operations from '../../core/edit/operations'
import * as parts from '../../core/edit/parts'
import * as placing from '../../core/edit/placing'
import type { Doc } from '../../core/model/project'
import * as replacing from '../../core/edit/replacing'
import * as restoring from '../../core/edit/restoring'
import * as delivering from '../../core/edit/delivering'
import * as settings from '../../core/edit/settings'
import * as nesting from '../../core/edit/nesting'
import * as rereading from '../../core/edit/rereading'
import { nonsenseOf } from '../../core/model/integrity'
import * as treating from '../../core/edit/treating'
import * as trimming from '../../core/edit/trimming'
import { useDocument } from './document'

/** Exports that look at a document and change nothing, or make parts of it. */
const elsewhere = new Set([
  'retime',
  'learnEvidence',
  'learnFrameTimes',
  'readClipsAgain',
  'resettle',
  'shorten',
  'behind',
  'framesThere',
  'listTimeline',
])

describe('every operation', () => {
  it('is drawn here', () => {
    const modules = {
      ...placing,
      ...operations,
      ...arranging,
      ...trimming,
      ...treating,
      ...correction,
      ...parts,
      ...replacing,
      ...restoring,
      ...delivering,
      ...settings,
      ...nesting,
      ...rereading,
    }
    // Whatever changes a document in place gives nothing, or tells what it did, and is called with a draft first.
    const known = Object.entries(modules).flatMap(([name, value]) =>
      typeof value === 'function' && /^(function\s*\w*)?\s*\(\s*doc\b/.test(value.toString()) ? [name] : [],
    )
    const looks = ['correctedPlacements', 'timesPlaced', 'timelineIn', 'replacement', 'canHold', 'unnested']
    expect(
      known.filter((name) => !operationsDrawn[name] && !elsewhere.has(name) && !looks.includes(name)),
    ).toEqual([])
    expect(known.length).toBeGreaterThan(25)
  })

  it('is undone to the first step and done again to the last, to the identical document', () => {
    fc.assert(
      fc.property(cuts, acts(25), (cut, drawn) => {
        const begin = docOf(cut) as Doc
        let n = 0
        const id = () => `n${++n}`
        const history = useDocument<Doc>({
          save: async () => {},
          change: (doc, recipe) => change(doc, recipe, id),
        })
        history.show(begin)
        const states: string[] = [textOf(begin)]
        for (const drawnAct of drawn) {
          const { act } = drawnAct
          const dice = diceOf(drawnAct, id, begin)
          const before = history.position.value
          if (
            Object.keys(history.doc.value!.clips).length < 2 &&
            (act === 'takeOut' || act === 'replaceClip')
          )
            continue
          history.edit(act, (doc) => void operationsDrawn[act]!(doc, dice))
          expect(nonsenseOf(history.doc.value!), act).toBeNull()
          if (history.position.value > before) states.push(textOf(history.doc.value))
        }
        const last = history.position.value
        history.goTo(0)
        expect(textOf(history.doc.value) === states[0]).toBe(true)
        history.goTo(last)
        expect(textOf(history.doc.value) === states.at(-1)).toBe(true)
        // And any step in between.
        const middle = Math.floor(last / 2)
        expect(textOf(history.docAt(middle)) === states[middle]).toBe(true)
        history.goTo(middle)
        expect(textOf(history.doc.value) === states[middle]).toBe(true)
      }),
      { numRuns: 150 },
    )
  })
})
