import type { Rational } from '../rational/rational'
import type { FieldMethod, Phase } from './treatment'

/**
 * How source time passes while a placement runs: with the timeline's (times a factor), or step by step — each of the
 * clip's frames, or fields where it is shown field by field, on one frame of the timeline.
 */
export type Passing =
  { readonly kind: 'in-time'; readonly factor: Rational } | { readonly kind: 'step-by-step' }

/** What of the source a frame of the timeline takes up, once the moment is known. */
export type Taking =
  /** Whole frames; the fields of interlaced ones stand woven. */
  | { readonly kind: 'frames'; readonly mixed: boolean }
  /** One field of a frame made whole: always the first or the second, each in turn, or both averaged. */
  | {
      readonly kind: 'deinterlaced'
      readonly method: FieldMethod | 'blend'
      readonly keep: 'first' | 'second' | 'each'
      readonly mixed: boolean
    }
  /** Each field of an interlaced timeline at its own moment, out of the clip's frames or out of its fields. */
  | { readonly kind: 'fields'; readonly outOf: 'frames' | 'fields' }
  | { readonly kind: 'pulldown'; readonly phase: Phase }
  | { readonly kind: 'remove-pulldown'; readonly phase: Phase }

/** A treatment settled for one clip in one format: nothing is `auto` any more. */
export interface Run {
  readonly passing: Passing
  readonly taking: Taking
}
