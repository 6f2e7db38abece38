import type { Samples } from '../planes/planes'
import type { FieldKernels } from './deinterlace'
import { fieldsModule } from './fields.wasm'
import { blockSide, grown, stillCodes } from './moving'
import { type FieldPlane, type Parity, firstLine, keptLines } from './plane'

/** What the compiled module gives; `kernels/fields.ts` says what its words mean. */
interface Exports {
  readonly memory: WebAssembly.Memory
  lineOfBytes(p: number, a: number, b: number, n: number, to: number, width: number): void
  lineOfWords(p: number, a: number, b: number, n: number, to: number, width: number, most: number): void
  blendedBytes(above: number, here: number, below: number, to: number, width: number): void
  blendedWords(above: number, here: number, below: number, to: number, width: number): void
  differingBytes(a: number, b: number, width: number, most: number, differing: number): void
  differingWords(a: number, b: number, width: number, most: number, differing: number): void
}

const page = 65_536
/** The beginning of memory is left to the module. */
const start = 1024
/** Beyond the last sample of a line a vector may be read and written. */
const beyond = 64

/** The kernels in SIMD, equal to `plainFields` sample by sample. */
export function simdFields(): FieldKernels {
  const bytes = Uint8Array.from(atob(fieldsModule), (char) => char.charCodeAt(0))
  const exports = new WebAssembly.Instance(new WebAssembly.Module(bytes), { env: { abort: () => {} } })
    .exports as unknown as Exports
  const { memory } = exports

  /** Places for pieces of so many bytes, one behind the other. */
  function places(...lengths: number[]): number[] {
    let at = start
    const found = lengths.map((length) => {
      const from = at
      at += Math.ceil((length + beyond) / 16) * 16
      return from
    })
    const missing = at - memory.buffer.byteLength
    if (missing > 0) memory.grow(Math.ceil(missing / page))
    return found
  }
  const put = (at: number, { buffer, byteOffset, byteLength }: Samples | Uint8Array) =>
    new Uint8Array(memory.buffer, at, byteLength).set(new Uint8Array(buffer, byteOffset, byteLength))
  const taken = (like: Samples, at: number): Samples => {
    const copy = memory.buffer.slice(at, at + like.byteLength)
    return like instanceof Uint8Array ? new Uint8Array(copy) : new Uint16Array(copy)
  }

  return {
    interpolated({ width, height, samples }: FieldPlane, keep: Parity, bitDepth: number): Samples {
      if (height < 2) return samples.slice()
      const line = samples.BYTES_PER_ELEMENT * width
      const [from = 0, spare = 0] = places(samples.byteLength, line)
      put(from, samples)
      const kept = keptLines(height, keep)
      const most = 2 ** bitDepth - 1
      for (let y = 1 - firstLine(keep); y < height; y += 2) {
        const [p, a, b, n] = [y - 3, y - 1, y + 1, y + 3].map((at) => from + kept(at) * line) as [
          number,
          number,
          number,
          number,
        ]
        // What is written beyond a line would fall on the next, which is a kept one: it is made aside.
        if (bitDepth > 8) exports.lineOfWords(p, a, b, n, spare, width, most)
        else exports.lineOfBytes(p, a, b, n, spare, width)
        new Uint8Array(memory.buffer).copyWithin(from + y * line, spare, spare + line)
      }
      return taken(samples, from)
    },
    blended({ width, height, samples }: FieldPlane): Samples {
      const line = samples.BYTES_PER_ELEMENT * width
      const [from = 0, to = 0] = places(samples.byteLength, samples.byteLength)
      put(from, samples)
      const blend = samples instanceof Uint8Array ? exports.blendedBytes : exports.blendedWords
      for (let y = 0; y < height; y++) {
        const [above, here, below] = [Math.max(0, y - 1), y, Math.min(height - 1, y + 1)].map(
          (at) => from + at * line,
        ) as [number, number, number]
        blend(above, here, below, to + y * line, width)
      }
      return taken(samples, to)
    },
    movingBetween(before: FieldPlane, after: FieldPlane, parity: Parity, bitDepth: number) {
      const { width, height, samples } = before
      const line = samples.BYTES_PER_ELEMENT * width
      const [across, down] = [Math.ceil(width / blockSide), Math.ceil(height / blockSide)]
      const [a = 0, b = 0, counts = 0] = places(samples.byteLength, samples.byteLength, across * down)
      put(a, samples)
      put(b, after.samples)
      new Uint8Array(memory.buffer, counts, across * down).fill(0)
      const most = stillCodes * 2 ** (bitDepth - 8)
      const count = bitDepth > 8 ? exports.differingWords : exports.differingBytes
      for (let y = firstLine(parity); y < height; y += 2)
        count(a + y * line, b + y * line, width, most, counts + Math.floor(y / blockSide) * across)
      const differing = new Uint8Array(memory.buffer, counts, across * down)
      return { across, down, blocks: grown(differing, across, down) }
    },
  }
}
