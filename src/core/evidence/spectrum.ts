import FFT from 'fft.js'
import { sorted } from './statistics'

/** A Hann window. */
export const hann = (length: number): Float64Array =>
  Float64Array.from({ length }, (_, i) => 0.5 - 0.5 * Math.cos((2 * Math.PI * (i + 0.5)) / length))

/** Magnitudes of the first half of a spectrum, from 0 to half a cycle a sample. The length is a power of two. */
export function magnitudes(fft: FFT, signal: Float64Array): Float64Array {
  const out = fft.createComplexArray()
  fft.realTransform(out, signal)
  return Float64Array.from({ length: fft.size / 2 + 1 }, (_, k) =>
    Math.hypot(out[2 * k] ?? 0, out[2 * k + 1] ?? 0),
  )
}

/** A row of values along a picture, looked at for what comes back at an even distance. */
export interface Periods {
  /** Cycles a sample of one bin. */
  readonly step: number
  /** Bins over which one line spreads to each side. */
  readonly spread: number
  /** How deep each bin's wave is, as a share of the mean. */
  readonly depth: Float64Array
  /** How far each bin stands over those around it. */
  readonly z: Float64Array
}

/** One wave in a row of values, under a Hann window: how deep it is, as a share of the mean, and where it stands, in turns from 0. */
export interface Wave {
  readonly depth: number
  readonly turn: number
}

/**
 * The wave of one frequency in part of a row of values that are flattened by themselves.
 * @param from where the part begins: turns are counted from the beginning of the row
 */
export function waveAt(values: ArrayLike<number>, f: number, from = 0, to = values.length): Wave {
  const flat = flattened(Array.prototype.slice.call(values, from, to) as number[])
  let [real, imaginary, weight] = [0, 0, 0]
  for (const [i, w] of hann(flat.length).entries()) {
    const value = (flat[i] ?? 0) * w
    const angle = 2 * Math.PI * f * (from + i)
    real += value * Math.cos(angle)
    imaginary -= value * Math.sin(angle)
    weight += w
  }
  return {
    depth: (2 * Math.hypot(real, imaginary)) / Math.max(1e-9, weight),
    turn: Math.atan2(imaginary, real) / (2 * Math.PI),
  }
}

/** Values beside the mean of the 17 around them, less 1, within ±1. */
function flattened(values: ArrayLike<number>): Float64Array {
  const reach = 8
  const sums = new Float64Array(values.length + 1)
  for (let i = 0; i < values.length; i++) sums[i + 1] = (sums[i] ?? 0) + (values[i] ?? 0)
  return Float64Array.from({ length: values.length }, (_, i) => {
    const [from, to] = [Math.max(0, i - reach), Math.min(values.length, i + reach + 1)]
    const mean = ((sums[to] ?? 0) - (sums[from] ?? 0)) / (to - from)
    return mean > 1e-6 ? Math.max(-1, Math.min(1, (values[i] ?? 0) / mean - 1)) : 0
  })
}

/** What comes back evenly in a row of values: its spectrum under a Hann window, padded fourfold. */
export function periodsOf(values: ArrayLike<number>): Periods {
  const flat = flattened(values)
  const window = hann(flat.length)
  const size = 2 ** Math.ceil(Math.log2(4 * flat.length))
  const signal = new Float64Array(size)
  flat.forEach((value, i) => (signal[i] = value * (window[i] ?? 0)))
  const found = magnitudes(new FFT(size), signal)
  const weight = window.reduce((sum, w) => sum + w, 0)
  const floor = runningMedian(found, 801)
  return {
    step: 1 / size,
    spread: size / flat.length,
    depth: found.map((value) => (2 * value) / weight),
    z: found.map((value, k) => value / Math.max(1e-9, floor(k))),
  }
}

/** The median of so many values around each; looked at every few, as it changes slowly. */
function runningMedian(values: Float64Array, width: number): (k: number) => number {
  const [stride, reach] = [32, width >> 1]
  const medians: number[] = []
  for (let k = 0; k < values.length; k += stride) {
    const near = sorted(values.subarray(Math.max(0, k - reach), k + reach + 1))
    medians.push(near[near.length >> 1] ?? 0)
  }
  return (k) => medians[Math.round(k / stride)] ?? medians.at(-1) ?? 0
}
