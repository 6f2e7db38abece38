import { type Rate } from '../rate/rate'
import { cadence, sourceFrameAt } from '../rate/cadence'
import { equal, toNumber } from '../rational/rational'
import { mixtureAt } from './blend'

/** Ways of bringing a rate to another, to be watched beside the motion as it was filmed. */
export type LaneKind = 'filmed' | 'hold' | 'blend' | 'every-frame'

/** What stands on screen in one lane at a moment: source frames and how much of each is seen. */
export interface Standing {
  readonly frame: number
  readonly share: number
}

/** One lane of the demonstration. */
export interface Lane {
  readonly kind: LaneKind
  /** Pictures a second that the lane shows. */
  readonly rate: Rate
  /** What is on screen `seconds` after the start, at true speed. */
  at(seconds: number): readonly Standing[]
}

/** The lanes worth watching for a pair of rates: as filmed, as frames land, and what else would be another motion. */
export function lanesFor(source: Rate, timeline: Rate): Lane[] {
  const S = toNumber(source)
  const T = toNumber(timeline)
  const one = (frame: number) => [{ frame, share: 1 }]
  const filmed: Lane = { kind: 'filmed', rate: source, at: (t) => one(Math.floor(t * S + 1e-9)) }
  if (equal(source, timeline)) return [filmed]
  const onTimeline = (t: number) => Math.floor(t * T + 1e-9)
  const hold: Lane = {
    kind: 'hold',
    rate: timeline,
    at: (t) => one(sourceFrameAt(onTimeline(t), source, timeline)),
  }
  const blend: Lane = {
    kind: 'blend',
    rate: timeline,
    at(t) {
      const { frame, weight } = mixtureAt(onTimeline(t), source, timeline)
      // Before the first frame there is nothing to mix with.
      if (frame < 0) return one(0)
      return [
        { frame, share: 1 - weight },
        { frame: frame + 1, share: weight },
      ].filter((standing) => standing.share >= 0.02)
    },
  }
  const everyFrame: Lane = { kind: 'every-frame', rate: timeline, at: (t) => one(onTimeline(t)) }
  switch (cadence(source, timeline).kind) {
    case 'even-hold':
      return [filmed, hold]
    case 'uneven':
      return [filmed, hold, blend, everyFrame]
    default:
      return [filmed, hold, everyFrame]
  }
}
