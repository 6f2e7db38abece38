import { latin } from '../bytes/cursor'
import type { FileWindow } from '../bytes/source'
import { type Fault, ReadingFault } from '../fault'
import type { WrapperReading } from '../assemble'
import type { Reading } from '../reading'
import { waveChunks } from './chunks'
import { readWaveFormat } from './format'

/** Reads WAVE, Broadcast Wave (EBU Tech 3285) and RF64 (EBU Tech 3306) files. */
export async function readWave(file: FileWindow): Promise<WrapperReading> {
  let format: ReturnType<typeof readWaveFormat> = null
  let data: { start: number; length: number } | null = null
  let recordedAt: string | null = null
  let reel: string | null = null
  for await (const { kind, start, length, stated, head } of waveChunks(file)) {
    if (kind === 'fmt ' && head.left >= 16) format = readWaveFormat(head.sub(Math.min(stated, head.left)))
    else if (kind === 'bext') {
      const body = await file.some(start, Math.min(stated, 338))
      reel = latin(body.subarray(256, 288)).replace(/\0.*$/s, '').trim() || null
      const [day, time] = [latin(body.subarray(320, 330)), latin(body.subarray(330, 338))]
      if (/^\d{4}.\d\d.\d\d$/.test(day) && /^\d\d.\d\d.\d\d$/.test(time)) {
        recordedAt = `${day.replace(/[^\d]/g, '-')}T${time.replace(/[^\d]/g, ':')}`
      }
    }
    if (kind === 'data') data ??= { start, length }
  }
  if (!format) throw new ReadingFault('damaged', 'the sound’s format is not stated (no fmt chunk)', 12)
  if (!data)
    throw new ReadingFault(
      'truncated',
      'the sound itself is missing (no data chunk). Copy it again.',
      file.size,
    )
  const missing = data.start + data.length - file.size
  const there = Math.min(data.length, file.size - data.start)
  const seconds = format.bytesPerSecond > 0 ? there / format.bytesPerSecond : null
  const reading: Reading = {
    kind: 'audio',
    container: 'WAVE',
    sizeBytes: file.size,
    durationSec: seconds,
    video: null,
    audio: [format.facts],
    timecode: null,
    recordedAt,
    reel,
    notes: [],
  }
  const fault: Fault | null =
    missing > 0
      ? {
          code: 'truncated',
          message: `The sound ends ${missing} bytes too early. Copy it again.`,
          offset: file.size,
        }
      : null
  return { reading, origins: { durationSec: 'data chunk', 'audio.0.sampleRate': 'fmt chunk' }, fault }
}
