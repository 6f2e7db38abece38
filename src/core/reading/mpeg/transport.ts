import { byteAt } from '../bytes/byte-at'
import type { WrapperReading } from '../assemble'
import type { FileWindow } from '../bytes/source'
import { ReadingFault } from '../fault'
import { type DeclaredStream, type Demultiplexer, Gathering } from './demultiplex'
import { readingOfMultiplex } from './multiplex'
import { type PacketGrid, gridLength, packetGrid, syncByte } from './packet-grid'
import { readPes } from './pes'
import { registrationIn, streamOfType } from './stream-types'

/** Reads MPEG transport streams (ISO/IEC 13818-1), also with 192-byte packets: program map, times, first headers. */
export async function readTransport(file: FileWindow): Promise<WrapperReading> {
  const grid = packetGrid(await file.some(0, gridLength))
  if (!grid)
    throw new ReadingFault('not-media', 'It begins like a transport stream, but no packets follow.', 0)
  return readingOfMultiplex(file, transportStream(grid))
}

function transportStream(grid: PacketGrid): Demultiplexer {
  const streams = new Map<number, DeclaredStream>()
  const maps = new Set<number>()
  const tables = sections()

  function gather(bytes: Uint8Array, from: number): Gathering {
    const gathered = new Gathering()
    const start = (((grid.start - from) % grid.size) + grid.size) % grid.size
    for (const { pid, payload, starts } of packetsIn(bytes, { ...grid, start })) {
      if (pid === 0 || maps.has(pid)) {
        const table = tables(pid, payload, starts)
        if (pid === 0 && table?.id === 0) readAssociation(table.body, maps)
        else if (table?.id === 2) readMap(table.body, streams)
      } else if (streams.has(pid)) {
        const pes = starts ? readPes(payload, 0) : null
        // What began before the stretch lacks its beginning.
        if (!pes && !gathered.has(pid)) continue
        gathered.of(pid).add(pes ? payload.subarray(pes.headerLength) : payload, pes?.pts ?? null)
      }
    }
    return gathered
  }
  return { container: 'MPEG-TS', streams, gather }
}

interface Packet {
  readonly pid: number
  readonly starts: boolean
  readonly payload: Uint8Array
}

/** Where no packets lie, so many at once are passed over. */
const passedOver = 4

/** The packets of a stretch; where bytes are missing, the grid is sought anew. */
function* packetsIn(bytes: Uint8Array, { size, lead, start }: PacketGrid): Generator<Packet> {
  for (let at = start + lead; at + 188 <= bytes.length; at += size) {
    if (bytes[at] !== syncByte) {
      const next = packetGrid(bytes.subarray(at, at + gridLength))
      if (next?.size !== size) {
        at += passedOver * size
        continue
      }
      at += next.start + lead
    }
    const control = (byteAt(bytes, at + 3) >> 4) & 3
    if (!(control & 1)) continue
    const skip = control & 2 ? 1 + byteAt(bytes, at + 4) : 0
    if (skip > 183) continue
    yield {
      pid: ((byteAt(bytes, at + 1) & 0x1f) << 8) | byteAt(bytes, at + 2),
      starts: (byteAt(bytes, at + 1) & 0x40) !== 0,
      payload: bytes.subarray(at + 4 + skip, at + 188),
    }
  }
}

/** The longest section of a program (§2.4.4.1). */
const longestSection = 1024

/** Puts sections together that may lie in several packets: each comes with its table, without header and checksum. */
function sections() {
  const open = new Map<number, number[]>()
  return (pid: number, payload: Uint8Array, starts: boolean): { id: number; body: Uint8Array } | null => {
    if (starts) open.set(pid, [...payload.subarray(1 + byteAt(payload, 0))])
    else open.get(pid)?.push(...payload)
    const section = open.get(pid)
    if (!section || section.length < 8) return null
    const length = 3 + ((((section[1] ?? 0) & 15) << 8) | (section[2] ?? 0))
    if (section.length < length && section.length < longestSection) return null
    open.delete(pid)
    return { id: section[0] ?? -1, body: Uint8Array.from(section.slice(8, Math.max(8, length - 4))) }
  }
}

function readAssociation(section: Uint8Array, maps: Set<number>): void {
  for (let at = 0; at + 4 <= section.length; at += 4) {
    const number = byteAt(section, at) * 256 + byteAt(section, at + 1)
    if (number !== 0) maps.add(((byteAt(section, at + 2) & 0x1f) << 8) | byteAt(section, at + 3))
  }
}

/** What a program map declares; of a stream that is known already the first word holds. */
function readMap(section: Uint8Array, streams: Map<number, DeclaredStream>): void {
  if (section.length < 4) return
  const about = ((byteAt(section, 2) & 15) << 8) | byteAt(section, 3)
  const program = registrationIn(section.subarray(4, 4 + about))
  for (let at = 4 + about; at + 5 <= section.length;) {
    const pid = ((byteAt(section, at + 1) & 0x1f) << 8) | byteAt(section, at + 2)
    const length = ((byteAt(section, at + 3) & 15) << 8) | byteAt(section, at + 4)
    const stream = streamOfType(byteAt(section, at), section.subarray(at + 5, at + 5 + length), program)
    if (stream && !streams.has(pid)) streams.set(pid, stream)
    at += 5 + length
  }
}
