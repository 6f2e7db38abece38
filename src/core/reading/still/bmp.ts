import { rational } from '../../rational/rational'
import type { WrapperReading } from '../assemble'
import { Cursor } from '../bytes/cursor'
import type { FileWindow } from '../bytes/source'
import { type Fault, ReadingFault } from '../fault'
import { stillReading } from './still'

/** Reads the headers of a BMP, from version 3 on: size, depth, alpha by its mask, pixels to a length. */
export async function readBmp(file: FileWindow): Promise<WrapperReading> {
  const head = new Cursor(await file.some(0, 14 + 124))
  if (head.left < 14 + 12) throw new ReadingFault('truncated', 'The header of the picture is cut off.', 0)
  head.skip(2)
  const stated = head.u32(true)
  head.skip(8)
  const headerLength = head.u32(true)
  if (headerLength < 40)
    throw new ReadingFault('unsupported', 'This is a BMP of an early version, which is not read here.', 14)
  if (head.left < 36) throw new ReadingFault('truncated', 'The header of the picture is cut off.', 0)
  const [width, height] = [head.i32(true), Math.abs(head.i32(true))]
  head.skip(2)
  const bits = head.u16(true)
  const compression = head.u32(true)
  head.skip(4)
  const [across, down] = [head.i32(true), head.i32(true)]
  head.skip(8)
  if (width <= 0 || height === 0) throw new ReadingFault('damaged', 'The picture has no size.', 18)
  // From version 4 on masks tell where alpha lies; before, the fourth byte is nothing.
  const hasMask = headerLength >= 56 && head.left >= 16
  const alphaMask = hasMask ? head.skip(12).u32(true) : 0
  const reading = stillReading('BMP', file.size, {
    width,
    height,
    bitDepth: bits === 16 ? 5 : 8,
    chroma: '4:4:4',
    alpha: bits === 32 && (compression === 3 || compression === 6 || headerLength >= 108) && alphaMask !== 0,
    pixelAspect: across > 0 && down > 0 ? rational(down, across) : rational(1),
  })
  const fault: Fault | null =
    stated > file.size
      ? {
          code: 'truncated',
          message: `The picture ends ${stated - file.size} bytes too early. Copy it again.`,
          offset: file.size,
        }
      : null
  return { reading, origins: { 'video.width': 'information header' }, fault }
}
