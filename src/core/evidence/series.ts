import { type PairSums, blockPixels, sadOf } from './pair'
import { greatestLast, sorted } from './statistics'

/** Consecutive frames of a clip, measured: pair `i` lies between frame `first + i` and the next. */
export interface SeriesRun {
  readonly first: number
  readonly pairs: readonly PairSums[]
}

/** A run with what is known of it as a whole. */
export interface Series extends SeriesRun {
  /** Noise of the clip, in codes a pixel: what differs where nothing moves. */
  readonly noise: number
  /** Whether a pair lies across a cut. */
  readonly cuts: readonly boolean[]
}

/** The share of the picture that has to be seen for anything to be said of it: 0.05 % of its blocks. */
export const leastArea = 0.0005
export const coversArea = (blocks: number, { across, down }: Pick<PairSums, 'across' | 'down'>): boolean =>
  blocks > 0 && blocks >= leastArea * across * down

/** The noise of a clip: the median of the lowest quarter of all its block differences. */
export function noiseOf(runs: readonly SeriesRun[]): number {
  // Differences are sums of whole codes: counted, not sorted.
  const counts = new Uint32Array(blockPixels * 256)
  let total = 0
  for (const { pairs } of runs)
    for (const pair of pairs) {
      for (let k = 0; k < pair.sadTop.length; k++) {
        const sum = (pair.sadTop[k] ?? 0) + (pair.sadBottom[k] ?? 0)
        counts[sum] = (counts[sum] ?? 0) + 1
      }
      total += pair.sadTop.length
    }
  let seen = 0
  for (let sum = 0; sum < counts.length; sum++) {
    seen += counts[sum] ?? 0
    if (seen > total / 8) return sum / blockPixels
  }
  return 0
}

/** The cuts of a run: pairs that differ over most of the picture, and far more than those around them. */
export function cutsOf({ pairs }: SeriesRun): boolean[] {
  const medians = pairs.map((pair) => {
    const sads = new Float64Array(pair.sadTop.length)
    for (let k = 0; k < sads.length; k++) sads[k] = sadOf(pair, k)
    greatestLast(sads, Math.ceil(sads.length / 2))
    return sads[sads.length >> 1] ?? 0
  })
  return medians.map((middle, i) => {
    const around = sorted(medians.slice(Math.max(0, i - 4), i + 5))
    const second = around[around.length - 2] ?? 0
    return middle > 6 && middle > 4 * Math.max(1, second)
  })
}

/** Runs with the noise of the clip and their own cuts. */
export const seriesOf = (runs: readonly SeriesRun[]): Series[] => {
  const noise = noiseOf(runs)
  return runs.map((run) => ({ ...run, noise, cuts: cutsOf(run) }))
}

/** Whether a block moves in a pair. */
export const moves = (pair: PairSums, block: number, noise: number): boolean =>
  sadOf(pair, block) > 2 + 2.5 * noise
