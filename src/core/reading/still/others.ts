import { byteAt } from '../bytes/byte-at'
import type { WrapperReading } from '../assemble'
import { type ExifFacts, exifLength, readExif } from '../bitstream/jpeg'
import { Cursor, latin } from '../bytes/cursor'
import type { FileWindow } from '../bytes/source'
import { ReadingFault } from '../fault'
import { type Rotation } from '../../picture/turn'
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

const turns: Record<number, Rotation> = { 3: 180, 4: 180, 5: 90, 6: 90, 7: 270, 8: 270 }

/** Reads the first directory of a TIFF (TIFF 6.0): size, depth, samples, turn. */
export async function readTiff(file: FileWindow): Promise<WrapperReading> {
  const head = new Cursor(await file.exactly(0, 8))
  const le = head.text(2) === 'II'
  head.skip(2)
  const start = head.u32(le)
  const entries = Math.min(new Cursor(await file.exactly(start, 2), start).u16(le), 500)
  const directory = new Cursor((await file.exactly(start + 2, entries * 12)).slice(), start + 2)
  const values = new Map<
    number,
    { count: number; value: number; pair: readonly [number, number]; at: number }
  >()
  for (let n = 0; n < entries; n++) {
    const [tag, type, count] = [directory.u16(le), directory.u16(le), directory.u32(le)]
    const field = directory.sub(4)
    const at = new Cursor(field.bytes).u32(le)
    const shorts = new Cursor(field.bytes)
    const pair = [shorts.u16(le), shorts.u16(le)] as const
    values.set(tag, { count, at, pair, value: type === 3 ? pair[0] : type === 1 ? field.u8() : at })
  }
  const value = (tag: number) => values.get(tag)?.value
  const bits = values.get(258)
  // Three or more depths do not fit into the field: it tells where they stand.
  const bitDepth = !bits
    ? 1
    : bits.count <= 2
      ? bits.value
      : new Cursor(await file.exactly(bits.at, 2), bits.at).u16(le)
  const samples = value(277) ?? 1
  const photometric = value(262) ?? 0
  const subsampling = values.get(530)
  return done('TIFF', file, {
    width: value(256) ?? 0,
    height: value(257) ?? 0,
    bitDepth,
    chroma: chromaOfTiff(photometric, subsampling),
    alpha: hasAlpha(samples - (samplesOf[photometric] ?? 1), values.get(338)?.value),
    premultiplied: values.get(338)?.value === associated,
    rotation: turns[value(274) ?? 1] ?? 0,
  })
}

/** Samples of a pixel by what they mean (TIFF 6.0, PhotometricInterpretation): grey, colours, a palette, CMYK, YCbCr, L*a*b*. */
const samplesOf: Readonly<Record<number, number>> = { 0: 1, 1: 1, 2: 3, 3: 1, 5: 4, 6: 3, 8: 3 }
const [palette, yCbCr] = [3, 6]

/** Grey has no colour; of YCbCr the subsampling says how much of it there is: half each way where it says nothing (TIFF 6.0 §21). */
function chromaOfTiff(
  photometric: number,
  subsampling: { readonly value: number; readonly pair: readonly [number, number] } | undefined,
): string {
  if ((samplesOf[photometric] ?? 1) === 1) return photometric === palette ? '4:4:4' : '4:0:0'
  if (photometric !== yCbCr) return '4:4:4'
  const [across, down] = subsampling?.pair ?? [2, 2]
  if (across === 4) return '4:1:1'
  return across === 1 ? '4:4:4' : down === 1 ? '4:2:2' : '4:2:0'
}

/** What ExtraSamples calls alpha that the colours are multiplied by (TIFF 6.0 §18). */
const associated = 1

/** Whether more samples than the colours take are alpha: those that are said to be nothing known are not. */
const hasAlpha = (more: number, kind: number | undefined): boolean => more > 0 && kind !== 0
