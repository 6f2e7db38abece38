import type { Filter } from '../treatment/treatment'
import { type Rational, toNumber } from '../rational/rational'
import { filterKernelOf } from './filter'

/** Where the samples of a plane lie along an axis. */
export interface Siting {
  /** How many samples of luma stand for one of the plane. */
  readonly every: number
  /** How far sample 0 lies from the picture's edge, in halves of a luma sample: 1 on the first luma sample, 2 between it and the next. */
  readonly halves: number
}

/** How a picture lies along an axis of another, in luma: a source position u stands at scale·u + shift. */
export interface AxisMap {
  readonly scale: Rational
  readonly shift: Rational
}

/** What samples of a plane along an axis are made of, once for all of its lines. */
export interface Taps {
  /** How many source samples weigh in each. */
  readonly count: number
  /** The first of them, for each sample; it and those behind it may lie outside, where the edge's sample stands for them. */
  readonly first: Int32Array
  /** Weights of each, one after the other; those of a sample are `one` together. */
  readonly weights: Int16Array
}

/** The sum of all weights. */
export const unity = 16_384

/** A whole that is not exact could tell another sample as the nearest. */
function exactly(value: number): number {
  if (!Number.isSafeInteger(value)) throw new RangeError('this map is finer than positions are told')
  return value
}

/**
 * Positions as exact fractions: the n-th sample of a target plane lies at `(n·step + start) / unit` of the source plane.
 * c = ((m′·n + o′ − t)/σ − o)/m, with m, o of the source plane, m′, o′ of the target's, σ and t of the map.
 */
function positions(map: AxisMap, from: Siting, to: Siting) {
  const { num: a, den: b } = map.scale
  const { num: p, den: q } = map.shift
  return {
    unit: exactly(2 * q * a * from.every),
    step: exactly(2 * q * b * to.every),
    start: exactly((q * to.halves - 2 * p) * b - q * from.halves * a),
  }
}

/**
 * The weights of a filter along an axis, in units of 1/16384: normalised, rounded, and what is missing given to the largest.
 * @param length samples of the target plane
 */
export function tapsOf(filter: Filter, map: AxisMap, from: Siting, to: Siting, length: number): Taps {
  const { unit, step, start } = positions(map, from, to)
  if (filter === 'nearest') {
    const first = Int32Array.from({ length }, (_, n) =>
      Math.floor((2 * (n * step + start) + unit) / (2 * unit)),
    )
    return { count: 1, first, weights: new Int16Array(length).fill(unity) }
  }
  const { radius, at } = filterKernelOf[filter]
  const widening = Math.max(1, 1 / toNumber(map.scale))
  const reach = radius * widening
  const count = Math.max(1, Math.ceil(2 * reach))
  const first = new Int32Array(length)
  const weights = new Int16Array(length * count)
  const raw = new Float64Array(count)
  for (let n = 0; n < length; n++) {
    const position = exactly(n * step + start)
    const lowest = Math.floor(position / unit - reach) + 1
    first[n] = lowest
    let sum = 0
    for (let k = 0; k < count; k++) {
      const away = ((lowest + k) * unit - position) / unit
      sum += raw[k] = Math.abs(away) < reach ? at(away / widening) : 0
    }
    let [left, largest] = [unity, 0]
    const base = n * count
    for (let k = 0; k < count; k++) {
      const weight = Math.floor(((raw[k] ?? 0) / sum) * unity + 0.5)
      weights[base + k] = weight
      left -= weight
      if (weight > (weights[base + largest] ?? 0)) largest = k
    }
    weights[base + largest] = (weights[base + largest] ?? 0) + left
  }
  return { count, first, weights }
}
