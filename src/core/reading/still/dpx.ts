import { exactRate, snapToStandard } from '../../rate/rate'
import { rational } from '../../rational/rational'
import type { WrapperReading } from '../assemble'
import { Cursor } from '../bytes/cursor'
import type { FileWindow } from '../bytes/source'
import { type Fault, ReadingFault } from '../fault'
import type { Note } from '../reading'
import { timecodeOfDigits } from './smpte-digits'
import { stillReading } from './still'

/** Numbers of all ones say nothing. */
const unsaid = 0xffffffff
const headerLength = 2048

/** What one sample set holds, by its descriptor (Table 1): chroma, and whether there is alpha. */
const elements: Readonly<Record<number, readonly [chroma: string, alpha: boolean, parts: number]>> = {
  6: ['4:0:0', false, 1],
  50: ['4:4:4', false, 3],
  51: ['4:4:4', true, 4],
  52: ['4:4:4', true, 4],
  100: ['4:2:2', false, 2],
  101: ['4:2:2', true, 3],
  102: ['4:4:4', false, 3],
  103: ['4:4:4', true, 4],
}
/** Transfers and colorimetries by their number (Tables 5A, 5B), as far as others have a name for them. */
const transfers: Readonly<Record<number, string>> = {
  1: 'log',
  2: 'linear',
  3: 'log',
  5: 'bt709',
  6: 'bt709',
  7: 'bt709',
  8: 'bt709',
}
const primaries: Readonly<Record<number, string>> = {
  5: 'bt709',
  6: 'bt709',
  7: 'bt601-625',
  8: 'bt601-525',
  9: 'bt601-625',
  10: 'bt601-525',
}
const turns = { 0: 0, 3: 180, 5: 90, 6: 270 } as const

/**
 * Reads the headers of a DPX (SMPTE ST 268-1), in either order of bytes: size, depth, parts, transfer, pixel shape, turn, rate, timecode.
 * What it states as log, linear or of a printing density is no picture of a display.
 */
export async function readDpx(file: FileWindow): Promise<WrapperReading> {
  const bytes = await file.some(0, headerLength)
  if (bytes.length < 768)
    throw new ReadingFault('truncated', 'The header of the picture is cut off.', bytes.length)
  const at = (offset: number) => {
    const cursor = new Cursor(bytes)
    cursor.at = Math.min(offset, bytes.length)
    return cursor
  }
  const le = at(0).text(4) === 'XPDS'
  const u32 = (offset: number) => (offset + 4 <= bytes.length ? at(offset).u32(le) : unsaid)
  const u16 = (offset: number) => (offset + 2 <= bytes.length ? at(offset).u16(le) : 0xffff)
  const u8 = (offset: number) => bytes[offset] ?? 0xff
  const f32 = (offset: number) => {
    const value = offset + 4 <= bytes.length && u32(offset) !== unsaid ? at(offset).f32(le) : NaN
    return Number.isFinite(value) && value > 0 ? value : null
  }
  const text = (offset: number, length: number) => {
    const said =
      offset + length <= bytes.length
        ? at(offset)
            .text(length)
            .replace(/[\0\xff].*$/s, '')
            .trim()
        : ''
    return /^[\x20-\x7e]+$/.test(said) ? said : null
  }
  const [width, height] = [u32(772), u32(776)]
  if (!width || !height || width > 65_535 || height > 65_535)
    throw new ReadingFault('damaged', 'The picture has no size.', 772)
  const [descriptor, transfer, colorimetry, bitDepth, packing] = [
    u8(800),
    u8(801),
    u8(802),
    u8(803),
    u16(804),
  ]
  const [chroma, alpha, parts] = elements[descriptor] ?? ['4:4:4', false, 3]
  const [across, down] = [u32(1628), u32(1632)]
  const rate = [f32(1940), f32(1724)].find((value) => value !== null && value >= 1 && value < 1000) ?? null
  const interlace = u8(1928)
  const notes: Note[] = []
  const named = transfers[transfer]
  if (named === 'log' || named === 'linear')
    notes.push({
      code: `colour-${named}`,
      message: `Its samples are ${named === 'log' ? 'logarithmic' : 'linear'}, as its header says: this is no picture for a display.`,
    })
  const missing = u32(4) + lengthOfSamples(width, height, parts, bitDepth, packing) - file.size
  const fault: Fault | null =
    u32(4) !== unsaid && missing > 0
      ? {
          code: 'truncated',
          message: `The picture ends ${missing} bytes too early. Copy it again.`,
          offset: file.size,
        }
      : null
  const turn = turns[u16(768) as keyof typeof turns]
  return {
    reading: stillReading('DPX', file.size, {
      width,
      height,
      bitDepth: bitDepth > 0 && bitDepth <= 32 ? bitDepth : null,
      chroma,
      alpha,
      pixelAspect:
        across > 0 && down > 0 && across < unsaid && down < unsaid ? rational(across, down) : rational(1),
      rotation: turn ?? 0,
      colour: {
        transfer: named ?? null,
        primaries: primaries[colorimetry] ?? null,
        ...(chroma === '4:4:4' && descriptor < 100 ? { matrix: 'rgb', range: 'full' as const } : {}),
      },
      rate: rate === null ? null : (snapToStandard(rate) ?? exactRate(rate)),
      timecode: u32(1920) === unsaid ? null : timecodeOfDigits(u32(1920)),
      recordedAt: dateOf(text(136, 24)),
      reel: text(1556, 32),
      notes:
        interlace === 1
          ? [...notes, { code: 'interlaced', message: 'Its header says that it is interlaced.' }]
          : notes,
    }),
    origins: {
      'video.width': 'image header',
      'video.colour.transfer': 'image element',
      'video.rate': 'television or film header',
      timecode: 'television header',
    },
    fault,
  }
}

/** Bytes that samples take (§5.4): of ten and twelve bits they are filled to words, or packed. */
function lengthOfSamples(
  width: number,
  height: number,
  parts: number,
  bits: number,
  packing: number,
): number {
  const row = width * parts
  if (packing === 0) return 4 * Math.ceil((row * bits) / 32) * height
  if (bits === 10) return 4 * Math.ceil(row / 3) * height
  return Math.ceil(bits / 8) * row * height
}

/** `2026:05:01:09:30:00`, with a zone behind it or without. */
function dateOf(text: string | null): string | null {
  const [, day, time] = /^(\d{4}:\d\d:\d\d)[: ](\d\d:\d\d:\d\d)/.exec(text ?? '') ?? []
  const date = day && time ? `${day.replace(/:/g, '-')}T${time}` : null
  return date && !Number.isNaN(Date.parse(date)) ? date : null
}
