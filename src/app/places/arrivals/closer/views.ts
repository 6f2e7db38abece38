import { type Contradiction, contradictionsOf } from '../../../../core/inspect/contradictions'
import { type Measured, measuredOf } from '../../../../core/inspect/measured'
import type { Clip } from '../../../../core/model/clip'
import { trueFrame } from '../../../../core/reading/correct'

/** What of a frame is looked at: itself, or one of the proofs of what was measured. */
export const views = ['frame', 'combs', 'fields', 'repeats', 'edges', 'detail'] as const
export type View = (typeof views)[number]

/** What each view is for, for the pointer and for readers. */
export const viewTitles: Readonly<Record<View, string>> = {
  frame: 'the frame as it is stored',
  combs: 'the blocks that comb',
  fields: 'both fields, each made whole',
  repeats: 'the frame beside the one before it, and their difference',
  edges: 'the bars that are baked in',
  detail: 'how much detail is in it, across and down',
}

const proofOf: Readonly<Record<Contradiction['about'], View>> = {
  scan: 'combs',
  'field order': 'fields',
  pulldown: 'combs',
  repeats: 'repeats',
  bars: 'edges',
}

/** The proof that matters most of a clip: of its worst contradiction, of its enlargement, or none. */
export function firstView(clip: Clip): View {
  const [worst] = contradictionsOf(clip)
  if (worst) return proofOf[worst.about]
  return clip.evidence?.detail.verdict === 'enlarged' ? 'detail' : 'frame'
}

/** The frame of a clip, as it is corrected, that shows best what a view proves; null where any will do. */
export function bestFrame(clip: Clip, view: View): number | null {
  const { evidence, corrections } = clip
  const stored =
    view === 'repeats'
      ? evidence?.seenAt.repeated
      : view === 'combs' || view === 'fields'
        ? evidence?.seenAt.combed
        : null
  if (stored === null || stored === undefined) return null
  return corrections.repeatsOut ? trueFrame(corrections.repeatsOut, stored) : stored
}

/** The fact that a view is about. */
const aboutOf: Readonly<Record<View, Measured['about'] | null>> = {
  frame: null,
  combs: 'scan',
  fields: 'scan',
  repeats: 'motion',
  edges: 'edges',
  detail: 'picture',
}

/** What was measured about what a view shows. */
export function saysOf(clip: Clip, view: View): string | null {
  const found = measuredOf(clip).find(({ about }) => about === aboutOf[view])
  if (found) return found.says
  return view === 'edges' && clip.evidence ? 'no bars are baked in' : null
}
