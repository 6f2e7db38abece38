import { type Rate } from '../rate/rate'
import { cadence } from '../rate/cadence'
import { equal, rational, toNumber } from '../rational/rational'
import type { Run } from '../treatment/run'
import { type Running, shownAt } from './shown'
import type { ClipTiming } from './timing'

/** Ways of bringing a rate to another, to be watched beside the motion as it was filmed. */
export type LaneKind = 'filmed' | 'hold' | 'blend' | 'every-frame'

/** What stands on screen in one lane at a moment: source frames and how much of each is seen. */
export interface LaneState {
  readonly frame: number
  readonly share: number
}

/** One lane of the demonstration. */
export interface Lane {
  readonly kind: LaneKind
  /** Pictures a second that the lane shows. */
  readonly rate: Rate
  /** What is on screen `seconds` after the start, at true speed. */
  at(seconds: number): readonly LaneState[]
}

const inTime = { kind: 'in-time', factor: rational(1) } as const
const ways: Readonly<Record<Exclude<LaneKind, 'filmed'>, Run>> = {
  hold: { passing: inTime, taking: { kind: 'frames', mixed: false } },
  blend: { passing: inTime, taking: { kind: 'frames', mixed: true } },
  'every-frame': { passing: { kind: 'step-by-step' }, taking: { kind: 'frames', mixed: false } },
}

/** Longer than anybody watches. */
const endless = 2 ** 31

/** The source frames that a timeline frame shows under a way, without its end; progressive frames of a constant rate. */
export function laneStateAt(way: Run, source: Rate, timeline: Rate, n: number): LaneState[] {
  const timing: ClipTiming = { kind: 'constant', rate: source, count: endless, counted: true }
  const running: Running = {
    sourceIn: rational(0),
    way,
    fieldOrder: null,
    shownOrder: null,
  }
  const shown = shownAt(running, timing, timeline, n)
  if (shown.kind === 'frame') return [{ frame: shown.index, share: 1 }]
  if (shown.kind !== 'mix' || shown.a.kind !== 'frame' || shown.b.kind !== 'frame') return []
  return [
    { frame: shown.a.index, share: 1 - shown.weightOfB },
    { frame: shown.b.index, share: shown.weightOfB },
  ].filter(({ share }) => share >= 0.02)
}

/** The source frames that the first `count` timeline frames show, held as they land: a cadence drawn. */
export const heldFrames = (source: Rate, timeline: Rate, count: number): number[] =>
  Array.from({ length: count }, (_, n) => laneStateAt(ways.hold, source, timeline, n)[0]?.frame ?? 0)

/** The lanes worth watching for a pair of rates: as filmed, as frames land, and what else would be another motion. */
export function lanesFor(source: Rate, timeline: Rate): Lane[] {
  const S = toNumber(source)
  const T = toNumber(timeline)
  const filmed: Lane = {
    kind: 'filmed',
    rate: source,
    at: (t) => [{ frame: Math.floor(t * S + 1e-9), share: 1 }],
  }
  if (equal(source, timeline)) return [filmed]
  const lane = (kind: keyof typeof ways): Lane => ({
    kind,
    rate: timeline,
    at: (t) => laneStateAt(ways[kind], source, timeline, Math.floor(t * T + 1e-9)),
  })
  switch (cadence(source, timeline).kind) {
    case 'even-hold':
      return [filmed, lane('hold')]
    case 'uneven':
      return [filmed, lane('hold'), lane('blend'), lane('every-frame')]
    default:
      return [filmed, lane('hold'), lane('every-frame')]
  }
}
