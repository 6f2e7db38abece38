import type { Clip } from '../model/clip'
import type { Format } from '../format/format'
import type { VideoFacts } from '../reading/reading'
import type { Drawing } from './drawing'

/** The families in which terms are listed. */
export const families = [
  'motion',
  'fields',
  'size and shape',
  'colour',
  'files',
  'the cut',
  'sound',
  'our own words',
] as const
export type Family = (typeof families)[number]

/** A clip that is in hand while a term is looked up, and the format that it stands in. */
export interface ClipInHand {
  readonly clip: Clip
  readonly format: Format | null
}

/** A term: what it is in a sentence, a drawing that is worked out, and what it costs when it goes wrong. */
export interface Term {
  /** What it is found by; never changes. */
  readonly id: string
  readonly name: string
  /** Other ways to write it that mean the same: where one of them stands on a screen, it is marked. */
  readonly also: readonly string[]
  readonly says: string
  readonly costs: string
  readonly drawing: Drawing
  /** The sentence about a clip; null where there is nothing to say of this one. */
  readonly ofClip?: (inHand: ClipInHand) => string | null
}

/** A sentence about the picture of a clip in hand; nothing of one without. */
export const ofPicture =
  (say: (video: VideoFacts, inHand: ClipInHand) => string | null) =>
  (inHand: ClipInHand): string | null => {
    const video = inHand.clip.reading?.video
    return video ? say(video, inHand) : null
  }
