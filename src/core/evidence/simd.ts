import { type KernelExports, loadKernel, memoryStart, reach } from '../kernel/kernel'
import type { Luma } from '../planes/luma'
import type { MeansGatherer } from './bars'
import { linesModule } from './lines.wasm'
import type { MeasuringKernels } from './measure'
import { type PairKernel, type PairSums, pairBlockSide, emptySums, sumsOfBlock } from './pair'
import { pairModule } from './pair.wasm'

/** What the compiled modules give. */
interface PairExports extends KernelExports {
  measure(first: number, second: number, width: number, height: number, out: number): void
  combs(first: number, width: number, height: number, out: number): void
}
interface LineExports extends KernelExports {
  gather(frame: number, width: number, height: number, rows: number, columns: number): void
}

/** The blocks of a picture, and how many bytes a row of sums takes. */
function roomOf({ width, height }: Luma) {
  const blocks = Math.floor(width / pairBlockSide) * Math.floor(height / pairBlockSide)
  return { blocks, row: blocks * Uint16Array.BYTES_PER_ELEMENT }
}

/**
 * The pass over pairs in SIMD, equal to `measurePair` sum by sum. Where it is given the second frame of a pair as the first of the
 * next, as runs do, that is not copied again.
 */
export function simdPairs(): PairKernel {
  const { memory, measure } = loadKernel<PairExports>(pairModule)
  /** The picture that lies in each of two places. */
  const held: [Luma | null, Luma | null] = [null, null]
  let size = 0

  function place(luma: Luma, other: Luma | null): number {
    const known = held.indexOf(luma)
    const at = known >= 0 ? known : held[0] === other ? 1 : 0
    const offset = memoryStart + at * size
    if (known < 0) {
      new Uint8Array(memory.buffer, offset, luma.data.length).set(luma.data)
      held[at] = luma
    }
    return offset
  }

  return (first, second) => {
    const { width, height } = first
    const { blocks, row } = roomOf(first)
    const bytes = Math.ceil(first.data.length / 16) * 16
    if (bytes !== size) {
      size = bytes
      held[0] = held[1] = null
    }
    const out = memoryStart + 2 * size
    // A vector may be read up to sixteen bytes beyond the last pixel.
    reach(memory, out + sumsOfBlock * row + 16)
    const from = place(first, second)
    measure(from, place(second, first), width, height, out)
    const sums = emptySums(width, height)
    const rows: readonly (keyof PairSums)[] = ['sadTop', 'sadBottom', 'n1', 'n2', 'e0', 'eA', 'eB']
    rows.forEach((name, i) => {
      const into = sums[name] as Uint16Array
      into.set(new Uint16Array(memory.buffer, out + i * row, blocks))
    })
    return sums
  }
}

/** Gathers line means in SIMD, equal to `gatherMeans` byte for byte. */
export function simdMeans(): MeansGatherer {
  const { memory, gather } = loadKernel<LineExports>(linesModule)
  let size: { readonly width: number; readonly height: number } | null = null
  let frames = 0
  const lies = (width: number, height: number) => {
    const rowMeans = (width >> 3) * height
    const rows = memoryStart + Math.ceil((width * height) / 16) * 16
    return { rows, rowMeans, columns: rows + rowMeans, columnMeans: (height >> 3) * width }
  }
  return {
    add({ width, height, data }) {
      const { rows, columns, columnMeans } = lies(width, height)
      reach(memory, columns + columnMeans + 16)
      size ??= { width, height }
      new Uint8Array(memory.buffer, memoryStart, data.length).set(data)
      gather(memoryStart, width, height, rows, columns)
      frames++
    },
    get frames() {
      return frames
    },
    means() {
      if (!size) return null
      const { width, height } = size
      const { rows, rowMeans, columns, columnMeans } = lies(width, height)
      const byBand = new Uint8Array(memory.buffer, columns, columnMeans)
      const bands = height >> 3
      const byColumn = new Uint8Array(columnMeans)
      for (let band = 0; band < bands; band++)
        for (let x = 0; x < width; x++) byColumn[x * bands + band] = byBand[band * width + x] ?? 0
      return { width, height, rows: new Uint8Array(memory.buffer, rows, rowMeans).slice(), columns: byColumn }
    },
  }
}

/** The kernels that the app measures with. */
export const simdKernels = (): MeasuringKernels => ({ pair: simdPairs(), gather: simdMeans })

/** The combing counts alone, in SIMD: for each block what `n1` and `n2` of `measurePair` are. */
export function simdCombs(): { place(frame: Luma): void; count(): Pick<PairSums, 'n1' | 'n2'> } {
  const { memory, combs } = loadKernel<PairExports>(pairModule)
  let placed: Luma | null = null
  const outOf = (frame: Luma) => memoryStart + Math.ceil(frame.data.length / 16) * 16
  return {
    place(frame) {
      reach(memory, outOf(frame) + 2 * roomOf(frame).row + 16)
      new Uint8Array(memory.buffer, memoryStart, frame.data.length).set(frame.data)
      placed = frame
    },
    count() {
      if (!placed) throw new Error('a frame is placed before it is counted')
      const { blocks, row } = roomOf(placed)
      const out = outOf(placed)
      combs(memoryStart, placed.width, placed.height, out)
      return {
        n1: new Uint16Array(memory.buffer, out, blocks).slice(),
        n2: new Uint16Array(memory.buffer, out + row, blocks).slice(),
      }
    },
  }
}
