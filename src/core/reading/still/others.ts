import { byteAt } from '../bytes/byte-at'
import type { WrapperReading } from '../assemble'
import { type ExifFacts, exifLength, readExif } from '../bitstream/jpeg'
import { Cursor, latin } from '../bytes/cursor'
import type { FileWindow } from '../bytes/source'
import { ReadingFault } from '../fault'
import { type StillFacts, stillReading } from './still'

const done = (container: string, file: FileWindow, facts: StillFacts): WrapperReading => {
  if (!facts.width || !facts.height) throw new ReadingFault('damaged', 'The picture has no size.', 0)
  return { reading: stillReading(container, file.size, facts), origins: {}, fault: null }
}

/** Reads the header of a GIF (GIF89a). A moving GIF is listed as a still, with a note. */
export async function readGif(file: FileWindow): Promise<WrapperReading> {
  const head = new Cursor(await file.exactly(0, 13))
  head.skip(6)
  const [width, height] = [head.u16(true), head.u16(true)]
  const flags = head.u8()
  const alpha = await hasTransparency(file, 13 + (flags & 0x80 ? 3 * 2 ** ((flags & 7) + 1) : 0))
  return done('GIF', file, { width, height, bitDepth: 8, chroma: '4:4:4', alpha })
}

/** Blocks in front of the first picture of a GIF, at most. */
const mostBlocks = 100

/** Whether the graphic control in front of the first picture names a colour that is seen through (GIF89a §23). */
async function hasTransparency(file: FileWindow, start: number): Promise<boolean> {
  let at = start
  for (let n = 0; n < mostBlocks; n++) {
    const head = await file.some(at, 4)
    if (head[0] !== 0x21) return false
    if (head[1] === 0xf9) return ((head[3] ?? 0) & 1) === 1
    for (at += 2; ;) {
      const [length = 0] = await file.some(at, 1)
      at += 1 + length
      if (length === 0) break
    }
  }
  return false
}

/** Reads the header of a WebP (RFC 9649): lossy, lossless or extended. */
export async function readWebp(file: FileWindow): Promise<WrapperReading> {
  const head = new Cursor(await file.exactly(0, 30), 0)
  head.skip(12)
  const kind = head.code()
  head.skip(4)
  if (kind === 'VP8X') {
    const flags = head.u8()
    head.skip(3)
    const [w, h] = [head.slice(3), head.slice(3)]
    const size = (b: Uint8Array) => 1 + byteAt(b, 0) + byteAt(b, 1) * 256 + byteAt(b, 2) * 65536
    const exif = flags & 8 ? await exifOfWebp(file) : null
    return done('WebP', file, {
      width: size(w),
      height: size(h),
      bitDepth: 8,
      chroma: null,
      alpha: (flags & 16) !== 0,
      rotation: exif?.rotation ?? 0,
    })
  }
  if (kind === 'VP8L') {
    head.skip(1)
    const bits = head.u32(true)
    const alpha = ((bits >>> 28) & 1) === 1
    return done('WebP', file, {
      width: (bits & 0x3fff) + 1,
      height: ((bits >>> 14) & 0x3fff) + 1,
      bitDepth: 8,
      chroma: '4:4:4',
      alpha,
    })
  }
  if (kind !== 'VP8 ') throw new ReadingFault('damaged', `A WebP holds no “${kind}”.`, 12)
  head.skip(6)
  return done('WebP', file, {
    width: head.u16(true) & 0x3fff,
    height: head.u16(true) & 0x3fff,
    bitDepth: 8,
    chroma: '4:2:0',
    alpha: false,
  })
}

/** Chunks of an extended WebP, at most. */
const mostChunks = 100

/** The EXIF chunk of an extended WebP, which stands behind the picture; null where there is none. */
async function exifOfWebp(file: FileWindow): Promise<ExifFacts | null> {
  let at = 12
  for (let n = 0; n < mostChunks && at + 8 <= file.size; n++) {
    const head = new Cursor(await file.some(at, 8))
    if (head.left < 8) return null
    const [kind, length] = [head.code(), head.u32(true)]
    if (kind === 'EXIF') {
      const bytes = await file.some(at + 8, Math.min(length, exifLength))
      // Some writers keep what leads EXIF in a JPEG.
      const lead = latin(bytes.subarray(0, 6)) === 'Exif\0\0' ? 6 : 0
      return readExif(new Cursor(bytes.slice(lead)))
    }
    at += 8 + length + (length % 2)
  }
  return null
}
