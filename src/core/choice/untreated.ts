import { type Evidence, isOfOneMoment, provenBars, provenPulldown, provenRepeats } from '../evidence/evidence'
import { type Picture, pictureOf } from '../picture/picture'
import type { Rate } from '../rate/rate'
import type { Corrections } from '../reading/correct'
import type { Reading } from '../reading/reading'
import type { Sides } from '../treatment/treatment'

/** A clip as far as it matters to an editor who has not treated it yet: its picture, and what is known beyond it. */
export interface Untreated {
  readonly picture: Picture
  /** The rate at which its file says it was recorded, where that is above its own: it is meant to be slowed. */
  readonly captureRate: Rate | null
  /** Film that was pulled down, and the place of frame 0. */
  readonly pulldown: NonNullable<Evidence['pulldown']> | null
  /** Frames that repeat inside it: the rate of the true ones, and how long each is held, where that is known. */
  readonly repeats: {
    readonly trueRate: Rate
    readonly holds: readonly number[] | null
    readonly phase: number | null
  } | null
  /** It is flagged interlaced, and both fields of each frame are of one moment. */
  readonly isOfOneMoment: boolean
  /** A still, or one with alpha: it is laid over others. */
  readonly isOverlay: boolean
  /** Baked bars, in its own pixels. */
  readonly bars: Sides | null
}

/** A picture of which nothing more is known. */
export const plainly = (picture: Picture): Untreated => ({
  picture,
  captureRate: null,
  pulldown: null,
  repeats: null,
  isOfOneMoment: false,
  isOverlay: false,
  bars: null,
})

/**
 * A clip as its file and its picture tell it; what was corrected is told already and is measured no more.
 * @param reading what is held true; @param evidence null while nothing is measured
 * @returns null without a picture
 */
export function untreatedOf(
  { kind, video }: Reading,
  evidence: Evidence | null,
  corrections: Corrections = {},
): Untreated | null {
  if (!video) return null
  const known = {
    ...plainly(pictureOf(video)),
    captureRate: video.captureRate,
    isOverlay: kind === 'still' || video.alpha,
  }
  if (!evidence || kind !== 'video') return known
  const { rate, scan, repeatsOut, pulldownOut, crop } = corrections
  const isTimed = rate !== undefined || repeatsOut !== undefined || pulldownOut !== undefined
  return {
    ...known,
    pulldown: isTimed ? null : provenPulldown(evidence),
    repeats: isTimed ? null : provenRepeats(evidence, video.rate),
    isOfOneMoment: scan === undefined && video.scan === 'interlaced' && isOfOneMoment(evidence),
    bars: crop === undefined ? provenBars(evidence) : null,
  }
}
