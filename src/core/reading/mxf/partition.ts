import { Cursor } from '../bytes/cursor'
import type { FileWindow } from '../bytes/source'
import { ReadingFault } from '../fault'
import { type Klv, type LocalSet, readKlv, setsIn } from './klv'

/** A partition pack (SMPTE ST 377-1 §7.1), as far as reading needs it. */
export interface Partition {
  readonly klv: Klv
  readonly kind: 'header' | 'body' | 'footer'
  /** Whether its metadata is final and whole. */
  readonly complete: boolean
  readonly thisPartition: number
  readonly footerPartition: number
  readonly headerByteCount: number
  readonly indexByteCount: number
  readonly operationalPattern: string
}

const partitionKey = /^060e2b34020501010d0102010(?:1)(02|03|04)(0[1-4])00$/
const kinds = { '02': 'header', '03': 'body', '04': 'footer' } as const
const largestMetadata = 8 * 1024 * 1024

/** Reads the partition pack at `offset`; null where none is there. */
export async function readPartition(file: FileWindow, offset: number): Promise<Partition | null> {
  const klv = await readKlv(file, offset)
  const match = klv && partitionKey.exec(klv.key)
  if (!klv || !match || klv.length < 80) return null
  const body = new Cursor(await file.exactly(klv.start, 88 - 8 + 8), klv.start)
  body.skip(8)
  const [thisPartition, , footerPartition] = [body.u64(), body.u64(), body.u64()]
  const [headerByteCount, indexByteCount] = [body.u64(), body.u64()]
  body.skip(4 + 8 + 4)
  const operationalPattern = [...body.slice(16)].map((b) => b.toString(16).padStart(2, '0')).join('')
  return {
    klv,
    kind: kinds[match[1] as keyof typeof kinds],
    complete: match[2] === '04' || match[2] === '03',
    thisPartition,
    footerPartition,
    headerByteCount,
    indexByteCount,
    operationalPattern,
  }
}

/** The header partition: at the start, or behind a run-in of up to 64 KiB. */
export async function findHeader(file: FileWindow): Promise<Partition> {
  const first = await readPartition(file, 0)
  if (first) return first
  const runIn = await file.some(0, 65536)
  for (let at = 1; at + 16 < runIn.length; at++) {
    if (runIn[at] !== 0x06 || runIn[at + 1] !== 0x0e || runIn[at + 2] !== 0x2b) continue
    const partition = await readPartition(file, at)
    if (partition) return partition
  }
  throw new ReadingFault('damaged', 'An MXF file begins with a partition, and this has none.', 0)
}

/** The sets of a partition's header metadata. */
export async function readMetadata(file: FileWindow, partition: Partition): Promise<LocalSet[]> {
  let start = partition.klv.start + partition.klv.length
  const end = start + partition.headerByteCount
  if (partition.headerByteCount === 0) return []
  // Filler may stand between the pack and its metadata; the count begins at the first that is none, or at the filler.
  const next = await readKlv(file, start)
  if (next && next.key.startsWith('060e2b34010101') && next.key.includes('03010210'))
    start = next.start + next.length
  const length = Math.min(
    end + (start - (partition.klv.start + partition.klv.length)) - start,
    largestMetadata,
    file.size - start,
  )
  if (length <= 0)
    throw new ReadingFault('truncated', 'The file ends inside its metadata. Copy it again.', file.size)
  return [...setsIn(new Cursor((await file.some(start, length)).slice(), start))]
}

/** Where the footer lies: as the header says, else as the random index pack at the end of the file does. */
export async function findFooter(file: FileWindow, header: Partition): Promise<Partition | null> {
  if (header.footerPartition > 0) return readPartition(file, header.klv.offset + header.footerPartition)
  if (file.size < 64) return null
  const length = new Cursor(await file.some(file.size - 4, 4)).u32()
  if (length < 17 || length > 65536 || length > file.size) return null
  const pack = await readKlv(file, file.size - length)
  if (!pack || !pack.key.startsWith('060e2b34020501010d01020101110100')) return null
  const body = new Cursor(await file.some(pack.start, Math.max(0, length - (pack.start - pack.offset) - 4)))
  let last = 0
  while (body.left >= 12) {
    body.skip(4)
    last = body.u64()
  }
  const partition = last > 0 ? await readPartition(file, last) : null
  return partition?.kind === 'footer' ? partition : null
}
