import { byteAt } from '../bytes/byte-at'
import type { WrapperReading } from '../assemble'
import type { FileWindow } from '../bytes/source'
import { type DeclaredStream, type Demultiplexer, Gathering } from './demultiplex'
import { readingOfMultiplex } from './multiplex'
import { readPes } from './pes'
import { streamOfType } from './stream-types'

/** Reads MPEG program streams (ISO/IEC 13818-1 §2.5) and MPEG-1 system streams: packets, times, first headers. */
export const readProgram = (file: FileWindow): Promise<WrapperReading> =>
  readingOfMultiplex(file, programStream())

const [streamMap, privateStream] = [0xbc, 0xbd]
const isPicture = (id: number) => id >= 0xe0 && id <= 0xef
const isSound = (id: number) => id >= 0xc0 && id <= 0xdf

/** Sound in private packets, by the first number of what each holds: the coding, and how many bytes stand in front of it. */
const privateSounds: readonly (readonly [from: number, coding: string, skip: number])[] = [
  [0x80, 'AC-3', 4],
  [0x88, 'DTS', 4],
  [0xa0, 'LPCM of discs', 4],
  [0xb0, 'TrueHD', 4],
  [0xc0, 'E-AC-3', 4],
]

function programStream(): Demultiplexer {
  const streams = new Map<number, DeclaredStream>()
  const declare = (id: number, stream: DeclaredStream) => {
    if (!streams.has(id)) streams.set(id, stream)
  }

  function gather(bytes: Uint8Array): Gathering {
    const gathered = new Gathering()
    for (const { at, pes } of packetsIn(bytes)) {
      const { streamId: id } = pes
      const end = pes.packetLength ? Math.min(bytes.length, at + 6 + pes.packetLength) : bytes.length
      const payload = bytes.subarray(Math.min(end, at + pes.headerLength), end)
      if (id === streamMap) readStreamMap(payload, declare)
      else if (isPicture(id)) {
        declare(id, { kind: 'picture', codec: codecOf(payload) })
        gathered.of(id).add(payload, pes.pts)
      } else if (isSound(id)) {
        declare(id, { kind: 'sound', coding: null })
        gathered.of(id).add(payload, pes.pts)
      } else if (id === privateStream) {
        const sub = byteAt(payload, 0)
        const known = privateSounds.findLast(([from]) => sub >= from && sub < from + 16)
        if (!known) continue
        const [, coding, skip] = known
        const number = (id << 8) | sub
        declare(number, { kind: 'sound', coding })
        gathered.of(number).add(payload.subarray(skip), pes.pts)
      }
    }
    return gathered
  }
  return { container: 'MPEG-PS', streams, gather }
}

/** Packs and packets by their start codes; a packet with a length is stepped over whole. */
function* packetsIn(
  bytes: Uint8Array,
): Generator<{ at: number; pes: NonNullable<ReturnType<typeof readPes>> }> {
  for (let at = 0; at + 9 < bytes.length;) {
    const start = bytes.indexOf(1, at + 2)
    if (start < 0) return
    at = start - 2
    if (bytes[at] !== 0 || bytes[at + 1] !== 0 || byteAt(bytes, at + 3) < 0xb9) {
      at++
      continue
    }
    const pes = readPes(bytes, at)
    if (pes) yield { at, pes }
    at += pes && pes.packetLength ? 6 + pes.packetLength : 4
  }
}

/** The program stream map (§2.5.4) says of each stream what it is coded as. */
function readStreamMap(map: Uint8Array, declare: (id: number, stream: DeclaredStream) => void): void {
  const info = byteAt(map, 2) * 256 + byteAt(map, 3)
  let at = 4 + info
  const end = Math.min(map.length, at + 2 + byteAt(map, at) * 256 + byteAt(map, at + 1))
  for (at += 2; at + 4 <= end;) {
    const length = byteAt(map, at + 2) * 256 + byteAt(map, at + 3)
    const id = byteAt(map, at + 1)
    const stream = streamOfType(byteAt(map, at), map.subarray(at + 4, at + 4 + length), null)
    if (stream && (isPicture(id) || isSound(id))) declare(id, stream)
    at += 4 + length
  }
}

/** Program streams without a map name no codec: the first start code does. */
function codecOf(stream: Uint8Array): string | null {
  for (let at = 0; at + 4 < Math.min(stream.length, 4096); at++) {
    if (stream[at] !== 0 || stream[at + 1] !== 0 || stream[at + 2] !== 1) continue
    const code = byteAt(stream, at + 3)
    if (code === 0xb3) return 'MPEG-2'
    if (code === 0xb0 || (code >= 0x20 && code <= 0x2f)) return 'MPEG-4 Visual'
    if ((code & 31) === 7 || (code & 31) === 9) return 'H.264'
    if (code === 0x40 || code === 0x42) return 'HEVC'
  }
  return 'MPEG-2'
}
