import { type WrapperReading, cutOff, makeReading } from '../assemble'
import { Cursor } from '../bytes/cursor'
import type { FileWindow } from '../bytes/source'
import { ReadingFault } from '../fault'
import { readWaveFormat } from './format'

/** Every part of a Wave64 is named by 16 bytes; the first four are those of a WAVE. */
const [nameLength, headLength, mostChunks] = [16, 24, 1000]

/** Reads Wave64 by its published layout: parts as in a WAVE, with lengths of 64 bits that count their own heads, each on eight bytes. */
export async function readWave64(file: FileWindow): Promise<WrapperReading> {
  let format: ReturnType<typeof readWaveFormat> = null
  let [data, missing]: [number | null, number] = [null, 0]
  for (let offset = headLength + nameLength, n = 0; n < mostChunks && offset + headLength <= file.size; n++) {
    const head = new Cursor(await file.some(offset, headLength + 40), offset)
    const kind = head.code()
    const length = head.skip(nameLength - 4).u64(true)
    if (length < headLength) break
    if (kind === 'fmt ' && head.left >= 16)
      format = readWaveFormat(head.sub(Math.min(length - headLength, head.left)))
    if (kind === 'data') {
      data ??= Math.min(length, file.size - offset) - headLength
      missing = offset + length - file.size
    }
    offset += length + ((8 - (length % 8)) % 8)
  }
  if (!format) throw new ReadingFault('damaged', 'The sound’s format is not stated (no fmt chunk).', 40)
  if (data === null)
    throw new ReadingFault(
      'truncated',
      'The sound itself is missing (no data chunk). Copy it again.',
      file.size,
    )
  const reading = makeReading({
    kind: 'audio',
    container: 'Wave64',
    sizeBytes: file.size,
    durationSec: format.bytesPerSecond > 0 ? data / format.bytesPerSecond : null,
    audio: [format.facts],
  })
  return {
    reading,
    origins: { durationSec: 'data chunk', 'audio.0.sampleRate': 'fmt chunk' },
    fault: cutOff(file.size, missing),
  }
}
