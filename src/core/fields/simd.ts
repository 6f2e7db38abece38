import { type KernelExports, bytesOf, loadKernel, layOut } from '../kernel/kernel'
import type { Samples } from '../planes/planes'
import type { FieldKernels } from './deinterlace'
import { fieldsModule } from './fields.wasm'
import { grown, stillCodes } from './moving'
import { type FieldPlane, firstLine, movingBlockSide, roomLike } from './plane'
import type { Parity } from '../picture/scan'

/** What the compiled module gives; `fields.kernel.ts` says what its words mean. */
interface Exports extends KernelExports {
  interpolated(...words: number[]): void
  blendedBytes(above: number, here: number, below: number, to: number, width: number): void
  blendedWords(above: number, here: number, below: number, to: number, width: number): void
  differingBytes(a: number, b: number, width: number, most: number, differing: number): void
  differingWords(a: number, b: number, width: number, most: number, differing: number): void
}

/** The kernels in SIMD, equal to `plainFields` sample by sample. */
export function simdFields(): FieldKernels {
  const exports = loadKernel<Exports>(fieldsModule)
  const { memory } = exports

  function taken(at: number, like: Samples, into?: Samples | null): Samples {
    const samples = roomLike(like, into)
    bytesOf(samples).set(new Uint8Array(memory.buffer, at, samples.byteLength))
    return samples
  }

  return {
    interpolated({ width, height, samples }, keep, bitDepth, still, into) {
      const wide = bitDepth > 8 ? 1 : 0
      const moving = still?.moving.blocks ?? null
      const [from = 0, spare = 0, blocks = 0] = layOut(memory, samples, width << wide, moving ?? 0)
      const where = still && [blocks, still.moving.across, movingBlockSide / still.across, still.down]
      const lines = [from, width, height, firstLine(keep), wide, 2 ** bitDepth - 1, spare]
      if (height > 1) exports.interpolated(...lines, ...(where ?? [0, 0, 0, 0]))
      return taken(from, samples, into)
    },
    blended({ width, height, samples }, into) {
      const line = samples.BYTES_PER_ELEMENT * width
      const [from = 0, to = 0] = layOut(memory, samples, samples.byteLength)
      const blend = samples instanceof Uint8Array ? exports.blendedBytes : exports.blendedWords
      for (let y = 0; y < height; y++) {
        const [above, here, below] = [Math.max(0, y - 1), y, Math.min(height - 1, y + 1)].map(
          (at) => from + at * line,
        ) as [number, number, number]
        blend(above, here, below, to + y * line, width)
      }
      return taken(to, samples, into)
    },
    movingBetween(before: FieldPlane, after: FieldPlane, parity: Parity, bitDepth: number) {
      const { width, height, samples } = before
      const line = samples.BYTES_PER_ELEMENT * width
      const [across, down] = [Math.ceil(width / movingBlockSide), Math.ceil(height / movingBlockSide)]
      const [a = 0, b = 0, counts = 0] = layOut(memory, samples, after.samples, new Uint8Array(across * down))
      const most = stillCodes * 2 ** (bitDepth - 8)
      const count = bitDepth > 8 ? exports.differingWords : exports.differingBytes
      for (let y = firstLine(parity); y < height; y += 2)
        count(a + y * line, b + y * line, width, most, counts + Math.floor(y / movingBlockSide) * across)
      const differing = new Uint8Array(memory.buffer, counts, across * down)
      return { across, down, blocks: grown(differing, across, down) }
    },
  }
}
