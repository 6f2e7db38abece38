import type { Rate } from '../rate/rate'
import { type LineMeans, barsIn, greaterMeans, lineMeans } from './bars'
import { detailOf } from './detail'
import { type Evidence, evidenceOf } from './evidence'
import type { Luma } from '../planes/luma'
import { type PairKernel, type PairSums, measurePair } from './pair'

/** A stretch of consecutive frames. */
export interface Stretch {
  readonly first: number
  readonly count: number
}

/** The run that repeats are looked for in, and the shorter ones spread over the clip. */
const [longRun, shortRun, shortRuns] = [75, 24, 7]

/** Which frames of a clip are looked at: all of a short one, else a long run in its middle and short ones spread over it. */
export function samplingOf(frameCount: number): Stretch[] {
  if (frameCount <= longRun + shortRuns * shortRun)
    return frameCount > 0 ? [{ first: 0, count: frameCount }] : []
  const middle = Math.floor((frameCount - longRun) / 2)
  const room = frameCount - shortRun
  const spread = Array.from({ length: shortRuns }, (_, i) =>
    Math.round((room * (2 * i + 1)) / (2 * shortRuns)),
  )
  const apart = spread.filter((first) => first + shortRun <= middle || first >= middle + longRun)
  return [{ first: middle, count: longRun }, ...apart.map((first) => ({ first, count: shortRun }))]
}

/** Takes every so many of what passes by, so that what is kept is spread over all of it. */
function spreadSample<T>(most: number) {
  let stride = 1
  let seen = 0
  let kept: T[] = []
  return {
    /** @param make is only called for what is kept */
    offer(make: () => T) {
      if (seen++ % stride !== 0) return
      kept.push(make())
      if (kept.length < 2 * most) return
      kept = kept.filter((_, i) => i % 2 === 0)
      stride *= 2
    },
    /** At most so many, evenly spread. */
    all(): T[] {
      const step = Math.max(1, kept.length / most)
      return Array.from({ length: Math.min(most, kept.length) }, (_, i) => kept[Math.floor(i * step)] as T)
    },
  }
}

/** Frames of a clip as they are measured, one after the other. */
export interface Measuring {
  /** Looks at a frame. A run goes on while its number follows the one before. */
  frame(index: number, luma: Luma): void
  /** @param rate of the clip as its wrapper says; null where it does not */
  finish(rate: Rate | null): Evidence
}

/**
 * Measures a clip from its decoded frames.
 * @param kernel the pass over pairs
 */
export function startMeasuring(kernel: PairKernel = measurePair): Measuring {
  const runs: { first: number; pairs: PairSums[] }[] = []
  const means = spreadSample<LineMeans>(48)
  const pictures = spreadSample<Luma>(8)
  let frames = 0
  let before: { index: number; luma: Luma } | null = null
  return {
    frame(index, luma) {
      frames++
      means.offer(() => lineMeans(luma))
      pictures.offer(() => luma)
      const run = runs.at(-1)
      if (run && before && before.index === index - 1) run.pairs.push(kernel(before.luma, luma))
      else runs.push({ first: index, pairs: [] })
      before = { index, luma }
    },
    finish(rate) {
      const looked = means.all()
      const [one, ...others] = looked
      const bars = one
        ? barsIn(others.reduce(greaterMeans, one), looked.length)
        : { top: 0, bottom: 0, left: 0, right: 0, confidence: 0 }
      const detail = detailOf(pictures.all(), bars)
      return evidenceOf(runs, rate, { bars, detail, frames })
    },
  }
}
