import { deepEqual } from '../equality'
import { type Steps, framesOf, positionAt, timeAt } from '../motion/timing'
import { type Rational, add, equal, floor, rational, subtract } from '../rational/rational'
import type { Evidence } from '../evidence/evidence'
import { type CorrectionChange, changed, heldTrue, trueFrame } from '../reading/correct'
import type { Reading } from '../reading/reading'
import { type Clip, claimsOf } from '../model/clip'
import type { Draft } from './draft'
import { framesThere } from './placing'
import type { Doc } from '../model/project'
import { storedIndexOf, timingOf } from '../model/timing'
import { type Placement, type Timeline, clipIdOf, placementsIn } from '../model/timeline'
import type { FrameTimes } from '../reading/frame-times'

/** A clip with the editor's word over its claims; of its corrections only what is named changes. */
export function corrected(clip: Clip, change: CorrectionChange): Clip {
  const claims = claimsOf(clip)
  return claims ? settled({ ...clip, corrections: changed(clip.corrections, change) }, claims) : clip
}

/** A clip with what was measured of its picture. */
export const withEvidence = (clip: Clip, evidence: Evidence): Clip =>
  settled({ ...clip, evidence }, claimsOf(clip))

/** A clip whose reading follows from its claims, its corrections and its evidence. */
function settled(clip: Clip, claims: Reading | null): Clip {
  if (!claims) return clip
  const reading = heldTrue(claims, clip.corrections, clip.evidence)
  return { ...clip, reading, claimed: reading === claims ? null : claims }
}

/** What becomes of a placement when its clip runs otherwise: it shows what it showed, from another time on, as far as there is something. */
export interface RetimedPlacement {
  readonly timelineId: string
  readonly placementId: string
  readonly sourceIn: Rational
  readonly length: number
  /** Frames of its timeline that it loses. */
  readonly shortenedBy: number
}

/** What a correction of clips would do to their placements: the function that tells it, and that does it. */
export function correctedPlacements(
  doc: Doc,
  ids: readonly string[],
  change: CorrectionChange,
): RetimedPlacement[] {
  const after: Doc = { ...doc, clips: { ...doc.clips, ...correctedClips(doc, ids, change) } }
  return Object.values(doc.timelines).flatMap((timeline) =>
    placementsIn(timeline).flatMap((placement) => {
      const clipId = clipIdOf(placement)
      if (clipId === null || !ids.includes(clipId)) return []
      return retimed(doc, after, timeline, placement, clipId) ?? []
    }),
  )
}

const correctedClips = (doc: Doc, ids: readonly string[], change: CorrectionChange): Record<string, Clip> =>
  Object.fromEntries(
    ids.flatMap((id) => {
      const clip = doc.clips[id]
      return clip ? [[id, corrected(clip, change)]] : []
    }),
  )

function retimed(
  before: Doc,
  after: Doc,
  timeline: Timeline,
  placement: Placement,
  clipId: string,
): RetimedPlacement | null {
  const [was, is] = [before.clips[clipId], after.clips[clipId]]
  if (!was || !is) return null
  const [stepsBefore, stepsAfter] = [framesOf(timingOf(was)), framesOf(timingOf(is))]
  if (sameSteps(stepsBefore, stepsAfter)) return null
  const sourceIn = sameFrame(was, is, stepsBefore, stepsAfter, placement.sourceIn)
  const left = framesThere(after, timeline, { ...placement, sourceIn })
  const length = Math.min(placement.length, left ?? placement.length)
  return {
    timelineId: timeline.id,
    placementId: placement.id,
    sourceIn,
    length,
    shortenedBy: placement.length - length,
  }
}

const sameSteps = (a: Steps, b: Steps): boolean =>
  (a.kind === 'still' && b.kind === 'still') ||
  (a.kind === 'even' && b.kind === 'even' && a.count === b.count && equal(a.rate, b.rate)) ||
  (a.kind === 'listed' && b.kind === 'listed' && a.times === b.times)

/** The time after a correction at which the frame is on that was on at a time before it, and as far into it. */
function sameFrame(was: Clip, is: Clip, before: Steps, after: Steps, time: Rational): Rational {
  const position = positionAt(before, time)
  const whole = floor(position)
  const stored = storedIndexOf(was, whole)
  const { repeatsOut } = is.corrections
  const index = repeatsOut ? trueFrame(repeatsOut, stored) : stored
  return timeAt(after, add(rational(index), subtract(position, rational(whole))))
}

/**
 * Puts the editor's word over the claims of clips; what is named null goes back to the claim, what is not named stays.
 * Placements keep the frames that they show and are shortened to what is there.
 */
export function correct(doc: Draft<Doc>, ids: readonly string[], change: CorrectionChange): void {
  const effects = correctedPlacements(doc, ids, change)
  for (const [id, clip] of Object.entries(correctedClips(doc as Doc, ids, change)))
    putFacts(doc.clips[id], clip)
  retime(doc, effects)
}

/** Lets placements begin at another time of their clips, and be as long as there is something. */
export function retime(doc: Draft<Doc>, effects: readonly RetimedPlacement[]): void {
  for (const { timelineId, placementId, sourceIn, length } of effects)
    for (const track of doc.timelines[timelineId]?.tracks ?? [])
      for (const placement of track.placements)
        if (placement.id === placementId) Object.assign(placement, { sourceIn, length })
}

/** Puts what was measured of a clip's picture beside its claims. */
export function learnEvidence(doc: Draft<Doc>, id: string, evidence: Evidence): void {
  const clip = doc.clips[id]
  if (clip) putFacts(clip, withEvidence(clip, evidence))
}

/** Puts the times of a clip's frames beside its reading, once it was gone through. */
export function learnFrameTimes(doc: Draft<Doc>, id: string, frameTimes: FrameTimes): void {
  const clip = doc.clips[id]
  if (clip) clip.frameTimes = frameTimes as Draft<FrameTimes>
}

/** Makes readings follow from their claims, corrections and evidence again, after a step of any of these was undone. */
export function resettle(doc: Draft<Doc>, ids: Iterable<string>): void {
  for (const id of ids) {
    const clip = doc.clips[id]
    if (clip) putFacts(clip, settled(clip, claimsOf(clip)))
  }
}

/** Writes only what differs, so that undoing a correction leaves alone what was learned since. */
function putFacts(into: Draft<Clip> | undefined, { reading, claimed, corrections, evidence }: Clip): void {
  if (!into) return
  const facts = { reading, claimed, corrections, evidence } as Partial<Draft<Clip>>
  for (const [name, value] of Object.entries(facts) as [keyof Clip, never][])
    if (!deepEqual(into[name], value)) (into as Record<keyof Clip, unknown>)[name] = value
}
