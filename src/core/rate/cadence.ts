import { divide, equal, toNumber } from '../rational/rational'
import type { Rate } from './rate'

export type CadenceKind = 'exact' | 'even-hold' | 'even-skip' | 'slip' | 'uneven'

/** How source frames land on timeline frames when nothing is invented: each shown or not, once or more. */
export interface Cadence {
  readonly kind: CadenceKind
  /** Timeline frames in one period. */
  readonly periodTimeline: number
  /** Source frames that one period consumes. */
  readonly periodSource: number
  /** Timeline frames per period that show a source frame again. */
  readonly repeated: number
  /** Source frames per period that are never shown. */
  readonly dropped: number
  /** Unevenness of motion, milliseconds root mean square. */
  readonly judderMs: number
  /** Seconds between two slips; null unless the kind is `slip`. */
  readonly slipSeconds: number | null
}

/** Up to this departure of the rates, an odd repeat or drop is a slip rather than a pattern. */
const slipTolerance = 0.002

/**
 * The cadence of a source rate on a timeline rate, in closed form: no frame is visited, whatever the period.
 *
 * Hold lengths (steps, where the timeline is slower) take only two neighbouring values, since the pattern is
 * that of a straight line on a lattice; with `r` the share of the larger, their spread is √(r·(1−r)).
 */
export function cadence(source: Rate, timeline: Rate): Cadence {
  const { num: Q, den: P } = divide(source, timeline)
  const S = toNumber(source)
  const T = toNumber(timeline)
  const faster = P >= Q
  const share = faster ? (P % Q) / Q : (Q % P) / P
  const kind: CadenceKind = equal(source, timeline)
    ? 'exact'
    : Math.abs(T / S - 1) <= slipTolerance
      ? 'slip'
      : Q === 1
        ? 'even-hold'
        : P === 1
          ? 'even-skip'
          : 'uneven'
  return {
    kind,
    periodTimeline: P,
    periodSource: Q,
    repeated: Math.max(0, P - Q),
    dropped: Math.max(0, Q - P),
    judderMs: (1000 * Math.sqrt(share * (1 - share))) / (faster ? T : S),
    slipSeconds: kind === 'slip' ? 1 / Math.abs(T - S) : null,
  }
}

/** For the first `count` source frames, how many timeline frames show each (0 = dropped). */
export function holdLengths(source: Rate, timeline: Rate, count: number): number[] {
  const { num: Q, den: P } = divide(source, timeline)
  // Frame j is on from the first n with (2n+1)·Q ≥ 2P·j, that is from ⌈(2P·j − Q) / 2Q⌉.
  const firstShown = (j: number) => Math.max(0, Math.ceil((2 * P * j - Q) / (2 * Q)))
  return Array.from({ length: Math.max(0, count) }, (_, j) => firstShown(j + 1) - firstShown(j))
}
