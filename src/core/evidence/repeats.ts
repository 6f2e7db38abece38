import type { PairSums } from './pair'
import { sadOf } from './pair'
import type { Series } from './series'
import { greatestLast, median, quantile, sorted } from './statistics'

/** Whether the second frame of a pair repeats the first; null where it cannot be told. */
export type Flag = boolean | null

/** What is known of each pair of a run when repeats are looked for. */
export interface Differences {
  /** Mean difference, in codes, of the blocks that differ most. */
  readonly d: readonly number[]
  /** What a new frame differs by around there. */
  readonly level: readonly number[]
  /** (d − 1.3 N) / (level − 1.3 N): 0 for a repeat, 1 for a new frame. NaN where the picture stands too still. */
  readonly z: readonly number[]
  readonly flags: readonly Flag[]
}

const around = 8

/** Mean of the 2 % of blocks, at least 4, that differ most. */
export function mostDiffering(
  pair: PairSums,
  differenceOf: (pair: PairSums, block: number) => number = sadOf,
): number {
  const values = new Float64Array(pair.sadTop.length)
  for (let k = 0; k < values.length; k++) values[k] = differenceOf(pair, k)
  const count = Math.min(values.length, Math.max(4, Math.round(values.length * 0.02)))
  if (count < values.length) greatestLast(values, count)
  let sum = 0
  for (let i = values.length - count; i < values.length; i++) sum += values[i] ?? 0
  return count ? sum / count : 0
}

/** Tells repeats from new frames, by how much pairs differ beside those around them. */
export function differencesIn({ pairs, cuts, noise }: Series): Differences {
  const d = pairs.map((pair) => mostDiffering(pair))
  const level = d.map((_, i) => {
    const near: number[] = []
    for (let j = Math.max(0, i - around); j <= Math.min(d.length - 1, i + around); j++)
      if (!cuts[j]) near.push(d[j] ?? 0)
    near.sort((a, b) => b - a)
    return near[2] ?? 0
  })
  const z = d.map((value, i) => {
    const L = level[i] ?? 0
    return L < 3 + 2 * noise ? NaN : (value - 1.3 * noise) / (L - 1.3 * noise)
  })
  const flags = z.map((value, i): Flag => {
    if (cuts[i]) return false
    return value < 0.25 ? true : value > 0.4 ? false : null
  })
  return { d, level, z, flags: withoutStills(withoutSlow(flags, d, level)) }
}

/** Where repeats are there, what moves too little beside them is not told from one. */
function withoutSlow(flags: readonly Flag[], d: readonly number[], level: readonly number[]): Flag[] {
  const repeats = d.filter((_, i) => flags[i] === true)
  if (repeats.length < 3) return [...flags]
  const least = Math.max(2.5 * median(repeats) + 1, 0.15 * quantile(sorted(level), 0.9))
  return flags.map((flag, i) => ((level[i] ?? 0) < least ? null : flag))
}

/** A long stretch of repeats, or one with nothing new before or after it, is a picture that stands still. */
function withoutStills(flags: readonly Flag[]): Flag[] {
  const result = [...flags]
  const newWithin = (from: number, to: number) => flags.slice(Math.max(0, from), to + 1).includes(false)
  for (let begin = 0; begin < flags.length; begin++) {
    if (flags[begin] !== true) continue
    let end = begin
    while (flags[end + 1] === true) end++
    const still = end - begin + 1 > 12 || !newWithin(begin - 4, begin - 1) || !newWithin(end + 1, end + 4)
    if (still) result.fill(null, begin, end + 1)
    begin = end
  }
  return result
}
