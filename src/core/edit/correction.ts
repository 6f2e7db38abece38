import { type Steps, framesOf, positionAt, timeAt } from '../motion/timing'
import { type Rational, add, equal, floor, rational, subtract } from '../rational/rational'
import { type CorrectionChange, applyCorrections, changed, isCorrected, trueFrame } from '../reading/correct'
import { type Clip, claimsOf } from './clip'
import type { Draft } from './draft'
import { framesThere } from './placing'
import type { Doc } from './project'
import { storedIndexOf, timingOf } from './timing'
import { type Placement, type Timeline, clipIdOf, placementsIn } from './timeline'

/** A clip with the editor's word over its claims; of its corrections only what is named changes. */
export function corrected(clip: Clip, change: CorrectionChange): Clip {
  const claims = claimsOf(clip)
  if (!claims) return clip
  const corrections = changed(clip.corrections, change)
  return {
    ...clip,
    corrections,
    reading: applyCorrections(claims, corrections),
    claimed: isCorrected(corrections) ? claims : null,
  }
}

/** What a correction does to a placement: it shows what it showed, from another time on, as far as there is something. */
export interface CorrectedPlacement {
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
): CorrectedPlacement[] {
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
): CorrectedPlacement | null {
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
  const effects = correctedPlacements(doc as Doc, ids, change)
  for (const [id, clip] of Object.entries(correctedClips(doc as Doc, ids, change)))
    doc.clips[id] = clip as Draft<Clip>
  for (const { timelineId, placementId, sourceIn, length } of effects) {
    for (const track of doc.timelines[timelineId]?.tracks ?? [])
      for (const placement of track.placements)
        if (placement.id === placementId) Object.assign(placement, { sourceIn, length })
  }
}
