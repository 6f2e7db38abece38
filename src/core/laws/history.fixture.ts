import fc from 'fast-check'
import { checkTimeline } from '../check/check'
import { findingGroups } from '../check/findings'
import { take } from '../check/proposals'
import { fromEdl } from '../exchange/edl-read'
import { toEdl } from '../exchange/edl'
import { toOtio } from '../exchange/otio'
import { fromOtio } from '../exchange/otio-read'
import { addedTimelines } from '../exchange/take-in'
import { parseFormat } from '../format/parse'
import { rational } from '../rational/rational'
import type { Override } from '../treatment/treatment'
import * as arranging from '../edit/arranging'
import * as carrying from '../edit/carrying'
import type { Clip } from '../model/clip'
import type { Deliverable } from '../model/deliverable'
import * as correction from '../edit/correction'
import { clipFormats } from '../edit/cut.fixture'
import { aStill, aVideo, proofFound } from '../model/doc.fixture'
import type { Draft } from '../edit/draft'
import * as delivering from '../edit/delivering'
import * as linking from '../edit/linking'
import * as nesting from '../edit/nesting'
import * as operations from '../edit/operations'
import * as parts from '../edit/parts'
import * as placing from '../edit/placing'
import { type Doc, formatOf } from '../model/project'
import * as replacing from '../edit/replacing'
import * as restoring from '../edit/restoring'
import { type Timeline, placementsIn } from '../model/timeline'
import * as settings from '../edit/settings'
import * as treating from '../edit/treating'
import * as trimming from '../edit/trimming'
import { everyTreatment, sounding } from './kinds.fixture'

/** Every operation on documents of every kind of clip, drawn by a dice: what laws are held over. */

export type D = Draft<Doc>
/** What a drawn number chooses among. */
export interface Dice {
  of<T>(items: readonly T[]): T
  number(below: number): number
  readonly id: () => string
  readonly treatment: Override
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
export const operationsDrawn: Record<string, (doc: D, dice: Dice) => unknown> = {
  takeIn: (doc, dice) =>
    operations.takeIn(doc, [
      dice.of([aStill(dice.id()), sounding(sounding(aVideo(dice.id(), dice.of(clipFormats), 30)))]),
    ]),
  takeOut: (doc, dice) => operations.takeOut(doc, [dice.of(Object.keys(doc.clips))], dice.number(2) > 0),
  removePlacements: (doc, dice) =>
    operations.removePlacements(
      doc,
      anyTimeline(doc, dice).id,
      [anyTimelineId(doc, dice)],
      dice.number(2) > 0,
    ),
  setProjectFormat: (doc, dice) =>
    operations.setProjectFormat(doc, { at: '', setBy: 'typed', format: dice.of(formats), reason: '' }),
  setTimelineFormat: (doc, dice) =>
    operations.setTimelineFormat(
      doc,
      anyTimeline(doc, dice).id,
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
    operations.removeTimeline(doc, anyTimeline(doc, dice).id, dice.number(2) > 0),
  renameTimeline: (doc, dice) => operations.renameTimeline(doc, anyTimeline(doc, dice).id, dice.id()),
  append: (doc, dice) => placing.append(doc, anyTimeline(doc, dice).id, [clip(doc, dice)]),
  movePlacement: (doc, dice) =>
    placing.movePlacement(doc, anyTimeline(doc, dice).id, anyTimelineId(doc, dice), dice.number(5)),
  cutAt: (doc, dice) => {
    const timeline = anyTimeline(doc, dice)
    const ids = placementsIn(timeline as Timeline).map(({ id }) => id)
    placing.cutAt(
      doc,
      timeline.id,
      dice.number(3) ? ids : [anyTimelineId(doc, dice)],
      dice.number(200),
      dice.id,
    )
  },
  addTrack: (doc, dice) =>
    arranging.addTrack(doc, anyTimeline(doc, dice).id, dice.of(['video', 'audio'] as const), dice.id),
  removeTrack: (doc, dice) => {
    const timeline = anyTimeline(doc, dice)
    if (timeline.tracks.length > 2) arranging.removeTrack(doc, timeline.id, dice.of(timeline.tracks).id)
  },
  changeTrack: (doc, dice) => {
    const timeline = anyTimeline(doc, dice)
    arranging.changeTrack(doc, timeline.id, dice.of(timeline.tracks).id, {
      hidden: dice.number(2) > 0,
      locked: dice.number(5) > 3,
    })
  },
  changeTimeline: (doc, dice) =>
    arranging.changeTimeline(
      doc,
      anyTimeline(doc, dice).id,
      dice.of([
        { soundLayout: 'mono' as const },
        { startTimecode: '23:59:58:00', dropFrame: false },
        { startTimecode: '09:59:59:00', dropFrame: true },
      ]),
    ),
  putAt: (doc, dice) =>
    arranging.putAt(
      doc,
      anyTimeline(doc, dice).id,
      wanted(doc, dice),
      { frame: dice.number(150), putting: dice.of(['insert', 'over'] as const) },
      dice.id,
    ),
  putAtEnd: (doc, dice) => arranging.putAtEnd(doc, anyTimeline(doc, dice).id, wanted(doc, dice), dice.id),
  putAbove: (doc, dice) =>
    arranging.putAbove(doc, anyTimeline(doc, dice).id, wanted(doc, dice), dice.number(150), dice.id),
  movePlacements: (doc, dice) =>
    arranging.movePlacements(
      doc,
      anyTimeline(doc, dice).id,
      dice.number(4)
        ? linking.withLinked(anyTimeline(doc, dice), [anyTimelineId(doc, dice)])
        : new Set([anyTimelineId(doc, dice)]),
      { byFrames: dice.number(40) - 20, byTracks: dice.number(3) - 1 },
      dice.id,
    ),
  closeGaps: (doc, dice) => arranging.closeGaps(doc, anyTimeline(doc, dice).id, null),
  link: (doc, dice) => {
    const timeline = anyTimeline(doc, dice)
    const ids = dice.number(2)
      ? placementsIn(timeline as Timeline).map(({ id }) => id)
      : [anyTimelineId(doc, dice), anyTimelineId(doc, dice)]
    linking.link(doc, timeline.id, new Set(ids), dice.id)
  },
  unlink: (doc, dice) => linking.unlink(doc, anyTimeline(doc, dice).id, new Set([anyTimelineId(doc, dice)])),
  changeSound: (doc, dice) =>
    arranging.changeSound(doc, anyTimeline(doc, dice).id, new Set([anyTimelineId(doc, dice)]), {
      gain: dice.number(10),
    }),
  treatLike: (doc, dice) =>
    treating.treatLike(doc, anyTimeline(doc, dice).id, [anyTimelineId(doc, dice)], dice.treatment),
  trimStart: (doc, dice) =>
    trimming.trimStart(
      doc,
      anyTimeline(doc, dice).id,
      anyTimelineId(doc, dice),
      dice.number(9) - 4,
      dice.of(['stays', 'moves'] as const),
    ),
  trimEnd: (doc, dice) =>
    trimming.trimEnd(
      doc,
      anyTimeline(doc, dice).id,
      anyTimelineId(doc, dice),
      dice.number(9) - 4,
      dice.of(['stays', 'moves'] as const),
    ),
  lengthen: (doc, dice) =>
    trimming.lengthen(doc, anyTimeline(doc, dice).id, anyTimelineId(doc, dice), 1 + dice.number(90)),
  slip: (doc, dice) =>
    trimming.slip(doc, anyTimeline(doc, dice).id, anyTimelineId(doc, dice), dice.number(9) - 4),
  treat: (doc, dice) =>
    treating.treat(doc, anyTimeline(doc, dice).id, [anyTimelineId(doc, dice)], dice.treatment),
  untreat: (doc, dice) =>
    treating.untreat(
      doc,
      anyTimeline(doc, dice).id,
      [anyTimelineId(doc, dice)],
      dice.of([null, ['motion', 'framing.zoom'] as const]),
    ),
  setDefaults: (doc, dice) => treating.setDefaults(doc, anyTimeline(doc, dice).id, dice.treatment),
  clearDefaults: (doc, dice) => treating.clearDefaults(doc, anyTimeline(doc, dice).id),
  setRule: (doc, dice) =>
    treating.setRule(doc, anyTimeline(doc, dice).id, {
      id: dice.of(['r1', 'r2', 'r3']),
      on: true,
      when: { rate: rational(25) },
      set: dice.treatment,
    }),
  removeRule: (doc, dice) => treating.removeRule(doc, anyTimeline(doc, dice).id, 'r1'),
  moveRule: (doc, dice) => treating.moveRule(doc, anyTimeline(doc, dice).id, 'r2', dice.of([-1, 1])),
  acceptFindings: (doc, dice) =>
    treating.acceptFindings(doc, anyTimeline(doc, dice).id, [anyTimelineId(doc, dice)], {
      charge: 'reduce',
      word: dice.of([null, 'meant']),
      at: '',
    }),
  correct: (doc, dice) =>
    correction.correct(
      doc,
      [dice.of(Object.keys(doc.clips))],
      dice.of([
        { rate: rational(24) },
        { rate: rational(50) },
        { rotation: 90 as const },
        { rate: null },
        { scan: 'interlaced' as const },
        { repeatsOut: { holds: [2, 3], phase: 3 } },
        { repeatsOut: null },
        { pulldownOut: 3 },
        { pulldownOut: null },
      ]),
    ),
  takeCarried: (doc, dice) => {
    const [d, t] = [doc as Doc, anyTimeline(doc, dice) as Timeline]
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
  unnest: (doc, dice) => {
    const nestedOnes = Object.values(doc.timelines).flatMap((t) =>
      placementsIn(t as Timeline).flatMap(({ id, source }) =>
        source.kind === 'timeline' ? [[t, id] as const] : [],
      ),
    )
    const [found] = nestedOnes
    if (found) nesting.unnest(doc, found[0].id, found[1], dice.id)
  },
  replaceClip: (doc, dice) =>
    replacing.replaceClip(
      doc,
      dice.of(Object.keys(doc.clips)),
      sounding(aVideo(dice.id(), dice.of(clipFormats), 30)),
    ),
  putTogether: (doc, dice) => {
    const [a, b] = Object.values(doc.clips).filter(({ parts: within }) => within.length === 0)
    const alike =
      a && b && a.reading?.video?.width === b.reading?.video?.width && a.reading?.kind === b.reading?.kind
    if (alike && Object.keys(doc.clips).length > 3 && ![a.id, b.id].some((id) => parts.timesPlaced(doc, id)))
      parts.putTogether(doc, parts.joinRecording([a, b] as Clip[], dice.id()))
  },
  takeApart: (doc) => {
    const whole = Object.values(doc.clips).find(({ parts: within }) => within.length > 0)
    if (whole && !parts.timesPlaced(doc, whole.id)) parts.takeApart(doc, whole.id)
  },
  nest: (doc, dice) => {
    const [outer, inner] = [anyTimeline(doc, dice) as Timeline, anyTimeline(doc, dice) as Timeline]
    if (!outer.rate || !inner.rate || !nesting.canHold(doc, outer.id, inner.id)) return
    const placed = nesting.placedTimeline(inner, outer.rate, [dice.id(), dice.id(), dice.id()])
    if (dice.number(2)) arranging.putAtEnd(doc, outer.id, placed, dice.id)
    else
      arranging.putAt(
        doc,
        outer.id,
        placed,
        { frame: dice.number(90), putting: dice.of(['insert', 'over'] as const) },
        dice.id,
      )
  },
  cure: (doc, dice) => {
    const timeline = anyTimeline(doc, dice) as Timeline
    const check = checkTimeline(doc, timeline)
    const cures = check
      ? findingGroups(doc as Doc, timeline, check).flatMap(({ cure, less }) =>
          [cure ?? [], less ?? []].flat(),
        )
      : []
    if (cures.length) take(doc, timeline.id, dice.of(cures).treats)
  },
  takeBack: (doc, dice) => {
    const timeline = anyTimeline(doc, dice) as Timeline
    if (!formatOf(doc, timeline)) return
    const making = { name: dice.id(), at: '', newId: dice.id }
    const listed = dice.number(2) === 0
    const read = listed
      ? fromEdl(toEdl(doc, timeline).text, doc, making)
      : fromOtio(JSON.stringify(toOtio(doc, timeline)), doc, making)
    if (!read.ok) return
    const timelines = 'timelines' in read ? read.timelines : [read.timeline]
    for (const added of addedTimelines(doc, timelines, making)) operations.addTimeline(doc, added)
  },
  addDeliverable: (doc, dice) =>
    delivering.addDeliverable(
      doc,
      dice.id(),
      dice.of(formats),
      dice.of([null, ...Object.keys(doc.timelines)]),
    ),
  copyDeliverable: (doc, dice) => delivering.copyDeliverable(doc, anyDeliverableId(doc, dice), dice.id()),
  changeDeliverable: (doc, dice) => {
    const deliverable = doc.project.deliverables[0] as Deliverable | undefined
    if (deliverable)
      delivering.changeDeliverable(doc, {
        ...deliverable,
        format: dice.of(formats),
        burnIn: dice.number(2) > 0,
      })
  },
  keepProof: (doc, dice) =>
    delivering.keepProof(doc, anyDeliverableId(doc, dice), proofFound(dice.number(30))),
  removeDeliverable: (doc, dice) => delivering.removeDeliverable(doc, anyDeliverableId(doc, dice)),
  changeProject: (doc, dice) =>
    settings.changeProject(doc, {
      name: dice.id(),
      mains: dice.of([null, 50, 60] as const),
      lean: dice.of(['balanced', 'motion'] as const),
    }),
  changeWeights: (doc, dice) =>
    settings.changeWeights(doc, (policy) => void (policy.skip = dice.number(10) / 10)),
  setPriority: (doc, dice) =>
    settings.setPriority(
      doc,
      dice.of(Object.keys(doc.clips)),
      dice.of(['key', 'left-out', 'normal'] as const),
    ),
  restore: (doc, dice) => dice.number(4) === 0 && restoring.restore(doc, dice.point),
}
const anyTimeline = (doc: D, dice: Dice) => dice.of(Object.values(doc.timelines))
const anyDeliverableId = (doc: D, dice: Dice): string =>
  dice.of(['none', ...doc.project.deliverables.map(({ id }) => id)])
const anyTimelineId = (doc: D, dice: Dice): string => {
  const ids = Object.values(doc.timelines).flatMap((t) => placementsIn(t as Timeline).map(({ id }) => id))
  return ids.length ? dice.of(ids) : 'none'
}
const clip = (doc: D, dice: Dice) => ({
  ...placing.placementOf(dice.of(Object.values(doc.clips)), formats[0]!, dice.id()),
  length: 1 + dice.number(40),
})
const wanted = (doc: D, dice: Dice): arranging.PlacementsToPut[] => {
  const whole = dice.of(Object.values(doc.clips)) as Clip
  if (dice.number(2)) {
    const from = dice.number(30)
    return placing.placedClip(
      whole,
      formats[0]!,
      dice.number(3) ? { from, to: from + dice.number(50) } : null,
      [dice.id(), dice.id(), dice.id()],
    )
  }
  const placement = clip(doc, dice)
  const pairId = dice.id()
  return (['video', 'audio'] as const).map((kind) => ({
    kind,
    offset: 0,
    above: dice.number(2),
    placement: { ...placement, id: dice.id(), pairId },
  }))
}

/** What is done, one after the other. */
export interface Act {
  readonly act: string
  readonly rolls: readonly number[]
  readonly treatment: Override
}
export const acts = (most: number): fc.Arbitrary<Act[]> =>
  fc.array(
    fc.record({
      act: fc.constantFrom(...Object.keys(operationsDrawn)),
      rolls: fc.array(fc.nat(), { minLength: 12, maxLength: 12 }),
      treatment: everyTreatment,
    }),
    { minLength: 1, maxLength: most },
  )

/** The dice of an act. */
export function diceOf({ rolls, treatment }: Act, id: () => string, point: Doc): Dice {
  const left = [...rolls]
  const number = (below: number) => (left.shift() ?? 0) % Math.max(1, below)
  return { number, of: (items) => items[number(items.length)]!, id, treatment, point }
}

/** A document as one text: the order of names in a record says nothing. */
export const textOf = (value: unknown): string =>
  JSON.stringify(value, (_, part: unknown) =>
    part && typeof part === 'object' && !Array.isArray(part)
      ? Object.fromEntries(Object.entries(part).sort(([a], [b]) => (a < b ? -1 : 1)))
      : part,
  )
