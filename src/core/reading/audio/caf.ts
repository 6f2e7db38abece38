import { type WrapperReading, cutOff, makeReading } from '../assemble'
import { Cursor } from '../bytes/cursor'
import type { FileWindow } from '../bytes/source'
import { ReadingFault } from '../fault'
import type { AudioFacts } from '../reading'

const codings: Readonly<Record<string, string>> = {
  lpcm: 'PCM',
  'aac ': 'AAC',
  alac: 'ALAC',
  'ac-3': 'AC-3',
  'ec-3': 'E-AC-3',
  ulaw: 'µ-law',
  alaw: 'A-law',
  ima4: 'ADPCM',
  '.mp3': 'MP3',
  '.mp2': 'MP2',
  opus: 'Opus',
  flac: 'FLAC',
}
const mostChunks = 1000

/** Reads the Core Audio Format by its published layout: `desc` first, `data` of any length, `pakt` counts what is packed. */
export async function readCaf(file: FileWindow): Promise<WrapperReading> {
  let facts: AudioFacts | null = null
  let [bytesPerPacket, framesPerPacket, frames, missing] = [0, 0, 0, 0]
  let data: number | null = null
  for (let offset = 8, n = 0; n < mostChunks && offset + 12 <= file.size; n++) {
    const head = new Cursor(await file.some(offset, 12 + 32), offset)
    const kind = head.code()
    const stated = head.i64()
    const length = stated < 0 ? file.size - offset - 12 : stated
    if (kind === 'desc' && head.left >= 32) {
      const sampleRate = head.f64()
      const coding = head.code()
      const flags = head.u32()
      bytesPerPacket = head.u32()
      framesPerPacket = head.u32()
      const channels = head.u32()
      const bits = head.u32()
      const known = codings[coding] ?? `unknown (${coding.trim()})`
      const codec = known === 'PCM' && flags & 1 ? 'PCM float' : known
      facts = {
        codec,
        channels: channels > 0 && channels <= 256 ? channels : null,
        sampleRate: sampleRate > 0 && sampleRate <= 1e6 ? sampleRate : null,
        bitDepth: /^(PCM|ALAC|FLAC)/.test(codec) && bits > 0 && bits <= 64 ? bits : null,
      }
    } else if (kind === 'pakt' && head.left >= 16) {
      head.skip(8)
      frames = Math.max(0, head.i64())
    } else if (kind === 'data') {
      data = Math.max(0, Math.min(length, file.size - offset - 12) - 4)
      missing = offset + 12 + length - file.size
    }
    offset += 12 + length
  }
  if (!facts) throw new ReadingFault('damaged', 'The sound’s format is not stated (no desc chunk).', 8)
  if (data === null)
    throw new ReadingFault(
      'truncated',
      'The sound itself is missing (no data chunk). Copy it again.',
      file.size,
    )
  if (frames === 0 && bytesPerPacket > 0)
    frames = Math.floor(data / bytesPerPacket) * Math.max(1, framesPerPacket)
  const reading = makeReading({
    kind: 'audio',
    container: 'CAF',
    sizeBytes: file.size,
    durationSec: facts.sampleRate && frames > 0 ? frames / facts.sampleRate : null,
    audio: [facts],
  })
  return {
    reading,
    origins: { durationSec: 'desc', 'audio.0.sampleRate': 'desc' },
    fault: cutOff(file.size, missing),
  }
}
