import { factsOfJpeg } from '../bitstream/jpeg'
import type { WrapperReading } from '../assemble'
import type { FileWindow } from '../bytes/source'
import { ReadingFault } from '../fault'
import { stillReading } from './still'

/** Large previews and profiles may stand before the frame header. */
const headLength = 200 * 1024

/** Reads a JPEG (ITU-T T.81) with its EXIF turn, camera and date. */
export async function readJpeg(file: FileWindow): Promise<WrapperReading> {
  const facts = factsOfJpeg(await file.some(0, headLength))
  if (!facts?.width || !facts.height) {
    const cut = file.size < headLength
    throw new ReadingFault(
      cut ? 'truncated' : 'damaged',
      'The picture has no frame header. Copy it again.',
      Math.min(file.size, headLength),
    )
  }
  const { width, height, rotation } = facts
  const tail = await file.some(Math.max(0, file.size - 64), 64)
  const ended = tail.some((byte, i) => byte === 0xff && tail[i + 1] === 0xd9)
  const reading = stillReading('JPEG', file.size, {
    width,
    height,
    rotation,
    bitDepth: facts.bitDepth ?? 8,
    chroma: facts.chroma ?? null,
    alpha: false,
    pixelAspect: facts.pixelAspect,
  })
  const fault = ended
    ? null
    : ({
        code: 'truncated',
        message: 'The picture ends too early: its last lines are missing. Copy it again.',
        offset: file.size,
      } as const)
  return {
    reading: { ...reading, recordedAt: facts.takenAt, reel: facts.camera },
    origins: { 'video.rotation': 'EXIF' },
    fault,
  }
}
