import { Cursor } from '../bytes/cursor'
import type { FileWindow } from '../bytes/source'
import { ReadingFault } from '../fault'
import type { Box } from './box'
import { type CondensedTable, readIndex } from './large-index'

/** The outermost boxes of a file: what stands where. */
export interface Layout {
  /** The major brand, or null in a QuickTime file without `ftyp`. */
  readonly brand: string | null
  readonly movie: Box | null
  /** Descriptions of the whole file, beside the index. */
  readonly metas: readonly Box[]
  /** What was left in the file of tables of a large index, by the offset of their box. */
  readonly tables: ReadonlyMap<number, CondensedTable>
  /** Movie fragments, as read up to `largestFragments`. */
  readonly fragments: readonly Box[]
  /** Whether fragments between the first ones and the last were left out. */
  readonly skipped: boolean
  /** Where the file should end, if the last box says more than there is. */
  readonly missingBytes: number
  readonly lastBox: string
}

/** A day of one-second fragments; more are not walked. */
const largestFragments = 90_000
const largestBoxes = 200_000
/** Longer descriptions of a file are not read. */
const mostMeta = 64 * 1024
/** Their headers together; what comes after is reckoned. */
const mostOfFragments = 48 * 1024 * 1024

/** Fragments that are read one after the other over a network. */
const enoughFragments = 6
/** The last fragment is looked for in so much of the tail. */
const tailLength = 256 * 1024

/** Where the last fragment begins, as its header in the tail says; null where none is found behind `from`. */
async function lastFragment(file: FileWindow, from: number): Promise<number | null> {
  const start = Math.max(from, file.size - tailLength)
  const tail = await file.some(start, file.size - start)
  for (let at = tail.length - 24; at >= 0; at--) {
    // `moof`, and in it at once `mfhd` of 16 bytes.
    if (tail[at + 4] !== 0x6d || tail[at + 5] !== 0x6f || tail[at + 6] !== 0x6f || tail[at + 7] !== 0x66)
      continue
    const inside = new Cursor(tail.subarray(at + 8, at + 16))
    if (inside.u32() === 16 && inside.code() === 'mfhd') return start + at
  }
  return null
}

/**
 * Walks the outermost boxes by their headers. Only the movie box and the fragments are read whole; media data, however
 * large, is stepped over.
 */
export async function readLayout(file: FileWindow): Promise<Layout> {
  let brand: string | null = null
  let movie: Box | null = null
  let tables: Layout['tables'] = new Map()
  const fragments: Box[] = []
  const metas: Box[] = []
  let missingBytes = 0
  let lastBox = ''
  let kept = 0
  let skipped = false
  for (let offset = 0, n = 0; offset + 8 <= file.size && n < largestBoxes; n++) {
    const head = new Cursor(await file.some(offset, 16), offset)
    let size = head.u32()
    const type = head.code()
    let header = 8
    if (size === 1) {
      if (head.left < 8) break
      size = head.u64()
      header = 16
    } else if (size === 0) size = file.size - offset
    if (!/^[\x20-\x7e©]{4}$/.test(type) || size < header) {
      if (!movie && fragments.length === 0) {
        throw new ReadingFault('damaged', `a box is expected at byte ${offset}, and there is none`, offset)
      }
      break
    }
    lastBox = type
    const end = offset + size
    if (end > file.size) missingBytes = end - file.size
    if (type === 'ftyp' && size >= 12) brand = new Cursor(await file.some(offset + header, 4)).text(4)
    if (type === 'meta' && size <= mostMeta && metas.length < 4) {
      const body = await file.some(offset + header, size - header)
      metas.push({ type, offset, body: new Cursor(body.slice(), offset + header) })
    }
    const wanted = (type === 'moov' && !movie) || (type === 'moof' && fragments.length < largestFragments)
    if (wanted) {
      const length = Math.min(size - header, file.size - offset - header)
      if (type === 'moov') {
        const index = await readIndex(file, offset + header, length)
        movie = { type, offset, body: index.body }
        tables = index.tables
      } else {
        if (kept + length > mostOfFragments) break
        kept += length
        // A copy, so that the window may move on.
        const body = new Cursor((await file.exactly(offset + header, length)).slice(), offset + header)
        fragments.push({ type, offset, body })
      }
    }
    offset = end
    // Over a network each fragment is a request: the first ones tell the rate, the last one the length.
    if (file.isRemote && !skipped && type === 'moof' && fragments.length >= enoughFragments) {
      const last = await lastFragment(file, offset)
      if (last === null) break
      skipped = last > offset
      offset = Math.max(offset, last)
    }
  }
  return { brand, movie, metas, tables, fragments, skipped, missingBytes, lastBox }
}
