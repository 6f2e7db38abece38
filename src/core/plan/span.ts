import { sourceTimeAfter } from '../motion/shown'
import { type Rational, divide, multiply, rational, subtract } from '../rational/rational'
import type { Run } from '../treatment/run'
import type { Doc } from '../model/project'
import { timingOfPlacement } from './running'
import { fileClock } from '../model/timing'
import type { Placement, Timeline } from '../model/timeline'

/** What of its source a placement goes through, as its file counts seconds: what other programs know of it. */
export interface SourceSpan {
  readonly from: Rational
  readonly to: Rational
  /** Seconds of the file for one of the timeline, in the mean. */
  readonly speed: Rational
}

/** The stretch of its source's file that a placement goes through. @param way as the placement is settled */
export function spanOf(doc: Doc, { rate }: Timeline, placement: Placement, way: Run): SourceSpan {
  const { source, sourceIn, length } = placement
  const clip = source.kind === 'clip' ? doc.clips[source.clipId] : undefined
  const timing = timingOfPlacement(doc, placement)
  const inFile = (time: Rational) => (clip ? fileClock(clip).inFile(time) : time)
  const from = inFile(sourceIn)
  if (!rate) return { from, to: from, speed: rational(1) }
  if (timing.kind === 'still') return { from, to: divide(rational(length), rate), speed: rational(1) }
  const to = inFile(sourceTimeAfter({ sourceIn, way }, timing, rate, length))
  return { from, to, speed: divide(multiply(subtract(to, from), rate), rational(length)) }
}
