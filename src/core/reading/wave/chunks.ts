import { Cursor } from '../bytes/cursor'
import type { FileWindow } from '../bytes/source'

/** A part of a RIFF file. */
export interface WaveChunk {
  readonly kind: string
  /** Where its body begins, and how long it is; the length of a long file stands in another one (EBU Tech 3306). */
  readonly start: number
  readonly length: number
  /** The length as it is stated before it. */
  readonly stated: number
  /** The beginning of its body. */
  readonly head: Cursor
}

const headLength = 40
const mostChunks = 1000

/** The parts of a WAVE or RF64 file, one after the other. */
export async function* waveChunks(file: FileWindow): AsyncGenerator<WaveChunk> {
  let longData = 0
  for (let offset = 12, n = 0; n < mostChunks && offset + 8 <= file.size; n++) {
    const head = new Cursor(await file.some(offset, 8 + headLength), offset)
    const kind = head.code()
    const stated = head.u32(true)
    if (kind === 'ds64' && head.left >= 16) {
      const sizes = head.sub(16)
      sizes.skip(8)
      longData = sizes.u64(true)
    }
    const length = kind === 'data' && stated === 0xffffffff ? longData : stated
    yield { kind, start: offset + 8, length, stated, head }
    offset += 8 + length + (length % 2)
  }
}
