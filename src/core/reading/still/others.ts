import { byteAt } from '../bytes/byte-at'
import type { WrapperReading } from '../assemble'
import { Cursor } from '../bytes/cursor'
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
  return done('GIF', file, { width, height, bitDepth: 8, chroma: '4:4:4', alpha: false })
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
    return done('WebP', file, {
      width: size(w),
      height: size(h),
      bitDepth: 8,
      chroma: null,
      alpha: (flags & 16) !== 0,
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

const turns: Record<number, Rotation> = { 3: 180, 4: 180, 5: 90, 6: 90, 7: 270, 8: 270 }

/** Reads the first directory of a TIFF (TIFF 6.0): size, depth, samples, turn. */
export async function readTiff(file: FileWindow): Promise<WrapperReading> {
  const head = new Cursor(await file.exactly(0, 8))
  const le = head.text(2) === 'II'
  head.skip(2)
  const start = head.u32(le)
  const entries = Math.min(new Cursor(await file.exactly(start, 2), start).u16(le), 500)
  const directory = new Cursor((await file.exactly(start + 2, entries * 12)).slice(), start + 2)
  const values = new Map<number, { count: number; value: number; at: number }>()
  for (let n = 0; n < entries; n++) {
    const [tag, type, count] = [directory.u16(le), directory.u16(le), directory.u32(le)]
    const field = directory.sub(4)
    const at = new Cursor(field.bytes).u32(le)
    values.set(tag, { count, at, value: type === 3 ? field.u16(le) : type === 1 ? field.u8() : at })
  }
  const value = (tag: number) => values.get(tag)?.value
  const bits = values.get(258)
  // Three or more depths do not fit into the field: it tells where they stand.
  const bitDepth = !bits
    ? 1
    : bits.count <= 2
      ? bits.value
      : new Cursor(await file.exactly(bits.at, 2), bits.at).u16(le)
  const colour = value(262) === 2 || value(262) === 6
  return done('TIFF', file, {
    width: value(256) ?? 0,
    height: value(257) ?? 0,
    bitDepth,
    chroma: colour || value(262) === 3 ? '4:4:4' : '4:0:0',
    alpha: values.has(338) || (value(277) ?? 1) === 4 || (value(277) ?? 1) === 2,
    rotation: turns[value(274) ?? 1] ?? 0,
  })
}
