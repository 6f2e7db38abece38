import { ReadingFault } from '../fault'

/** A file as far as reading needs it: its size, and any range of it. */
export interface ByteSource {
  readonly size: number
  /** Requests that went over a network so far, where each read is one; undefined where reads cost little. */
  readonly requests?: number
  /** The bytes from `offset` on, at most `length`; fewer only at the end of the file. */
  read(offset: number, length: number): Promise<Uint8Array>
}

/** A source over bytes in memory. */
export const memorySource = (bytes: Uint8Array): ByteSource => ({
  size: bytes.length,
  read: async (offset, length) => bytes.subarray(offset, Math.min(bytes.length, offset + length)),
})

/** Of a source that is asked over a network, so many requests are made before optional ones are left out. */
const mostRequests = 20
/** Over a network, so much is read at once where steps follow each other closely. */
const stepAhead = 48 * 1024

/** Counts what is read from a source. */
export function countingSource(source: ByteSource): ByteSource & { bytesRead: number; reads: number } {
  const counting = {
    size: source.size,
    bytesRead: 0,
    reads: 0,
    async read(offset: number, length: number) {
      const bytes = await source.read(offset, length)
      counting.bytesRead += bytes.length
      counting.reads++
      return bytes
    },
  }
  return counting
}

/** No reader takes more than this into memory at once, whatever a header asks for. */
export const largestRead = 48 * 1024 * 1024

/** Small reads near each other are served from one window of this size. */
const windowLength = 8 * 1024

/**
 * A file being read by ranges: small reads close together cost one access, lengths are checked against what is left,
 * and an AbortSignal ends the work between two accesses.
 */
export class FileWindow {
  /** Bytes read from the source so far. */
  bytesRead = 0
  #start = 0
  #bytes: Uint8Array = new Uint8Array(0)

  constructor(
    readonly source: ByteSource,
    private readonly signal?: AbortSignal,
  ) {}

  get size(): number {
    return this.source.size
  }

  /** Whether a network lies between: then steps that could be left out are few, and each reads further ahead. */
  get isRemote(): boolean {
    return this.source.requests !== undefined
  }

  /** Whether a step may be taken that only makes facts surer. */
  get canStep(): boolean {
    return (this.source.requests ?? 0) < mostRequests
  }

  /** How much to read where small steps follow each other. */
  ahead(nearby: number): number {
    return this.isRemote ? stepAhead : nearby
  }

  /**
   * The bytes from `offset` on, at most `length`; fewer at the end of the file.
   * @param ahead how much is read at once where the bytes are not at hand
   */
  async some(offset: number, length: number, ahead = this.ahead(windowLength)): Promise<Uint8Array> {
    this.signal?.throwIfAborted()
    if (offset >= this.size || length <= 0) return new Uint8Array(0)
    if (length > largestRead) {
      throw new ReadingFault(
        'unsupported',
        `${length} bytes are asked for at once; at most ${largestRead} are read`,
        offset,
      )
    }
    const wanted = Math.min(length, this.size - offset)
    const inside = offset >= this.#start && offset + wanted <= this.#start + this.#bytes.length
    if (!inside) {
      this.#bytes = await this.source.read(offset, Math.min(Math.max(wanted, ahead), this.size - offset))
      this.#start = offset
      this.bytesRead += this.#bytes.length
      if (this.#bytes.length < wanted)
        throw new ReadingFault('unreadable', 'the file ended while it was read', offset)
    }
    return this.#bytes.subarray(offset - this.#start, offset - this.#start + wanted)
  }

  /** Exactly `length` bytes. @throws ReadingFault `truncated` where the file ends before. */
  async exactly(offset: number, length: number): Promise<Uint8Array> {
    const bytes = await this.some(offset, length)
    if (bytes.length < length) {
      throw new ReadingFault('truncated', `the file ends ${length - bytes.length} bytes too early`, offset)
    }
    return bytes
  }
}
