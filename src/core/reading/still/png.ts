import { rational } from '../../rational/rational'
import { exifLength, readExif } from '../bitstream/jpeg'
import type { Rotation } from '../../picture/turn'
import { Cursor } from '../bytes/cursor'
import type { FileWindow } from '../bytes/source'
import { ReadingFault } from '../fault'
import type { WrapperReading } from '../assemble'
import { stillReading } from './still'

/** Reads the header of a PNG (ISO/IEC 15948): size, depth, alpha, pixel shape. */
export async function readPng(file: FileWindow): Promise<WrapperReading> {
  const header = new Cursor(await file.exactly(0, 33))
  header.skip(12)
  if (header.code() !== 'IHDR')
    throw new ReadingFault('damaged', 'a PNG begins with IHDR, and this does not', 12)
  const [width, height, bitDepth, type] = [header.u32(), header.u32(), header.u8(), header.u8()]
  if (!width || !height || width > 0x7fffffff || height > 0x7fffffff) {
    throw new ReadingFault('damaged', 'the picture has no size', 16)
  }
  let alpha = type === 4 || type === 6
  let pixelAspect = rational(1)
  let rotation: Rotation = 0
  // What is known of a picture stands before its samples, which may lie in any number of chunks: the end is sought at the end.
  let offset = 33
  for (let n = 0; n < mostBefore && offset + 8 <= file.size; n++) {
    const chunk = new Cursor(await file.some(offset, 8 + 9))
    const length = chunk.u32()
    const kind = chunk.code()
    if (kind === 'IDAT' || kind === 'IEND') break
    if (kind === 'tRNS') alpha = true
    if (kind === 'pHYs' && chunk.left >= 8) {
      const [x, y] = [chunk.u32(), chunk.u32()]
      if (x > 0 && y > 0) pixelAspect = rational(y, x)
    }
    if (kind === 'eXIf')
      rotation = readExif(
        new Cursor((await file.some(offset + 8, Math.min(length, exifLength))).slice()),
      ).rotation
    offset += 12 + length
  }
  const ended = await hasEnd(file)
  const reading = stillReading('PNG', file.size, {
    width,
    height,
    bitDepth,
    alpha,
    pixelAspect,
    rotation,
    chroma: type === 0 || type === 4 ? '4:0:0' : '4:4:4',
  })
  const fault = ended
    ? null
    : ({
        code: 'truncated',
        message: 'The picture ends too early: its last lines are missing. Copy it again.',
        offset: file.size,
      } as const)
  return { reading, origins: {}, fault }
}

/** Chunks before the samples: profiles, texts, times. */
const mostBefore = 1000
/** Some programs write something of their own behind the end. */
const endWithin = 64 * 1024
/** A chunk without content, by its length, its name and its checksum. */
const end = [0, 0, 0, 0, 0x49, 0x45, 0x4e, 0x44, 0xae, 0x42, 0x60, 0x82]

/** Whether a picture ends with its last chunk. */
async function hasEnd(file: FileWindow): Promise<boolean> {
  const from = Math.max(0, file.size - endWithin)
  const tail = await file.some(from, file.size - from)
  for (let at = tail.length - end.length; at >= 0; at--)
    if (end.every((byte, i) => tail[at + i] === byte)) return true
  return false
}
