import type { FileWindow } from '../bytes/source'
import { ReadingFault } from '../fault'
import type { AudioFacts } from '../reading'
import { waveChunks } from './chunks'
import { readWaveFormat } from './format'

/** The sound of a WAVE file, to be read in stretches. */
export interface WaveSound {
  readonly sampleRate: number
  readonly channels: number
  /** How many samples each channel has. */
  readonly count: number
  /** Samples from one to before another, −1 … 1, a list for each channel. */
  samples(from: number, to: number): Promise<Float32Array[]>
}

/**
 * Opens the sound of a WAVE, Broadcast Wave or RF64 file of plain samples.
 * @throws ReadingFault where it is none, or its samples are packed
 */
export async function openWave(file: FileWindow): Promise<WaveSound> {
  let format: AudioFacts | null = null
  let data: { readonly start: number; readonly length: number } | null = null
  for await (const { kind, start, length, stated, head } of waveChunks(file)) {
    if (kind === 'fmt ' && head.left >= 16)
      format = readWaveFormat(head.sub(Math.min(stated, head.left)))?.facts ?? null
    if (kind !== 'data') continue
    data = { start, length: Math.min(length, file.size - start) }
    break
  }
  const { channels, sampleRate, bitDepth, codec } = format ?? {}
  if (!data || !channels || !sampleRate || !bitDepth || !codec?.startsWith('PCM'))
    throw new ReadingFault(
      'unsupported',
      `Only plain samples are measured here; this is ${codec ?? 'no WAVE file'}.`,
      0,
    )
  const { start, length } = data
  const bytes = Math.ceil(bitDepth / 8)
  const frame = bytes * channels
  const toNumber = readerOf(bytes, codec === 'PCM float')
  return {
    sampleRate,
    channels,
    count: Math.floor(length / frame),
    async samples(from, to) {
      const chunk = await file.some(start + from * frame, (to - from) * frame)
      const view = new DataView(chunk.buffer, chunk.byteOffset, chunk.byteLength)
      const there = Math.floor(chunk.length / frame)
      return Array.from({ length: channels }, (_, channel) =>
        Float32Array.from({ length: there }, (_, i) => toNumber(view, i * frame + channel * bytes)),
      )
    },
  }
}

/** How one sample is read: unsigned where it is a byte, else signed, or a number of its own. */
function readerOf(bytes: number, isFloat: boolean): (view: DataView, at: number) => number {
  if (isFloat) return bytes === 8 ? (v, at) => v.getFloat64(at, true) : (v, at) => v.getFloat32(at, true)
  switch (bytes) {
    case 1:
      return (v, at) => (v.getUint8(at) - 128) / 128
    case 2:
      return (v, at) => v.getInt16(at, true) / 2 ** 15
    case 3:
      return (v, at) => ((v.getInt8(at + 2) << 16) | v.getUint16(at, true)) / 2 ** 23
    default:
      return (v, at) => v.getInt32(at, true) / 2 ** 31
  }
}
