import { byteAt } from '../bytes/byte-at'
import type { WrapperReading } from '../assemble'
import { firstSound } from '../audio/frames'
import type { FileWindow } from '../bytes/source'
import { ReadingFault } from '../fault'
import type { AudioFacts } from '../reading'
import { readingOfMultiplex } from './multiplex'
import { Beginning, readPes } from './pes'

/** Stream types of the program map (ISO/IEC 13818-1 Table 2-34 and registrations). */
const videoTypes: Record<number, string> = {
  0x01: 'MPEG-1',
  0x02: 'MPEG-2',
  0x10: 'MPEG-4 Visual',
  0x1b: 'H.264',
  0x21: 'JPEG 2000',
  0x24: 'HEVC',
}
const soundTypes: Record<number, string> = {
  0x03: 'MP2',
  0x04: 'MP2',
  0x0f: 'AAC',
  0x11: 'AAC',
  0x80: 'PCM',
  0x81: 'AC-3',
  0x82: 'DTS',
  0x83: 'TrueHD',
  0x84: 'E-AC-3',
  0x85: 'DTS-HD',
  0x87: 'E-AC-3',
}

/** Read from either end of a file larger than both together. */
const endLength = 96 * 1024
const firstBytes = 32 * 1024
/** So many more stretches are looked into where sound has not been heard. */
const mostFurther = 8

/** Where packets lie: their length, and how many bytes stand before each sync byte (192-byte packets lead with a time). */
export function packetGrid(head: Uint8Array): { size: 188 | 192 | 204; lead: number; start: number } | null {
  for (const [size, lead] of [
    [188, 0],
    [192, 4],
    [204, 0],
  ] as const) {
    for (let start = 0; start < size && start + lead + size * 4 < head.length; start++) {
      if ([0, 1, 2, 3, 4].every((n) => head[start + lead + n * size] === 0x47)) return { size, lead, start }
    }
  }
  return null
}

interface Program {
  videoPid: number
  codec: string | null
  sounds: Map<number, string>
  mapPids: Set<number>
}

/** Reads MPEG transport streams (ISO/IEC 13818-1), also with 192-byte packets: program map, times, first headers. */
export async function readTransport(file: FileWindow): Promise<WrapperReading> {
  const complete = file.size <= endLength * 2
  const head = (await file.some(0, complete ? file.size : endLength)).slice()
  const grid = packetGrid(head)
  if (!grid)
    throw new ReadingFault('not-media', 'It begins like a transport stream, but no packets follow.', 0)
  const program: Program = { videoPid: -1, codec: null, sounds: new Map(), mapPids: new Set() }
  const times: number[] = []
  const video = new Beginning(firstBytes)
  const sounds = new Map<number, Beginning>()
  const soundBegins = new Map<number, number>()
  const hearPacket = ({ pid, payload, starts }: Packet) => {
    if (!program.sounds.has(pid)) return
    const pes = starts ? readPes(payload, 0) : null
    const sound = sounds.get(pid) ?? new Beginning(4096)
    sounds.set(pid, sound)
    if (pes && pes.pts !== null && !soundBegins.has(pid)) soundBegins.set(pid, pes.pts)
    if (pes || sound.length) sound.add(payload.subarray(pes ? pes.headerLength : 0))
  }
  let started = false
  for (const packet of packetsIn(head, grid)) {
    if (packet.pid === 0) readAssociation(packet.payload, packet.starts, program)
    else if (program.mapPids.has(packet.pid)) readMap(packet.payload, packet.starts, program)
    else if (packet.pid === program.videoPid) {
      const pes = packet.starts ? readPes(packet.payload, 0) : null
      if (pes?.pts !== null && pes) times.push(pes.pts)
      if (pes) started = true
      if (started) video.add(packet.payload.subarray(pes ? pes.headerLength : 0))
    } else hearPacket(packet)
  }
  // Beside pictures of many bits, sound may come late: it is looked for a little further.
  const isHeard = ([pid, codec]: [number, string]) =>
    firstSound(sounds.get(pid)?.bytes() ?? new Uint8Array(0), codec) !== null
  for (let n = 1, from = endLength; !complete && n <= mostFurther; n++, from += endLength) {
    if (from + endLength > file.size || [...program.sounds].every(isHeard)) break
    const start = from + ((((grid.start - from) % grid.size) + grid.size) % grid.size)
    const piece = (await file.some(start, Math.min(endLength, file.size - start))).slice()
    for (const packet of packetsIn(piece, { ...grid, start: 0 })) hearPacket(packet)
  }
  let lastTime = times.reduce<number | null>((latest, time) => Math.max(latest ?? time, time), null)
  if (!complete) {
    // Packets at the tail stand on the same grid.
    const from = file.size - endLength
    const tailStart = from + ((((grid.start - from) % grid.size) + grid.size) % grid.size)
    const tail = (await file.some(tailStart, file.size - tailStart)).slice()
    for (const packet of packetsIn(tail, { ...grid, start: 0 })) {
      const pes = packet.pid === program.videoPid && packet.starts ? readPes(packet.payload, 0) : null
      if (pes && pes.pts !== null) lastTime = Math.max(lastTime ?? 0, pes.pts)
    }
  }
  return readingOfMultiplex({
    container: 'MPEG-TS',
    sizeBytes: file.size,
    codec: program.codec,
    video: video.bytes(),
    times,
    lastTime,
    sounds: [...program.sounds].map(([pid, codec]) => {
      const found = firstSound(sounds.get(pid)?.bytes() ?? new Uint8Array(0), codec)
      const facts: AudioFacts = found ?? { codec, channels: null, sampleRate: null, bitDepth: null }
      return { facts, begins: soundBegins.get(pid) ?? null }
    }),
    notes: [],
  })
}

interface Packet {
  readonly pid: number
  readonly starts: boolean
  readonly payload: Uint8Array
}

function* packetsIn(
  bytes: Uint8Array,
  grid: { size: number; lead: number; start: number },
): Generator<Packet> {
  for (let at = grid.start + grid.lead; at + 188 <= bytes.length; at += grid.size) {
    if (bytes[at] !== 0x47) continue
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

/** The section that begins in a payload, without its pointer, header and checksum; null where none does. */
function sectionIn(payload: Uint8Array, starts: boolean, table: number): Uint8Array | null {
  if (!starts || payload.length < 1) return null
  const section = payload.subarray(1 + byteAt(payload, 0))
  if (section.length < 8 || section[0] !== table) return null
  const length = ((byteAt(section, 1) & 15) << 8) | byteAt(section, 2)
  return section.subarray(8, Math.max(8, Math.min(section.length, 3 + length - 4)))
}

function readAssociation(payload: Uint8Array, starts: boolean, program: Program) {
  const section = sectionIn(payload, starts, 0)
  if (!section) return
  for (let at = 0; at + 4 <= section.length; at += 4) {
    const number = byteAt(section, at) * 256 + byteAt(section, at + 1)
    if (number !== 0) program.mapPids.add(((byteAt(section, at + 2) & 0x1f) << 8) | byteAt(section, at + 3))
  }
}

function readMap(payload: Uint8Array, starts: boolean, program: Program) {
  const section = sectionIn(payload, starts, 2)
  if (!section || section.length < 4) return
  let at = 4 + (((byteAt(section, 2) & 15) << 8) | byteAt(section, 3))
  while (at + 5 <= section.length) {
    const type = byteAt(section, at)
    const [picture, sound] = [videoTypes[type], soundTypes[type]]
    const pid = ((byteAt(section, at + 1) & 0x1f) << 8) | byteAt(section, at + 2)
    const info = ((byteAt(section, at + 3) & 15) << 8) | byteAt(section, at + 4)
    const descriptors = section.subarray(at + 5, at + 5 + info)
    if (picture && program.videoPid < 0) {
      program.videoPid = pid
      program.codec = picture
    } else if (sound) program.sounds.set(pid, sound)
    else if (type === 6) readPrivate(descriptors, pid, program)
    at += 5 + info
  }
}

/** Private streams are told by their descriptors (ETSI EN 300 468, registrations). */
function readPrivate(descriptors: Uint8Array, pid: number, program: Program) {
  for (let at = 0; at + 2 <= descriptors.length; at += 2 + byteAt(descriptors, at + 1)) {
    const tag = descriptors[at]
    const name = String.fromCharCode(...descriptors.subarray(at + 2, at + 6))
    if (tag === 0x6a) program.sounds.set(pid, 'AC-3')
    else if (tag === 0x7a) program.sounds.set(pid, 'E-AC-3')
    else if (tag === 0x05 && name === 'Opus') program.sounds.set(pid, 'Opus')
    else if (tag === 0x05 && name === 'AC-3') program.sounds.set(pid, 'AC-3')
    else if (tag === 0x05 && name === 'HEVC' && program.videoPid < 0)
      Object.assign(program, { videoPid: pid, codec: 'HEVC' })
  }
}
