import { type Plane, type PlaneKernel, deepestRounded, roundingOf } from './plane'
import { resampleModule } from './resample.wasm'
import type { Taps } from './taps'

/** What the compiled module gives; `kernels/resample.ts` says what its words mean. */
interface Exports {
  readonly memory: WebAssembly.Memory
  plane(...words: number[]): void
  deepPlane(...words: number[]): void
}

const page = 65_536
/** The beginning of memory is left to the module. */
const start = 1024
/** Beyond the last sample of a line a vector may be read and written. */
const beyond = 64
/** Weights in a vector, and columns that are made together. */
const lanes = 8

/** Places in memory, one behind the other, each at an even vector. */
function places() {
  let at = start
  return {
    take(bytes: number): number {
      const from = at
      at += Math.ceil((bytes + beyond) / 16) * 16
      return from
    },
    end: () => at,
  }
}

/** The taps of columns as the kernel takes them: whole vectors of weights, first places within the padded row. */
function widened(taps: Taps, width: number, pad: number) {
  const columns = taps.first.length
  const room = Math.ceil(columns / lanes) * lanes
  const vectors = Math.ceil(taps.count / lanes)
  const first = new Int32Array(room)
  const weights = new Int16Array(room * vectors * lanes)
  for (let n = 0; n < columns; n++) {
    // Whoever lies wholly outside is the edge, wherever outside.
    first[n] = Math.max(-pad, Math.min(width + pad - vectors * lanes, taps.first[n] ?? 0))
    weights.set(taps.weights.subarray(n * taps.count, (n + 1) * taps.count), n * vectors * lanes)
  }
  return { first, weights, vectors }
}

/** The kernel in SIMD, equal to `resamplePlane` sample by sample. */
export function simdResample(): PlaneKernel {
  const bytes = Uint8Array.from(atob(resampleModule), (char) => char.charCodeAt(0))
  const { memory, plane, deepPlane } = new WebAssembly.Instance(new WebAssembly.Module(bytes), {
    env: { abort: () => {} },
  }).exports as unknown as Exports

  return ({ width, height, samples }: Plane, across: Taps, down: Taps, bitDepth: number): Plane => {
    const [columns, rows] = [across.first.length, down.first.length]
    const wide = bitDepth > 8 ? 1 : 0
    const isDeep = bitDepth > deepestRounded
    // Weights are padded to whole vectors, which reach as far again beyond what they weigh.
    const pad = 2 * Math.ceil(across.count / lanes) * lanes
    const taken = widened(across, width, pad)
    const room = places()
    const source = room.take(samples.byteLength)
    const made = room.take((columns * rows) << wide)
    const downFirst = room.take(down.first.byteLength)
    const downWeights = room.take(down.weights.byteLength)
    const acrossFirst = room.take(isDeep ? across.first.byteLength : taken.first.byteLength)
    const acrossWeights = room.take(isDeep ? across.weights.byteLength : taken.weights.byteLength)
    const pairs = room.take(8 * (down.count + 1))
    const row = room.take(isDeep ? 8 * width : 2 * (width + 2 * pad + 16)) + 2 * (isDeep ? 0 : pad)
    const missing = room.end() - memory.buffer.byteLength
    if (missing > 0) memory.grow(Math.ceil(missing / page))

    const { buffer } = memory
    const put = (
      at: number,
      values: { readonly buffer: ArrayBufferLike; readonly byteOffset: number; readonly byteLength: number },
    ) =>
      new Uint8Array(buffer, at, values.byteLength).set(
        new Uint8Array(values.buffer, values.byteOffset, values.byteLength),
      )
    put(source, samples)
    put(downFirst, down.first)
    put(downWeights, down.weights)
    put(acrossFirst, isDeep ? across.first : taken.first)
    put(acrossWeights, isDeep ? across.weights : taken.weights)
    const most = 2 ** bitDepth - 1
    const vertical = [downFirst, downWeights, down.count] as const
    if (isDeep) {
      const horizontal = [acrossFirst, acrossWeights, across.count] as const
      deepPlane(source, width, height, made, columns, rows, ...vertical, ...horizontal, row, most)
    } else {
      const shift = roundingOf(bitDepth)
      const horizontal = [acrossFirst, acrossWeights, taken.vectors] as const
      const rounding = [shift.down, shift.across, most] as const
      plane(
        source,
        wide,
        width,
        height,
        made,
        columns,
        rows,
        ...vertical,
        ...horizontal,
        pairs,
        row,
        pad,
        ...rounding,
      )
    }
    const result = wide
      ? new Uint16Array(buffer.slice(made, made + 2 * columns * rows))
      : new Uint8Array(buffer.slice(made, made + columns * rows))
    return { width: columns, height: rows, samples: result }
  }
}
