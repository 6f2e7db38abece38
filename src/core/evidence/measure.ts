import type { Rate } from '../rate/rate'
import { type MeansGatherer, barsIn, gatherMeans } from './bars'
import { detailOf } from './detail'
import { type Evidence, evidenceOf } from './evidence'
import type { Luma } from '../planes/luma'
import { type PairKernel, type PairSums, pairBlockSide, measurePair, sumsOfBlock } from './pair'

/** A stretch of consecutive frames. */
export interface FrameRun {
  readonly first: number
  readonly count: number
}

/** The run that repeats are looked for in, and the shorter ones spread over the clip. */
const [longRun, shortRun, shortRuns] = [75, 24, 7]

/** What the sums of all pairs, and the pictures for detail, may take in memory, in bytes each. */
const [sumsBudget, picturesBudget] = [48 * 2 ** 20, 16 * 2 ** 20]

interface Sides {
  readonly width: number
  readonly height: number
}

/** How many pairs of frames of a size are kept. */
const pairsOf = ({ width, height }: Sides): number =>
  Math.floor(sumsBudget / Math.max(1, (width / pairBlockSide) * (height / pairBlockSide) * sumsOfBlock * 2))

/**
 * Which frames of a clip are looked at: all of a short one, else a long run in its middle, which comes first, and short ones
 * spread over it; of very large pictures fewer.
 */
export function samplingOf(frameCount: number, size: Sides): FrameRun[] {
  const pairs = pairsOf(size)
  const runs = Math.max(0, Math.min(shortRuns, Math.floor((pairs - longRun) / shortRun)))
  const most = Math.min(longRun, pairs)
  if (frameCount <= most + runs * shortRun) return frameCount > 0 ? [{ first: 0, count: frameCount }] : []
  const middle = Math.floor((frameCount - most) / 2)
  const behind = middle + most
  const shorts = [
    ...spreadOver(0, middle, Math.ceil(runs / 2)),
    ...spreadOver(behind, frameCount - behind, Math.floor(runs / 2)),
  ]
  return [{ first: middle, count: most }, ...shorts.map((first) => ({ first, count: shortRun }))]
}

/** Where short runs begin that are spread over a part of a clip, as many as are wished and have room. */
function spreadOver(from: number, length: number, wished: number): number[] {
  const runs = Math.min(wished, Math.floor(length / shortRun))
  return Array.from({ length: runs }, (_, i) =>
    Math.round(from + ((2 * i + 1) * length) / (2 * runs) - shortRun / 2),
  )
}

/** Which of the frames that pass are taken, so that those taken are spread over all of them: so many, where it is known how many come. */
function spread(most: number, planned: number) {
  let [seen, taken, stride] = [0, 0, 1]
  const place = (frame: number) => Math.floor((frame * most) / planned)
  return (): boolean => {
    const at = seen++
    if (planned > 0) return at === 0 || place(at) > place(at - 1)
    if (at % stride !== 0) return false
    // Of a pipe nobody knows how much comes: the further on, the rarer one is taken.
    if (++taken % most === 0) stride *= 2
    return true
  }
}

/** Frames of a clip as they are measured, one after the other. */
export interface Measuring {
  /** Looks at a frame. A run goes on while its number follows the one before; its bytes may be used anew after the next. */
  frame(index: number, luma: Luma): void
  /** @param rate of the clip as its wrapper says; null where it does not */
  finish(rate: Rate | null): Evidence
}

/** What looks at pixels. */
export interface MeasuringKernels {
  readonly pair: PairKernel
  readonly gather: () => MeansGatherer
}
/** The kernels plainly written: what others are measured by. */
export const plainKernels: MeasuringKernels = { pair: measurePair, gather: gatherMeans }

/** Frames for bars, and pictures for detail. */
const [mostForBars, mostPictures] = [48, 8]

/**
 * Measures a clip from its decoded frames.
 * @param planned how many frames are wanted, where that is known; 0 of a pipe
 */
export function startMeasuring(kernels: MeasuringKernels = plainKernels, planned = 0): Measuring {
  const runs: { first: number; pairs: PairSums[] }[] = []
  const means = kernels.gather()
  const isForBars = spread(mostForBars, planned)
  let isForDetail: (() => boolean) | null = null
  let pictures: Luma[] = []
  let frames = 0
  let before: { index: number; luma: Luma } | null = null
  return {
    frame(index, luma) {
      frames++
      if (isForBars()) means.add(luma)
      const most = Math.max(1, Math.min(mostPictures, Math.floor(picturesBudget / luma.data.length)))
      isForDetail ??= spread(most, planned)
      if (isForDetail()) pictures.push({ ...luma, data: luma.data.slice() })
      if (pictures.length === 2 * most) pictures = pictures.filter((_, i) => i % 2 === 0)
      const run = runs.at(-1)
      if (run && before && before.index === index - 1) run.pairs.push(kernels.pair(before.luma, luma))
      else runs.push({ first: index, pairs: [] })
      before = { index, luma }
    },
    finish(rate) {
      const greatest = means.means()
      const bars = greatest
        ? barsIn(greatest, means.frames)
        : { top: 0, bottom: 0, left: 0, right: 0, confidence: 0 }
      const step = Math.max(1, pictures.length / mostPictures)
      const shown = Array.from(
        { length: Math.min(mostPictures, pictures.length) },
        (_, i) => pictures[Math.floor(i * step)] as Luma,
      )
      return evidenceOf(runs, rate, { bars, detail: detailOf(shown, bars), frames })
    },
  }
}
