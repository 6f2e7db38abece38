import type { Cursor } from '../bytes/cursor'
import type { AudioFacts } from '../reading'

const formats: Record<number, string> = {
  0x01: 'PCM',
  0x02: 'ADPCM',
  0x03: 'PCM float',
  0x06: 'A-law',
  0x07: 'µ-law',
  0x50: 'MP2',
  0x55: 'MP3',
  0xff: 'AAC',
  0x1600: 'AAC',
  0x2000: 'AC-3',
  0xf1ac: 'FLAC',
}

/** Reads a WAVEFORMATEX structure, as WAVE and AVI keep it. @returns null where it is too short */
export function readWaveFormat(body: Cursor): { facts: AudioFacts; bytesPerSecond: number } | null {
  if (body.left < 14) return null
  let tag = body.u16(true)
  const channels = body.u16(true)
  const sampleRate = body.u32(true)
  const bytesPerSecond = body.u32(true)
  body.skip(2)
  const bitDepth = body.left >= 2 ? body.u16(true) : 0
  // WAVE_FORMAT_EXTENSIBLE: the real format stands first in the sub-format.
  if (tag === 0xfffe && body.left >= 10) {
    body.skip(8)
    tag = body.u16(true)
  }
  const codec = formats[tag] ?? `unknown (0x${tag.toString(16)})`
  const facts: AudioFacts = {
    codec,
    channels: channels || null,
    sampleRate: sampleRate || null,
    bitDepth: codec.startsWith('PCM') ? bitDepth || null : null,
  }
  return { facts, bytesPerSecond }
}
