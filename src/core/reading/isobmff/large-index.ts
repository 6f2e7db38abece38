import { Cursor } from '../bytes/cursor'
import type { FileWindow } from '../bytes/source'
import { ReadingFault } from '../fault'
import type { DurationRun } from '../timing'
import { readBoxHead } from './box'

/** What of a sample table was left in the file, because the index is too large to be held. */
export interface CondensedTable {
  /** Bytes of the table in the file, version and flags included. */
  readonly length: number
  /** Durations or offsets of all samples, where the table holds such. */
  readonly runs: readonly DurationRun[] | null
}

/** An index as one stretch of memory. Where it is large, its tables are cut, and `tables` tells what they were, by offset. */
export interface HeldIndex {
  readonly body: Cursor
  readonly tables: ReadonlyMap<number, CondensedTable>
}

/** An index up to this size is read at once, as it stands. */
const heldWhole = 16 * 1024 * 1024
/** Boxes up to this size are kept whole in a larger one; of tables, so much of the front. */
const keptOfBox = 1024 * 1024
/** Tables are passed through in pieces of this size. */
const piece = 4 * 1024 * 1024
/** More of a condensed index than this is no index. */
const mostKept = 32 * 1024 * 1024
/** Durations are kept one by one up to so many changes; what comes after is kept as its mean. */
const mostRuns = 300_000

const containers = new Set(['trak', 'mdia', 'minf', 'stbl', 'edts', 'mvex'])
const tables = new Set(['stts', 'ctts', 'stsz', 'stz2', 'stsc', 'stco', 'co64'])

/**
 * Reads a movie box, whatever its size, in at most some tens of megabytes of memory.
 * @param start where its content begins, of `length` bytes that are there
 * @throws ReadingFault `unsupported` where even its small boxes are more than an index can be
 */
export async function readIndex(file: FileWindow, start: number, length: number): Promise<HeldIndex> {
  if (length <= heldWhole) {
    // A copy, so that the window may move on.
    const body = new Cursor((await file.exactly(start, length)).slice(), start)
    return { body, tables: new Map() }
  }
  const condensing = new Condensing(file, start)
  await condensing.boxes(start, start + length)
  return { body: new Cursor(condensing.bytes(), start), tables: condensing.tables }
}

/** Walks the boxes of an index and keeps what is small, and the front of what is large. */
class Condensing {
  readonly tables = new Map<number, CondensedTable>()
  readonly #pieces: Uint8Array[] = []
  #length = 0

  constructor(
    private readonly file: FileWindow,
    /** Offsets of boxes count from here, as if the condensed index stood in the file. */
    private readonly base: number,
  ) {}

  bytes(): Uint8Array {
    const all = new Uint8Array(this.#length)
    let at = 0
    for (const kept of this.#pieces) {
      all.set(kept, at)
      at += kept.length
    }
    return all
  }

  async boxes(start: number, end: number): Promise<void> {
    for (let offset = start; offset + 8 <= end;) {
      const head = new Cursor(await this.file.some(offset, 16), offset)
      const { type, header, size: stated } = readBoxHead(head)
      const size = stated === 0 ? end - offset : stated
      if (size < header) return
      const content = offset + header
      const length = Math.min(size, end - offset) - header
      if (containers.has(type)) await this.#container(type, content, length)
      else if (length <= keptOfBox)
        this.#keep(box(type, length), (await this.file.exactly(content, length)).slice())
      else if (tables.has(type)) await this.#table(type, content, length)
      offset += size
    }
  }

  async #container(type: string, start: number, length: number): Promise<void> {
    const header = box(type, 0)
    const at = this.#length
    this.#keep(header)
    await this.boxes(start, start + length)
    new DataView(header.buffer).setUint32(0, this.#length - at)
  }

  async #table(type: string, start: number, length: number): Promise<void> {
    const front = (await this.file.exactly(start, keptOfBox)).slice()
    this.tables.set(this.base + this.#length, {
      length,
      runs: type === 'stts' || type === 'ctts' ? await this.#runs(type, start, length) : null,
    })
    this.#keep(box(type, keptOfBox), front)
  }

  /** All runs of a table of times, equal neighbours as one. */
  async #runs(type: string, start: number, length: number): Promise<DurationRun[]> {
    const runs: { count: number; duration: number }[] = []
    const beyond = { count: 0, total: 0 }
    for (let offset = start + 8; offset + 8 <= start + length; offset += piece) {
      const bytes = await this.file.exactly(offset, Math.min(piece, start + length - offset) & ~7)
      const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
      for (let at = 0; at + 8 <= bytes.length; at += 8) {
        const count = view.getUint32(at)
        const duration = type === 'ctts' ? view.getInt32(at + 4) : view.getUint32(at + 4)
        const last = runs.at(-1)
        if (last?.duration === duration) last.count += count
        else if (runs.length < mostRuns) runs.push({ count, duration })
        else {
          beyond.count += count
          beyond.total += count * duration
        }
      }
    }
    if (beyond.count > 0)
      runs.push({ count: beyond.count, duration: Math.round(beyond.total / beyond.count) })
    return runs
  }

  #keep(...pieces: Uint8Array[]): void {
    for (const kept of pieces) {
      this.#pieces.push(kept)
      this.#length += kept.length
    }
    if (this.#length > mostKept)
      throw new ReadingFault('unsupported', 'the index holds more than any recording needs', this.base)
  }
}

/** The header of a box. */
function box(type: string, length: number): Uint8Array<ArrayBuffer> {
  const header = new Uint8Array(8)
  new DataView(header.buffer).setUint32(0, 8 + length)
  for (let i = 0; i < 4; i++) header[4 + i] = type.charCodeAt(i)
  return header
}
