import { randomUUID } from 'node:crypto'
import { applyPatches } from 'immer'
import { closeGaps, movePlacements, putAbove, putAt, putAtEnd } from '../src/core/edit/arranging'
import { nested, recut, slowed, takeCarried } from '../src/core/edit/carrying'
import { Refused, change } from '../src/core/edit/change'
import type { Clip } from '../src/core/model/clip'
import { correct, resettle } from '../src/core/edit/correction'
import type { Draft } from '../src/core/edit/draft'
import { link, unlink, withLinked } from '../src/core/edit/linking'
import { canHold, placedTimeline, unnested } from '../src/core/edit/nesting'
import { addTimeline, removePlacements } from '../src/core/edit/operations'
import { cutAt, newTimeline, placedClip } from '../src/core/edit/placing'
import { type Doc, clipsOf, formatOf, timelinesOf } from '../src/core/model/project'
import { proposeName } from '../src/core/edit/reformat'
import { replaceClip } from '../src/core/edit/replacing'
import { restore } from '../src/core/edit/restoring'
import { type Placement, type Timeline, type Track, placementsIn } from '../src/core/model/timeline'
import { setRule, treat } from '../src/core/edit/treating'
import { slip, trimEnd, trimStart } from '../src/core/edit/trimming'
import { type Format } from '../src/core/format/format'
import { departure } from '../src/core/words/reason'
import { CorrectionSet, EditStep, type EditTarget, facts } from './step'

/** Steps of `tally edit`: each is the operation that the page calls, with what it needs told by name. */

const refuse = (why: string): never => {
  throw new Refused(why)
}

function timelineIn(doc: Doc, name: string | undefined): Timeline {
  const all = timelinesOf(doc)
  const found =
    name === undefined ? all[0] : (doc.timelines[name] ?? all.find((timeline) => timeline.name === name))
  return (
    found ?? refuse(name === undefined ? 'The project has no timeline.' : `There is no timeline “${name}”.`)
  )
}

const clipIn = (doc: Doc, name: string): Clip =>
  doc.clips[name] ?? clipsOf(doc).find((clip) => clip.name === name) ?? refuse(`There is no clip “${name}”.`)

function formatIn(doc: Doc, timeline: Timeline): Format {
  return formatOf(doc, timeline) ?? refuse(`“${timeline.name}” has no format yet.`)
}

/** A placement with the timeline and the track that it stands on. */
function placementIn(doc: Doc, where: EditTarget, name: string | undefined) {
  const among: readonly Timeline[] =
    typeof where === 'string' && name === undefined
      ? timelinesOf(doc)
      : [timelineIn(doc, (typeof where === 'string' ? undefined : where.timeline) ?? name)]
  for (const timeline of among)
    for (const track of timeline.tracks) {
      const placement: Placement | undefined =
        typeof where === 'string'
          ? track.placements.find(({ id }) => id === where)
          : track.name === where.track || track.id === where.track
            ? track.placements[where.index]
            : undefined
      if (placement) return { timeline, track, placement }
    }
  return refuse(
    typeof where === 'string'
      ? `There is no placement “${where}”.`
      : `There is no placement ${where.index} on ${where.track}.`,
  )
}

/** The placements of one timeline. */
function placementsOf(doc: Doc, wheres: readonly EditTarget[], name: string | undefined) {
  const found = wheres.map((where) => placementIn(doc, where, name))
  const [first] = found
  if (!first || found.some(({ timeline }) => timeline !== first.timeline))
    return refuse('These placements stand on several timelines.')
  return { timeline: first.timeline, ids: found.map(({ placement }) => placement.id) }
}

const newId = randomUUID
const moved = (frames: number, asked: number) =>
  frames === 0 && asked !== 0
    ? refuse('Nothing moves: the source, a neighbour or a locked track is in the way.')
    : frames

/** Does what a step says to a draft. */
function act(
  draft: Draft<Doc>,
  step: Exclude<EditStep, { do: 'point' | 'restore' | 'undo' | 'redo' }>,
): void {
  const doc = draft as Doc
  const at = new Date().toISOString()
  switch (step.do) {
    case 'place': {
      const timeline = timelineIn(doc, step.timeline)
      const clip = clipIn(doc, step.clip)
      const { from, to } = step
      if (!clip.reading || clip.fault) refuse(`“${clip.name}” was not read: it cannot be placed.`)
      const marks =
        from === undefined && to === undefined ? null : { from: from ?? 0, to: to ?? Number.MAX_SAFE_INTEGER }
      const wanted = placedClip(clip, formatIn(doc, timeline), marks, [newId(), newId(), newId()])
      const mode = step.mode ?? (step.at === undefined || step.at === null ? 'end' : 'insert')
      if (mode === 'end' || step.at === undefined || step.at === null)
        return putAtEnd(draft, timeline.id, wanted, newId)
      if (mode === 'above') return putAbove(draft, timeline.id, wanted, step.at, newId)
      return putAt(
        draft,
        timeline.id,
        wanted,
        { frame: step.at, putting: mode === 'overwrite' ? 'over' : 'insert' },
        newId,
      )
    }
    case 'cut': {
      const timeline = timelineIn(doc, step.timeline)
      const all = placementsIn(timeline).map(({ id }) => id)
      if (cutAt(draft, timeline.id, all, step.frame, newId).length === 0)
        refuse(`Nothing lies across frame ${step.frame}.`)
      return
    }
    case 'trim': {
      const { timeline, placement } = placementIn(doc, step.placement, step.timeline)
      const does = step.edge === 'start' ? trimStart : trimEnd
      moved(does(draft, timeline.id, placement.id, step.frames, step.ripple ? 'moves' : 'stays'), step.frames)
      return
    }
    case 'slip': {
      const { timeline, placement } = placementIn(doc, step.placement, step.timeline)
      moved(slip(draft, timeline.id, placement.id, step.frames), step.frames)
      return
    }
    case 'move':
      return move(draft, step)
    case 'remove': {
      const { timeline, ids } = placementsOf(doc, step.placements, step.timeline)
      return removePlacements(draft, timeline.id, [...withLinked(timeline, ids)], step.closeGap)
    }
    case 'closeGaps':
      return closeGaps(draft, timelineIn(doc, step.timeline).id, null)
    case 'link': {
      const { timeline, ids } = placementsOf(doc, step.placements, step.timeline)
      const why = link(draft, timeline.id, new Set(ids), newId)
      if (why) refuse(why)
      return
    }
    case 'unlink': {
      const { timeline, ids } = placementsOf(doc, step.placements, step.timeline)
      return unlink(draft, timeline.id, new Set(ids))
    }
    case 'treat': {
      const { timeline, ids } = placementsOf(doc, step.placements, step.timeline)
      return treat(draft, timeline.id, ids, step.set)
    }
    case 'rule': {
      const timeline = timelineIn(doc, step.timeline)
      return setRule(draft, timeline.id, { id: newId(), on: true, when: step.when, set: step.set })
    }
    case 'correct':
      return correct(draft, [clipIn(doc, step.clip).id], correctionsIn(step.set))
    case 'replace': {
      const [clip, other] = [clipIn(doc, step.clip), clipIn(doc, step.with)]
      return replaceClip(draft, clip.id, other)
    }
    case 'timeline':
      return addTimeline(draft, newTimeline(newId(), step.name, at, step.format ?? null))
    case 'nest': {
      const [inner, outer] = [timelineIn(doc, step.timeline), timelineIn(doc, step.in)]
      if (!canHold(doc, outer.id, inner.id))
        refuse(`“${outer.name}” is shown in “${inner.name}”: it cannot hold it.`)
      const { rate } = formatIn(doc, outer)
      if (!inner.rate) refuse(`“${inner.name}” has no format yet.`)
      const wanted = placedTimeline(inner, rate, [newId(), newId(), newId()])
      if (step.at === undefined || step.at === null) return putAtEnd(draft, outer.id, wanted, newId)
      return putAt(draft, outer.id, wanted, { frame: step.at, putting: 'insert' }, newId)
    }
    case 'unnest': {
      const { timeline, placement } = placementIn(doc, step.placement, step.timeline)
      if (placement.source.kind !== 'timeline') refuse('This placement shows no timeline.')
      draft.timelines[timeline.id] = unnested(doc, timeline, placement.id, newId) as Draft<Timeline>
      return
    }
    case 'carry':
      return carry(draft, step, at)
  }
}

function move(draft: Draft<Doc>, step: Extract<EditStep, { do: 'move' }>): void {
  const { timeline, track, placement } = placementIn(draft, step.placement, step.timeline)
  const kin = timeline.tracks.filter(({ kind }) => kind === track.kind)
  const named = (track: Track) => track.name === step.track || track.id === step.track
  const to = step.track === undefined ? track : timeline.tracks.find(named)
  if (!to || to.kind !== track.kind)
    return refuse(`There is no track “${step.track}” of ${track.kind === 'video' ? 'pictures' : 'sound'}.`)
  const climbs = kin.findIndex(({ id }) => id === to.id) - kin.findIndex(({ id }) => id === track.id)
  const frames = step.to - placement.start
  if (frames === 0 && climbs === 0) return
  const ids = withLinked(timeline, [placement.id])
  const isLocked = timeline.tracks.some(
    (track) => track.locked && track.placements.some(({ id }) => ids.has(id)),
  )
  if (isLocked) refuse('A locked track holds it, or what is linked with it.')
  if (
    !movePlacements(
      draft,
      timeline.id,
      ids,
      { byFrames: frames, byTracks: climbs, kindThatClimbs: track.kind },
      newId,
    )
  )
    refuse('It cannot be moved there: a locked track, or the first frame, is in the way.')
}

function carry(draft: Draft<Doc>, step: Extract<EditStep, { do: 'carry' }>, at: string): void {
  const doc = draft as Doc
  const timeline = timelineIn(doc, step.timeline)
  formatIn(doc, timeline)
  const wish = { format: step.to, origin: { setBy: 'typed' as const, clip: null }, keepPitch: step.keepPitch }
  const making = { name: step.name ?? proposeName(doc, step.to), at, newId }
  const copy = step.copy ? making : null
  const carried =
    step.how === 'nest'
      ? nested(doc, timeline, wish, making)
      : step.how === 'recut'
        ? recut(doc, timeline, wish, copy)
        : slowed(doc, timeline, wish, copy)
  takeCarried(draft, carried)
}

/** Corrections as they are typed: what is null goes back to the claim. */
function correctionsIn(set: Record<string, unknown>) {
  const named = Object.fromEntries(Object.entries(set).filter(([, value]) => value !== null))
  const parsed = CorrectionSet.safeParse(named)
  if (!parsed.success) return refuse(`The correction cannot be read: ${departure(parsed.error)}.`)
  const back = Object.keys(set).filter((key) => set[key] === null)
  const unknown = back.find((key) => !(key in facts))
  if (unknown !== undefined) refuse(`“${unknown}” is nothing that is corrected.`)
  return { ...parsed.data, ...Object.fromEntries(back.map((key) => [key, null])) }
}

/** A project that is edited step by step, with a history of its own. */
export function editing(start: Doc) {
  let doc = start
  const points = new Map<string, Doc>()
  const done: Extract<ReturnType<typeof change>, { ok: true }>[] = []
  let undone: typeof done = []

  const go = (patches: Parameters<typeof applyPatches>[1]) => {
    const clips = patches.flatMap(({ path: [part, id] }) =>
      part === 'clips' && id !== undefined ? [String(id)] : [],
    )
    const applied = applyPatches(doc, patches)
    const followed = change(applied, (draft) => resettle(draft, clips), newId)
    doc = followed.ok ? followed.doc : applied
  }
  const edit = (recipe: (draft: Draft<Doc>) => void): string | null => {
    const changed = change(doc, recipe, newId)
    if (!changed.ok) return changed.error
    if (changed.patches.length > 0) {
      done.push(changed)
      undone = []
    }
    doc = changed.doc
    return null
  }

  return {
    doc: () => doc,
    /** Does a step that was parsed from JSON. @returns why it was refused, in a sentence; null where it was done */
    step(json: unknown): string | null {
      const parsed = EditStep.safeParse(json)
      if (!parsed.success) return `The step cannot be read: ${departure(parsed.error)}.`
      const { data: step } = parsed
      switch (step.do) {
        case 'undo': {
          const last = done.pop()
          if (!last) return 'There is nothing to undo.'
          undone.push(last)
          go(last.inverse)
          return null
        }
        case 'redo': {
          const next = undone.pop()
          if (!next) return 'There is nothing to redo.'
          done.push(next)
          go(next.patches)
          return null
        }
        case 'point':
          points.set(step.name, doc)
          return null
        case 'restore': {
          const point = points.get(step.name)
          if (!point) return `There is no restore point “${step.name}”.`
          return edit((draft) => restore(draft, point))
        }
        default:
          return edit((draft) => act(draft, step))
      }
    },
  }
}
