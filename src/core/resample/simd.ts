import { type KernelExports, bytesOf, loadKernel, layOut } from '../kernel/kernel'
import { placeFor } from '../planes/planes'
import { type PlaneKernel, deepestRounded, roundingOf } from './plane'
import { resampleModule } from './resample.wasm'
import type { Taps } from './taps'

/** What the compiled module gives; `resample.kernel.ts` says what its words mean. */
interface Exports extends KernelExports {
  plane(...words: number[]): void
  deepPlane(...words: number[]): void
}

/** Weights in a vector, and columns that are made together. */
const lanes = 8

/** Taps of columns as the kernel takes them. */
interface Columns {
  readonly first: Int32Array
  readonly weights: Int16Array
  /** Of the rows that they weigh. */
  readonly width: number
  /** 2: every column two places on; 1: two columns for each place; 0: any. */
  readonly step: 0 | 1 | 2
  readonly vectors: number
  /** So many samples a row goes on beyond its ends. */
  readonly pad: number
}

/** Whether all columns of a remainder weigh as the first of them does, so many places on from each to the next. */
function areAlike({ first, weights, count }: Taps, every: number, by: number): boolean {
  for (let n = every; n < first.length; n++) {
    if (first[n] !== (first[n - every] as number) + by) return false
    for (let k = 0; k < count; k++)
      if (weights[n * count + k] !== weights[(n - every) * count + k]) return false
  }
  return first.length >= every
}

/** The weights of a column as pairs of neighbours, each filling a vector. */
function inPairs({ weights, count }: Taps, column: number): number[] {
  return Array.from({ length: Math.ceil(count / 2) }, (_, pair) => {
    const at = column * count + 2 * pair
    const both = [weights[at] ?? 0, 2 * pair + 1 < count ? (weights[at + 1] ?? 0) : 0]
    return Array.from({ length: 4 }, () => both).flat()
  }).flat()
}

function columnsOf(taps: Taps, width: number): Columns {
  const { first, count } = taps
  // Weights are padded to whole vectors, which reach as far again beyond what they weigh.
  const pad = 4 * Math.ceil(count / lanes) * lanes
  const [lowest = 0, highest = 0] = [first[0], first.at(-1)]
  const isNear = lowest >= -pad && highest + count <= width + pad
  if (isNear && areAlike(taps, 1, 2))
    return {
      first,
      weights: Int16Array.from(inPairs(taps, 0)),
      width,
      step: 2,
      vectors: Math.ceil(count / 2),
      pad,
    }
  if (isNear && areAlike(taps, 2, 1)) {
    const weights = Int16Array.from([...inPairs(taps, 0), ...inPairs(taps, 1)])
    return { first, weights, width, step: 1, vectors: Math.ceil(count / 2), pad }
  }
  const columns = first.length
  const room = Math.ceil(columns / lanes) * lanes
  const vectors = Math.ceil(count / lanes)
  const places = new Int32Array(room)
  const weights = new Int16Array(room * vectors * lanes)
  for (let n = 0; n < columns; n++) {
    // Whoever lies wholly outside is the edge, wherever outside.
    places[n] = Math.max(-pad, Math.min(width + pad - vectors * lanes, first[n] as number))
    weights.set(taps.weights.subarray(n * count, (n + 1) * count), n * vectors * lanes)
  }
  return { first: places, weights, width, step: 0, vectors, pad }
}

/** The kernel in SIMD, equal to `resamplePlane` sample by sample. */
export function simdResample(): PlaneKernel {
  const { memory, plane, deepPlane } = loadKernel<Exports>(resampleModule)
  const known = new WeakMap<Taps, Columns>()

  /** Found once for taps and the width of what they weigh. */
  function columnsOnce(across: Taps, width: number): Columns {
    const seen = known.get(across)
    if (seen?.width === width) return seen
    const columns = columnsOf(across, width)
    known.set(across, columns)
    return columns
  }

  return ({ width, height, samples }, across, down, bitDepth, into) => {
    const [columns, rows] = [across.first.length, down.first.length]
    const wide = bitDepth > 8 ? 1 : 0
    const most = 2 ** bitDepth - 1
    const sizes = [width, height, columns, rows, down.count]
    const from = [samples, (columns * rows) << wide, down.first, down.weights]
    let places: number[]
    if (bitDepth > deepestRounded) {
      places = layOut(memory, ...from, across.first, across.weights, 8 * width)
      deepPlane(...places, ...sizes, across.count, most)
    } else {
      const { first, weights, step, vectors, pad } = columnsOnce(across, width)
      const { down: shiftDown, across: shiftAcross } = roundingOf(bitDepth)
      places = layOut(memory, ...from, first, weights, 32 * down.count, 2 * (width + 2 * pad + 64))
      plane(...places, wide, ...sizes, step, vectors, pad, shiftDown, shiftAcross, most)
    }
    const resized = placeFor(columns * rows, wide === 1, into)
    bytesOf(resized).set(new Uint8Array(memory.buffer, places[1], resized.byteLength))
    return { width: columns, height: rows, samples: resized }
  }
}
