import { kilobytes } from '../../words/figures'
import { Cursor } from '../bytes/cursor'
import type { Note } from '../reading'
import { readBoxHead, readFullBox } from './box'
import type { CondensedTable } from './large-index'
import type { Layout } from './layout'

const containers = new Set(['trak', 'mdia', 'minf', 'stbl', 'edts', 'mvex'])

/** Bytes of one entry of a table, by its type; of an edit list they depend on its version. */
const entryLengths: Record<string, (version: number) => number> = {
  stts: () => 8,
  ctts: () => 8,
  stsc: () => 12,
  stco: () => 4,
  co64: () => 8,
  stss: () => 4,
  elst: (version) => (version === 1 ? 20 : 12),
}

/** Samples that the tables of a track speak of. */
interface Counts {
  timed?: number
  sized?: number
}

function samplesTimed(stts: Cursor): number {
  const table = new Cursor(stts.bytes)
  if (table.left < 8) return 0
  const entries = Math.min(table.skip(4).u32(), Math.floor(table.left / 8))
  let samples = 0
  for (let i = 0; i < entries; i++) {
    samples += table.u32()
    table.skip(4)
  }
  return samples
}

/** So many lies are told; one who reads three knows. */
const mostTold = 3

/**
 * Holds an index against itself and against its file (ISO/IEC 14496-12): boxes larger than what encloses them, tables that
 * count more than they hold, samples outside of the file. What could be read stands; what lies is told.
 */
export function auditIndex({ movie, tables, missingBytes }: Layout, fileSize: number): Note[] {
  if (!movie) return []
  const lies: string[] = []
  const walk = (body: Cursor, counts: Counts = {}): void => {
    while (body.left >= 8 && lies.length < mostTold) {
      const offset = body.offset
      const { type, size, header } = readBoxHead(body)
      // A zero ends the list, or stands for the rest.
      if (size === 0) return
      if (size < header) {
        lies.push(`the box “${type}” says ${size} bytes, less than its own header`)
        return
      }
      const length = size - header
      if (length > body.left)
        lies.push(
          `the box “${type}” says ${kilobytes(size)}, where ${kilobytes(body.left + header)} are left`,
        )
      const inside = body.sub(Math.min(length, body.left))
      if (containers.has(type)) {
        const own: Counts = {}
        walk(inside, own)
        const { timed, sized } = own
        if (timed !== undefined && sized !== undefined && timed > sized)
          lies.push(`the table “stts” times ${timed} samples, where “stsz” knows ${sized}`)
      } else {
        if (type === 'stsz' && inside.length >= 12) counts.sized = new Cursor(inside.bytes).skip(8).u32()
        if (type === 'stts' && !tables.has(offset)) counts.timed = samplesTimed(inside)

        const fault = tableLie(type, inside, tables.get(offset), missingBytes > 0 ? Infinity : fileSize)
        if (fault) lies.push(fault)
      }
    }
  }
  walk(new Cursor(movie.body.bytes, movie.body.base))
  return lies.slice(0, mostTold).map((fault) => ({
    code: 'damaged-index',
    message: `The index lies: ${fault}. What could be read stands; copy the file again.`,
  }))
}

/** What a table says that cannot be; null where nothing. */
function tableLie(
  type: string,
  body: Cursor,
  condensed: CondensedTable | undefined,
  fileSize: number,
): string | null {
  const length = condensed?.length ?? body.length
  if (type === 'stsz' && length >= 12) {
    readFullBox(body)
    const [uniform, count] = [body.u32(), body.u32()]
    if (uniform === 0) return counted(type, count, Math.floor((length - 12) / 4))
    return uniform * count > fileSize
      ? `the table “stsz” counts ${count} samples of ${uniform} bytes, more than the file of ${kilobytes(fileSize)} has`
      : null
  }
  const entryLength = entryLengths[type]
  if (!entryLength || length < 8) return null
  const { version } = readFullBox(body)
  const count = body.u32()
  const fault = counted(type, count, Math.floor((length - 8) / entryLength(version)))
  if (fault || (type !== 'stco' && type !== 'co64')) return fault
  const width = type === 'stco' ? 4 : 8
  for (let i = 0; i < count && body.left >= width; i++) {
    const place = width === 4 ? body.u32() : body.u64()
    if (place >= fileSize)
      return `the table “${type}” puts samples at byte ${place}, behind the end of the file at ${fileSize}`
  }
  return null
}

const counted = (type: string, count: number, room: number): string | null =>
  count > room ? `the table “${type}” counts ${count} entries, where there is room for ${room}` : null
