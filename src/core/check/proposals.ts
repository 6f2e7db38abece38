import { deepEqual } from '../equality'
import { type Fixed, type Offered, type Proposed, proposed } from '../choice/proposed'
import { type Untreated, plainly, untreatedOf } from '../choice/untreated'
import type { Clip } from '../model/clip'
import { correct } from '../edit/correction'
import type { Draft } from '../edit/draft'
import { type Doc, formatOf, weightsOf } from '../model/project'
import { type SettledPlacement, settling } from '../plan/running'
import { ownTreatment } from '../model/shape'
import { type Placement, type Timeline, clipIdOf } from '../model/timeline'
import { treat } from '../edit/treating'
import { type Format, formatKey } from '../format/format'
import { type Picture, pictureKey } from '../picture/picture'
import { type CorrectionChange, changeWords } from '../reading/correct'
import type { Policy } from '../toll/policy'
import type { Settled } from '../toll/toll'
import { meets } from '../treatment/rule'
import type { Override } from '../treatment/treatment'
import { overrideWords } from '../treatment/words'

/** What is offered for a placement: what is done as a matter of course where it is not done yet, and the way of least loss where there is one. */
export interface PlacementProposal {
  readonly placement: Placement
  /** What it pays as it is, and how it runs. */
  readonly inForce: Settled
  /** Null where it runs so already, or where an editor has set how. */
  readonly first: Proposed | null
  readonly less: Offered | null
}

/** One treatment that is taken: by which placement, and what of its clip is corrected with it. */
export interface Taken {
  readonly placement: Placement
  readonly set: Override
  readonly change: CorrectionChange
}

const framingFacts = ['mode', 'zoom', 'position', 'crop'] as const

/** What an editor has set of a placement: by itself, by a rule, or for all of the timeline. */
function fixedOf(timeline: Timeline, placement: Placement, picture: Picture, format: Format): Fixed {
  const rules = timeline.rules.filter(({ on, when }) => on && meets(picture, when))
  const sets = [timeline.treatment, ...rules.map(({ set }) => set), ownTreatment(placement, format)]
  return {
    motion: sets.some(({ motion, fields, shiftOrder }) => motion ?? fields ?? shiftOrder),
    framing: sets.some(({ framing }) => framing && framingFacts.some((fact) => framing[fact])),
  }
}

/** What is known of what a placement shows, beyond its picture. */
function untreatedIn(doc: Doc, placement: Placement, picture: Picture): Untreated {
  const clipId = clipIdOf(placement)
  const clip = clipId === null ? undefined : doc.clips[clipId]
  const known = clip?.reading && untreatedOf(clip.reading, clip.evidence, clip.corrections)
  return known ?? plainly(picture)
}

/** Keys once made: clips are values and do not change, and each placement of thousands asks for them. */
const keys = new WeakMap<Clip, string>()

/** Equal for placements of which the same is known beyond their pictures; most have nothing. */
export function knownKey(doc: Doc, placement: Placement): string {
  const clipId = clipIdOf(placement)
  const clip = clipId === null ? undefined : doc.clips[clipId]
  if (!clip) return ''
  let key = keys.get(clip)
  if (key === undefined) keys.set(clip, (key = keyOf(clip)))
  return key
}

function keyOf({ reading, evidence, corrections }: Clip): string {
  if (!reading?.video) return ''
  const { captureRate, alpha } = reading.video
  if (!evidence && !captureRate && !alpha && reading.kind === 'video') return ''
  const { picture: _own, ...known } = untreatedOf(reading, evidence, corrections) ?? {}
  return JSON.stringify(known)
}

/** What was proposed under a policy: an edit seldom makes another kind of clip, and each is thought about for two milliseconds. */
const proposedUnder = new WeakMap<Policy, Map<string, Proposed>>()

/** The proposals for placed pictures of a timeline; those that stand alike, and of which the same is known, are looked at once. */
export function proposing(doc: Doc, timeline: Timeline): (placement: Placement) => PlacementProposal | null {
  const format = formatOf(doc, timeline)
  const { policy, lean } = doc.project
  const weights = weightsOf(doc.project)
  const before = proposedUnder.get(policy) ?? new Map<string, Proposed>()
  proposedUnder.set(policy, before)
  const standing = new Map<SettledPlacement, Map<string, Proposed>>()
  const settle = settling(doc, timeline, format)
  return (placement) => {
    const stands = settle(placement)
    const { picture, treatment, toll, way } = stands
    if (!picture || !format) return null
    const known = standing.get(stands) ?? new Map<string, Proposed>()
    standing.set(stands, known)
    const key = knownKey(doc, placement)
    let found = known.get(key)
    if (!found) {
      const fixed = fixedOf(timeline, placement, picture, format)
      const whole = `${lean} ${formatKey(format)} ${pictureKey(picture)} ${JSON.stringify([treatment, fixed])} ${key}`
      found =
        before.get(whole) ?? proposed(untreatedIn(doc, placement, picture), format, treatment, weights, fixed)
      before.set(whole, found)
      known.set(key, found)
    }
    return { placement, inForce: { toll, way }, first: found.isInForce ? null : found, less: found.less }
  }
}

/**
 * What is offered for placed pictures of a timeline.
 * @param only the ids of those that are meant; all where none are told
 */
export function proposalsOf(doc: Doc, timeline: Timeline, only?: ReadonlySet<string>): PlacementProposal[] {
  const propose = proposing(doc, timeline)
  return timeline.tracks
    .filter(({ kind }) => kind === 'video')
    .flatMap(({ placements }) => placements)
    .filter(({ id }) => !only || only.has(id))
    .flatMap((placement) => propose(placement) ?? [])
    .filter(({ first, less }) => first ?? less)
}

/** Clips of a timeline to which the same is proposed for the same reason. */
export interface ProposalGroup {
  readonly reason: string
  readonly taken: readonly Taken[]
  readonly frames: number
  /** Loss over their running time, as they are and as is proposed. */
  readonly loss: readonly [before: number, after: number]
  /** How many would lose less by another way. */
  readonly couldLoseLess: number
}

/** What treating all of a timeline as is proposed would do, grouped by the reason, the longest first. */
export function proposalGroups(doc: Doc, timeline: Timeline): ProposalGroup[] {
  const groups = new Map<string, { taken: Taken[]; frames: number; lost: [number, number]; less: number }>()
  for (const { placement, inForce: settled, first, less } of proposalsOf(doc, timeline)) {
    if (!first) continue
    const group = groups.get(first.reason) ?? { taken: [], frames: 0, lost: [0, 0], less: 0 }
    groups.set(first.reason, group)
    group.taken.push({ placement, set: first.set, change: first.change })
    group.frames += placement.length
    group.lost[0] += settled.toll.loss * placement.length
    group.lost[1] += first.toll.loss * placement.length
    if (less) group.less++
  }
  return [...groups]
    .map(([reason, { taken, frames, lost, less }]) => ({
      reason,
      taken,
      frames,
      loss: [lost[0] / Math.max(1, frames), lost[1] / Math.max(1, frames)] as const,
      couldLoseLess: less,
    }))
    .sort((a, b) => b.frames - a.frames)
}

/** What a treatment does, corrections first, in a few words. */
export const takenWords = ({ set, change }: Pick<Taken, 'set' | 'change'>): string =>
  [...changeWords(change), ...(Object.keys(set).length > 0 ? [overrideWords(set)] : [])].join('; ')

/** Treats placements as is proposed: first what is taken for true of their clips, then how they run and are framed. */
export function take(doc: Draft<Doc>, timelineId: string, taken: readonly Taken[]): void {
  for (const { placement, change } of taken) {
    const clipId = clipIdOf(placement)
    const isDone = clipId !== null && isPut(doc.clips[clipId]?.corrections ?? {}, change)
    if (clipId !== null && !isDone) correct(doc, [clipId], change)
  }
  const bySet = new Map<string, { readonly set: Override; readonly ids: string[] }>()
  for (const { placement, set } of taken) {
    const key = JSON.stringify(set)
    const together = bySet.get(key) ?? { set, ids: [] }
    bySet.set(key, together)
    together.ids.push(placement.id)
  }
  for (const { set, ids } of bySet.values()) if (Object.keys(set).length > 0) treat(doc, timelineId, ids, set)
}

const isPut = (corrections: object, change: CorrectionChange): boolean =>
  Object.entries(change).every(([fact, value]) =>
    deepEqual((corrections as Record<string, unknown>)[fact], value),
  )
