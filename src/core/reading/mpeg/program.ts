import { byteAt } from '../bytes/byte-at'
import type { WrapperReading } from '../assemble'
import { firstSound } from '../audio/frames'
import type { FileWindow } from '../bytes/source'
import { readingOfMultiplex } from './multiplex'
import { Beginning, readPes } from './pes'

const endLength = 96 * 1024
const firstBytes = 32 * 1024

/** Reads MPEG program streams (ISO/IEC 13818-1 §2.5) and MPEG-1 system streams: packets, times, first headers. */
export async function readProgram(file: FileWindow): Promise<WrapperReading> {
  const complete = file.size <= endLength * 2
  const head = (await file.some(0, complete ? file.size : endLength)).slice()
  const times: number[] = []
  const video = new Beginning(firstBytes)
  const sounds = new Map<number, Beginning>()
  const soundBegins = new Map<number, number>()
  let videoId = -1
  for (const { at, pes } of packetsIn(head)) {
    const end = pes.packetLength ? Math.min(head.length, at + 6 + pes.packetLength) : head.length
    const payload = head.subarray(Math.min(end, at + pes.headerLength), end)
    if (pes.streamId >= 0xe0 && pes.streamId <= 0xef && (videoId < 0 || videoId === pes.streamId)) {
      videoId = pes.streamId
      if (pes.pts !== null) times.push(pes.pts)
      video.add(payload)
    } else if ((pes.streamId >= 0xc0 && pes.streamId <= 0xdf) || pes.streamId === 0xbd) {
      const sound = sounds.get(pes.streamId) ?? new Beginning(4096)
      sounds.set(pes.streamId, sound)
      if (pes.pts !== null && !soundBegins.has(pes.streamId)) soundBegins.set(pes.streamId, pes.pts)
      sound.add(payload)
    }
  }
  let lastTime = times.reduce<number | null>((latest, time) => Math.max(latest ?? time, time), null)
  if (!complete) {
    const tail = (await file.some(file.size - endLength, endLength)).slice()
    for (const { pes } of packetsIn(tail))
      if (pes.streamId === videoId && pes.pts !== null) lastTime = Math.max(lastTime ?? 0, pes.pts)
  }
  const bytes = video.bytes()
  return readingOfMultiplex({
    container: 'MPEG-PS',
    sizeBytes: file.size,
    codec: videoId < 0 ? null : codecOf(bytes),
    video: bytes,
    times,
    lastTime,
    sounds: [...sounds].flatMap(([id, sound]) => {
      const facts = firstSound(sound.bytes())
      return facts ? { facts, begins: soundBegins.get(id) ?? null } : []
    }),
    notes: [],
  })
}

/** Packs and packets by their start codes; a packet with a length is stepped over whole. */
function* packetsIn(
  bytes: Uint8Array,
): Generator<{ at: number; pes: NonNullable<ReturnType<typeof readPes>> }> {
  for (let at = 0; at + 9 < bytes.length;) {
    if (bytes[at] !== 0 || bytes[at + 1] !== 0 || bytes[at + 2] !== 1 || byteAt(bytes, at + 3) < 0xb9) {
      at++
      continue
    }
    const pes = readPes(bytes, at)
    if (pes) yield { at, pes }
    at += pes && pes.packetLength ? 6 + pes.packetLength : 4
  }
}

/** Program streams name no codec: the first start code does. */
function codecOf(stream: Uint8Array): string {
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
