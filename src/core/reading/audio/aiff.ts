import { type WrapperReading, cutOff, makeReading } from '../assemble'
import { Cursor } from '../bytes/cursor'
import type { FileWindow } from '../bytes/source'
import { ReadingFault } from '../fault'
import type { AudioFacts } from '../reading'

const codings: Readonly<Record<string, string>> = {
  NONE: 'PCM',
  sowt: 'PCM',
  twos: 'PCM',
  in24: 'PCM',
  in32: 'PCM',
  '23ni': 'PCM',
  'raw ': 'PCM',
  fl32: 'PCM float',
  FL32: 'PCM float',
  fl64: 'PCM float',
  FL64: 'PCM float',
  ulaw: 'µ-law',
  ULAW: 'µ-law',
  alaw: 'A-law',
  ALAW: 'A-law',
  ima4: 'ADPCM',
}
const mostChunks = 1000

/** Reads AIFF and AIFF-C by their published layout of chunks: COMM says what SSND holds. */
export async function readAiff(file: FileWindow): Promise<WrapperReading> {
  let facts: AudioFacts | null = null
  let [frames, hasSound, end] = [0, false, 12]
  for (let offset = 12, n = 0; n < mostChunks && offset + 8 <= file.size; n++) {
    const head = new Cursor(await file.some(offset, 8 + 26), offset)
    const kind = head.code()
    const length = head.u32()
    if (kind === 'COMM' && head.left >= 18) {
      const channels = head.u16()
      frames = head.u32()
      const bits = head.u16()
      const sampleRate = extended(head.sub(10))
      const coding = length >= 22 && head.left >= 4 ? head.code() : 'NONE'
      const codec = codings[coding] ?? `unknown (${coding.trim()})`
      facts = {
        codec,
        channels: channels > 0 && channels <= 256 ? channels : null,
        sampleRate: sampleRate > 0 && sampleRate <= 1e6 ? sampleRate : null,
        bitDepth: codec.startsWith('PCM') && bits > 0 && bits <= 64 ? bits : null,
      }
    }
    if (kind === 'SSND') hasSound = true
    offset += 8 + length + (length % 2)
    end = Math.max(end, offset - (length % 2))
  }
  if (!facts) throw new ReadingFault('damaged', 'The sound’s format is not stated (no COMM chunk).', 12)
  if (!hasSound)
    throw new ReadingFault(
      'truncated',
      'The sound itself is missing (no SSND chunk). Copy it again.',
      file.size,
    )
  const reading = makeReading({
    kind: 'audio',
    container: 'AIFF',
    sizeBytes: file.size,
    durationSec: facts.sampleRate ? frames / facts.sampleRate : null,
    audio: [facts],
  })
  return {
    reading,
    origins: { durationSec: 'COMM', 'audio.0.sampleRate': 'COMM' },
    fault: cutOff(file.size, end - file.size),
  }
}

/** A number of 80 bits, as the mathematics of that time kept it (IEEE 754 extended). */
function extended(body: Cursor): number {
  const exponent = (body.u16() & 0x7fff) - 16_383
  const [high, low] = [body.u32(), body.u32()]
  return (high * 2 ** 32 + low) * 2 ** (exponent - 63)
}
