import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import * as arranging from '../core/edit/arranging'
import * as carrying from '../core/edit/carrying'
import type { Clip } from '../core/edit/clip'
import * as correction from '../core/edit/correction'
import { clipFormats, cuts, docOf, treatments } from '../core/edit/cut.fixture'
import { aStill, aVideo } from '../core/edit/doc.fixture'
import type { Draft } from '../core/edit/draft'
import * as nesting from '../core/edit/nesting'
import * as operations from '../core/edit/operations'
import * as parts from '../core/edit/parts'
import * as placing from '../core/edit/placing'
import { type Doc, formatOf } from '../core/edit/project'
import * as replacing from '../core/edit/replacing'
import * as restoring from '../core/edit/restoring'
import { nonsenseOf } from '../core/edit/sense'
import { type Timeline, placementsIn } from '../core/edit/timeline'
import * as treating from '../core/edit/treating'
import * as trimming from '../core/edit/trimming'
import { parseFormat } from '../core/format/parse'
import { rational } from '../core/rational/rational'
import { useHistory } from './history'

type D = Draft<Doc>
/** What a drawn number chooses among. */
interface Dice {
  of<T>(some: readonly T[]): T
  number(below: number): number
  readonly id: () => string
  readonly treatment: typeof treatments extends fc.Arbitrary<infer T> ? T : never
  readonly point: Doc
}
const format = (text: string) => parseFormat(text)!.format
const formats = [
  '1920x1080@25p',
  '3840x2160@24p',
  '1080x1920@25p',
  '1920x1080@50i',
  '1440x1080/4:3@29.97p',
].map(format)

/** Every operation that there is on a document, done as a dice says. */
const all: Record<string, (doc: D, dice: Dice) => unknown> = {
  takeIn: (doc, dice) =>
    operations.takeIn(doc, [
      dice.of([aStill(dice.id()), aVideo(dice.of(['c0', dice.id()]), dice.of(clipFormats), 30)]),
    ]),
  takeOut: (doc, dice) => operations.takeOut(doc, [dice.of(Object.keys(doc.clips))], dice.number(2) > 0),
  removePlacements: (doc, dice) =>
    operations.removePlacements(doc, some(doc, dice).id, [one(doc, dice)], dice.number(2) > 0),
  setProjectFormat: (doc, dice) =>
    operations.setProjectFormat(doc, { at: '', setBy: 'typed', format: dice.of(formats), reason: '' }),
  setTimelineFormat: (doc, dice) =>
    operations.setTimelineFormat(
      doc,
      some(doc, dice).id,
      dice.of([...formats, ...(doc.project.format ? [null] : [])]),
      null,
      {
        all: dice.of(['keep', 'anew', 'fill-shape', 'as-before'] as const),
      },
    ),
  addTimeline: (doc, dice) =>
    operations.addTimeline(doc, placing.newTimeline(dice.id(), 'More', '', dice.of(formats))),
  removeTimeline: (doc, dice) =>
    Object.keys(doc.timelines).length > 1 &&
    operations.removeTimeline(doc, some(doc, dice).id, dice.number(2) > 0),
  renameTimeline: (doc, dice) => operations.renameTimeline(doc, some(doc, dice).id, dice.id()),
  append: (doc, dice) => placing.append(doc, some(doc, dice).id, [clip(doc, dice)]),
  movePlacement: (doc, dice) =>
    placing.movePlacement(doc, some(doc, dice).id, one(doc, dice), dice.number(5)),
  cutAt: (doc, dice) => {
    const timeline = some(doc, dice)
    const ids = placementsIn(timeline as Timeline).map(({ id }) => id)
    placing.cutAt(doc, timeline.id, ids, dice.number(200), ids.map(dice.id))
  },
  addTrack: (doc, dice) =>
    arranging.addTrack(doc, some(doc, dice).id, dice.of(['video', 'audio'] as const), dice.id),
  removeTrack: (doc, dice) => {
    const timeline = some(doc, dice)
    if (timeline.tracks.length > 2) arranging.removeTrack(doc, timeline.id, dice.of(timeline.tracks).id)
  },
  changeTrack: (doc, dice) => {
    const timeline = some(doc, dice)
    arranging.changeTrack(doc, timeline.id, dice.of(timeline.tracks).id, {
      hidden: dice.number(2) > 0,
      locked: dice.number(5) > 3,
    })
  },
  changeTimeline: (doc, dice) =>
    arranging.changeTimeline(doc, some(doc, dice).id, { soundLayout: dice.of(['mono', 'stereo'] as const) }),
  putAt: (doc, dice) =>
    arranging.putAt(
      doc,
      some(doc, dice).id,
      wanted(doc, dice),
      dice.number(150),
      dice.of(['insert', 'over'] as const),
      dice.id,
    ),
  putAtEnd: (doc, dice) => arranging.putAtEnd(doc, some(doc, dice).id, wanted(doc, dice), dice.id),
  putAbove: (doc, dice) =>
    arranging.putAbove(doc, some(doc, dice).id, wanted(doc, dice), dice.number(150), dice.id),
  movePlacements: (doc, dice) =>
    arranging.movePlacements(
      doc,
      some(doc, dice).id,
      new Set([one(doc, dice)]),
      dice.number(40) - 20,
      dice.number(3) - 1,
      dice.id,
    ),
  closeGaps: (doc, dice) => arranging.closeGaps(doc, some(doc, dice).id, null),
  pairUp: (doc, dice) =>
    arranging.pairUp(
      doc,
      some(doc, dice).id,
      new Set([one(doc, dice), one(doc, dice)]),
      dice.of([null, dice.id()]),
    ),
  changeSound: (doc, dice) =>
    arranging.changeSound(doc, some(doc, dice).id, new Set([one(doc, dice)]), { gain: dice.number(10) }),
  treatLike: (doc, dice) =>
    arranging.treatLike(doc, some(doc, dice).id, new Set([one(doc, dice)]), dice.treatment),
  trimStart: (doc, dice) =>
    trimming.trimStart(
      doc,
      some(doc, dice).id,
      one(doc, dice),
      dice.number(9) - 4,
      dice.of(['stays', 'moves'] as const),
    ),
  trimEnd: (doc, dice) =>
    trimming.trimEnd(
      doc,
      some(doc, dice).id,
      one(doc, dice),
      dice.number(9) - 4,
      dice.of(['stays', 'moves'] as const),
    ),
  lengthen: (doc, dice) => trimming.lengthen(doc, some(doc, dice).id, one(doc, dice), 1 + dice.number(90)),
  slip: (doc, dice) => trimming.slip(doc, some(doc, dice).id, one(doc, dice), dice.number(9) - 4),
  treat: (doc, dice) => treating.treat(doc, some(doc, dice).id, [one(doc, dice)], dice.treatment),
  untreat: (doc, dice) =>
    treating.untreat(
      doc,
      some(doc, dice).id,
      [one(doc, dice)],
      dice.of([null, ['motion', 'framing.zoom'] as const]),
    ),
  setDefaults: (doc, dice) => treating.setDefaults(doc, some(doc, dice).id, dice.treatment),
  clearDefaults: (doc, dice) => treating.clearDefaults(doc, some(doc, dice).id),
  setRule: (doc, dice) =>
    treating.setRule(doc, some(doc, dice).id, {
      id: dice.of(['r1', 'r2', 'r3']),
      on: true,
      when: { rate: rational(25) },
      set: dice.treatment,
    }),
  removeRule: (doc, dice) => treating.removeRule(doc, some(doc, dice).id, 'r1'),
  moveRule: (doc, dice) => treating.moveRule(doc, some(doc, dice).id, 'r2', dice.of([-1, 1])),
  acceptFindings: (doc, dice) =>
    treating.acceptFindings(
      doc,
      some(doc, dice).id,
      [one(doc, dice)],
      'reduce',
      dice.of([null, 'meant']),
      '',
    ),
  correct: (doc, dice) =>
    correction.correct(
      doc,
      [dice.of(Object.keys(doc.clips))],
      dice.of([{ rate: rational(24) }, { rotation: 90 }, { rate: null }, { scan: 'interlaced' as const }]),
    ),
  takeCarried: (doc, dice) => {
    const [d, t] = [doc as Doc, some(doc, dice) as Timeline]
    if (!t.rate || !formatOf(d, t)) return
    const wish = { format: dice.of(formats), origin: null, keepPitch: true }
    const making = { name: dice.id(), at: '', newId: dice.id }
    carrying.takeCarried(
      doc,
      dice.of([
        () => carrying.recut(d, t, wish, null),
        () => carrying.recut(d, t, wish, making),
        () => carrying.nested(d, t, wish, making),
        () => carrying.slowed(d, t, wish, null),
      ])(),
    )
  },
  unnested: (doc, dice) => {
    const nestedOnes = Object.values(doc.timelines).flatMap((t) =>
      placementsIn(t as Timeline).flatMap(({ id, source }) =>
        source.kind === 'timeline' ? [[t, id] as const] : [],
      ),
    )
    const [found] = nestedOnes
    if (found)
      doc.timelines[found[0].id] = nesting.unnested(
        doc as Doc,
        found[0] as Timeline,
        found[1],
        dice.id,
      ) as Draft<Timeline>
  },
  replaceClip: (doc, dice) =>
    replacing.replaceClip(doc, dice.of(Object.keys(doc.clips)), aVideo(dice.id(), dice.of(clipFormats), 30)),
  putTogether: (doc, dice) => {
    const [a, b] = Object.values(doc.clips).filter(({ parts: within }) => within.length === 0)
    const alike =
      a && b && a.reading?.video?.width === b.reading?.video?.width && a.reading?.kind === b.reading?.kind
    if (
      alike &&
      Object.keys(doc.clips).length > 3 &&
      ![a.id, b.id].some((id) => parts.timesPlaced(doc as Doc, id))
    )
      parts.putTogether(doc, parts.joinRecording([a, b] as Clip[], dice.id()))
  },
  takeApart: (doc) => {
    const whole = Object.values(doc.clips).find(({ parts: within }) => within.length > 0)
    if (whole && !parts.timesPlaced(doc as Doc, whole.id)) parts.takeApart(doc, whole.id)
  },
  restore: (doc, dice) => dice.number(4) === 0 && restoring.restore(doc, dice.point),
}
const some = (doc: D, dice: Dice) => dice.of(Object.values(doc.timelines))
const one = (doc: D, dice: Dice): string => {
  const ids = Object.values(doc.timelines).flatMap((t) => placementsIn(t as Timeline).map(({ id }) => id))
  return ids.length ? dice.of(ids) : 'none'
}
const clip = (doc: D, dice: Dice) => ({
  ...placing.placementOf(dice.of(Object.values(doc.clips)), formats[0]!, dice.id()),
  length: 1 + dice.number(40),
})
const wanted = (doc: D, dice: Dice): arranging.Wanted[] => {
  const placement = clip(doc, dice)
  const pairId = dice.id()
  return (['video', 'audio'] as const).map((kind) => ({
    kind,
    offset: 0,
    above: dice.number(2),
    placement: { ...placement, id: dice.id(), pairId },
  }))
}

/** Exports that look at a document and change nothing, or make parts of it. */
const elsewhere = new Set(['retime', 'learnEvidence', 'resettle'])

const acts = fc.array(
  fc.record({
    act: fc.constantFrom(...Object.keys(all)),
    rolls: fc.array(fc.nat(), { minLength: 12, maxLength: 12 }),
    treatment: treatments,
  }),
  { minLength: 1, maxLength: 25 },
)

/** A document as one text: the order of names in a record says nothing. */
const textOf = (value: unknown): string =>
  JSON.stringify(value, (_, part: unknown) =>
    part && typeof part === 'object' && !Array.isArray(part)
      ? Object.fromEntries(Object.entries(part).sort(([a], [b]) => (a < b ? -1 : 1)))
      : part,
  )

describe('every operation', () => {
  it('is drawn here', () => {
    const modules = {
      ...operations,
      ...arranging,
      ...trimming,
      ...treating,
      ...correction,
      ...parts,
      ...replacing,
      ...restoring,
    }
    // Whatever changes a document in place gives nothing, or tells what it did, and is called with a draft first.
    const known = Object.entries(modules).flatMap(([name, value]) =>
      typeof value === 'function' && /^(function\s*\w*)?\s*\(\s*doc\b/.test(value.toString()) ? [name] : [],
    )
    const looks = ['correctedPlacements', 'timesPlaced', 'timelineIn', 'replacement']
    expect(known.filter((name) => !all[name] && !elsewhere.has(name) && !looks.includes(name))).toEqual([])
    expect(known.length).toBeGreaterThan(25)
  })

  it('is undone to the first step and done again to the last, to the identical document', () => {
    fc.assert(
      fc.property(cuts, acts, (cut, drawn) => {
        const begin = docOf(cut) as Doc
        const history = useHistory<Doc>(async () => {})
        history.show(begin)
        let n = 0
        const states: string[] = [textOf(begin)]
        for (const { act, rolls, treatment } of drawn) {
          const left = [...rolls]
          const number = (below: number) => (left.shift() ?? 0) % Math.max(1, below)
          const dice: Dice = {
            number,
            of: (some) => some[number(some.length)]!,
            id: () => `n${++n}`,
            treatment,
            point: begin,
          }
          const before = history.position.value
          if (
            Object.keys(history.doc.value!.clips).length < 2 &&
            (act === 'takeOut' || act === 'replaceClip')
          )
            continue
          history.edit(act, (doc) => void all[act]!(doc, dice))
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
