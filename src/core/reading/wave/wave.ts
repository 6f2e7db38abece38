import { rational } from '../../rational/rational'
import { frameToTimecode } from '../../rate/timecode'
import { Cursor, latin } from '../bytes/cursor'
import type { FileWindow } from '../bytes/source'
import { type Fault, ReadingFault } from '../fault'
import type { WrapperReading } from '../assemble'
import type { Reading } from '../reading'
import { waveChunks } from './chunks'
import { readWaveFormat } from './format'

/** The first sample after midnight, as seconds; and as a label at 25 frames a second, until a project says its own. */
function startOf(
  samples: number | null,
  sampleRate: number | null,
): Pick<Reading, 'timecode' | 'timeReferenceSec'> {
  const seconds = samples !== null && sampleRate ? samples / sampleRate : null
  if (seconds === null || seconds >= 24 * 3600) return { timecode: null }
  const timecode = { start: frameToTimecode(Math.floor(seconds * 25 + 1e-6), rational(25)), dropFrame: false }
  return { timecode, timeReferenceSec: seconds }
}

/** Reads WAVE, Broadcast Wave (EBU Tech 3285) and RF64 (EBU Tech 3306) files. */
export async function readWave(file: FileWindow): Promise<WrapperReading> {
  let format: ReturnType<typeof readWaveFormat> = null
  let data: { start: number; length: number } | null = null
  let recordedAt: string | null = null
  let reference: number | null = null
  let samples: number | null = null
  for await (const { kind, start, length, stated, head } of waveChunks(file)) {
    if (kind === 'fmt ' && head.left >= 16) format = readWaveFormat(head.sub(Math.min(stated, head.left)))
    else if (kind === 'bext') {
      const body = await file.some(start, Math.min(stated, 346))
      if (body.length >= 346) reference = new Cursor(body.subarray(338)).u64(true)
      const [day, time] = [latin(body.subarray(320, 330)), latin(body.subarray(330, 338))]
      if (/^\d{4}.\d\d.\d\d$/.test(day) && /^\d\d.\d\d.\d\d$/.test(time)) {
        recordedAt = `${day.replace(/[^\d]/g, '-')}T${time.replace(/[^\d]/g, ':')}`
      }
    }
    if (kind === 'fact' && head.left >= 4) samples = head.u32(true)
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
  const { codec, sampleRate } = format.facts
  // Of compressed sound the count of samples decides (Multimedia Programming Interface, `fact`), where it is whole.
  const isCoded = !/^(PCM|A-law|µ-law)/.test(codec)
  const counted = isCoded && missing <= 0 && samples && sampleRate ? samples / sampleRate : null
  const seconds = counted ?? (format.bytesPerSecond > 0 ? there / format.bytesPerSecond : null)
  const reading: Reading = {
    kind: 'audio',
    container: 'WAVE',
    sizeBytes: file.size,
    durationSec: seconds,
    video: null,
    audio: [format.facts],
    ...startOf(reference, format.facts.sampleRate),
    recordedAt,
    reel: null,
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
  return {
    reading,
    origins: {
      durationSec: counted === null ? 'data chunk' : 'fact chunk',
      'audio.0.sampleRate': 'fmt chunk',
      timecode: 'bext time reference',
    },
    fault,
  }
}
