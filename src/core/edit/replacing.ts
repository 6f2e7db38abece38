import { framesOf, positionAt, timeAt } from '../motion/timing'
import { rational } from '../rational/rational'
import type { Clip } from '../model/clip'
import { type RetimedPlacement, retime } from './correction'
import type { Draft } from './draft'
import { framesThere } from './placing'
import type { Doc } from '../model/project'
import { timingOf } from '../model/timing'
import { type Placement, type Timeline, clipIdOf, placementsIn } from '../model/timeline'

/**
 * What another clip in the place of one would do to its placements. Both are the same recording: where their frames pass alike they
 * are counted, else a placement stays where it is in time.
 */
export function replacement(doc: Doc, clipId: string, by: Clip): RetimedPlacement[] {
  const was = doc.clips[clipId]
  if (!was) return []
  const after: Doc = { ...doc, clips: { ...doc.clips, [clipId]: { ...by, id: clipId } } }
  const [before, steps] = [framesOf(timingOf(was)), framesOf(timingOf(by))]
  const sameCount = before.kind === 'even' && steps.kind === 'even' && before.count === steps.count
  return Object.values(doc.timelines).flatMap((timeline) =>
    placementsIn(timeline)
      .filter((placement) => clipIdOf(placement) === clipId)
      .map((placement) => {
        const sourceIn =
          sameCount || before.kind === 'still'
            ? timeAt(steps, positionAt(before, placement.sourceIn))
            : placement.sourceIn
        const left = lengthLeft(after, timeline, { ...placement, sourceIn })
        const length = Math.max(1, Math.min(placement.length, left))
        return {
          timelineId: timeline.id,
          placementId: placement.id,
          sourceIn: steps.kind === 'still' ? rational(0) : sourceIn,
          length,
          shortenedBy: placement.length - length,
        }
      }),
  )
}

const lengthLeft = (doc: Doc, timeline: Timeline, placement: Placement): number =>
  framesThere(doc, timeline, placement) ?? placement.length

/**
 * Puts another clip in the place of one: the graded one, the one of higher resolution. Placements keep what they are, where they are
 * and how they are treated, and are shortened to what is there. How much it counts stays.
 */
export function replaceClip(doc: Draft<Doc>, clipId: string, by: Clip): void {
  const was = doc.clips[clipId]
  if (!was) return
  const effects = replacement(doc, clipId, by)
  doc.clips[clipId] = { ...by, id: clipId, priority: was.priority } as Draft<Clip>
  retime(doc, effects)
}
