import { type Rotation } from '../../picture/turn'
import { rational } from '../../rational/rational'
import { exactRate, snapToStandard } from '../../rate/rate'
import type { WrapperReading } from '../assemble'
import { Cursor, latin } from '../bytes/cursor'
import type { FileWindow } from '../bytes/source'
import { ReadingFault } from '../fault'
import type { Note, Reading } from '../reading'
import { timecodeOfDigits } from './smpte-digits'
import { type StillFacts, stillReading } from './still'

/** How numbers and places are written: in which order, and in BigTIFF with eight bytes each. */
interface Writing {
  readonly le: boolean
  readonly isBig: boolean
}

/** What one directory says, by tag. */
interface Directory {
  numbers(tag: number): readonly number[]
  number(tag: number): number | undefined
  text(tag: number): string | null
  bytes(tag: number): Uint8Array | null
}

const mostEntries = 500
/** Of a longer list of numbers this many are read: none of those that matter here is longer. */
const mostNumbers = 64
/** Directories behind directories, at most. */
const mostDirectories = 16
/** Bytes of a value by its type (TIFF 6.0 §2, BigTIFF). */
const lengths: Readonly<Record<number, number>> = {
  ...{ 1: 1, 2: 1, 3: 2, 4: 4, 5: 8, 6: 1, 7: 1, 8: 2, 9: 4, 10: 8, 11: 4, 12: 8, 13: 4 },
  ...{ 16: 8, 17: 8, 18: 8 },
}

function numberIn(body: Cursor, type: number, le: boolean): number {
  switch (type) {
    case 3:
      return body.u16(le)
    case 4:
    case 13:
      return body.u32(le)
    case 5: {
      const [num, den] = [body.u32(le), body.u32(le)]
      return den > 0 ? num / den : NaN
    }
    case 8:
      return body.i16(le)
    case 9:
      return body.i32(le)
    case 10: {
      const [num, den] = [body.i32(le), body.i32(le)]
      return den !== 0 ? num / den : NaN
    }
    case 11:
      return body.f32(le)
    case 12:
      return body.f64(le)
    case 16:
    case 17:
    case 18:
      return body.u64(le)
    default:
      return body.u8()
  }
}

/** Reads the directory at a place. @throws ReadingFault `truncated` where it is cut off */
async function directoryAt(file: FileWindow, at: number, { le, isBig }: Writing): Promise<Directory> {
  const count = new Cursor(await file.exactly(at, isBig ? 8 : 2), at)
  const entries = Math.min(isBig ? count.u64(le) : count.u16(le), mostEntries)
  const [entryLength, inline] = isBig ? [20, 8] : [12, 4]
  const body = new Cursor((await file.exactly(at + (isBig ? 8 : 2), entries * entryLength)).slice(), at)
  const values = new Map<number, { type: number; count: number; bytes: Uint8Array }>()
  for (let n = 0; n < entries; n++) {
    const [tag, type] = [body.u16(le), body.u16(le)]
    const many = isBig ? body.u64(le) : body.u32(le)
    const field = body.slice(inline)
    const length = (lengths[type] ?? 0) * Math.min(many, Math.max(mostNumbers, type === 2 ? 200 : 0))
    if (length === 0) continue
    const place = new Cursor(field)
    const bytes =
      length <= inline && many * (lengths[type] ?? 0) <= inline
        ? field
        : await file.some(isBig ? place.u64(le) : place.u32(le), length)
    values.set(tag, { type, count: Math.min(many, mostNumbers), bytes: bytes.slice(0, length) })
  }
  const numbers = (tag: number): readonly number[] => {
    const value = values.get(tag)
    if (!value) return []
    const body = new Cursor(value.bytes)
    const each = lengths[value.type] ?? 1
    return Array.from({ length: Math.min(value.count, Math.floor(body.left / each)) }, () =>
      numberIn(body, value.type, le),
    )
  }
  return {
    numbers,
    number: (tag) => numbers(tag)[0],
    text(tag) {
      const value = values.get(tag)
      const said = value && latin(value.bytes).replace(/\0.*$/s, '').trim()
      return said ? said : null
    },
    bytes: (tag) => values.get(tag)?.bytes ?? null,
  }
}

/** Tags, by the names of TIFF 6.0, TIFF/EP and DNG. */
const tags = {
  ...{ subfile: 254, width: 256, height: 257, bits: 258, photometric: 262, orientation: 274, samples: 277 },
  ...{ across: 282, down: 283, extra: 338, format: 339, subIfds: 330, subsampling: 530, taken: 306 },
  ...{ compression: 259, strips: 273, stripBytes: 279 },
  ...{ dngVersion: 50706, cropSize: 50720, scale: 50718, area: 50829, timecodes: 51043, rate: 51044 },
  ...{ reel: 51081, camera: 51105 },
} as const

/** How a file is written, and where its first directory stands. */
async function writingOf(file: FileWindow): Promise<Writing & { readonly start: number }> {
  const head = new Cursor(await file.exactly(0, 8))
  const le = head.text(2) === 'II'
  const isBig = head.u16(le) === 43
  const start = isBig ? new Cursor(await file.exactly(8, 8), 8).u64(le) : head.u32(le)
  return { le, isBig, start }
}

const turns: Record<number, Rotation> = { 3: 180, 4: 180, 5: 90, 6: 90, 7: 270, 8: 270 }

/**
 * Reads a TIFF (TIFF 6.0, BigTIFF): size, depth, samples, alpha, turn, pixel shape. One that is a DNG is read by its raw picture, which
 * may stand in a directory of its own; it is not developed here.
 */
export async function readTiff(file: FileWindow): Promise<WrapperReading> {
  const writing = await writingOf(file)
  const first = await directoryAt(file, writing.start, writing)
  const isDng = first.bytes(tags.dngVersion) !== null
  const facts = isDng ? await factsOfDng(file, first, writing) : factsOfTiff(first)
  if (!facts.width || !facts.height) throw new ReadingFault('damaged', 'The picture has no size.', 0)
  return {
    reading: stillReading(isDng ? 'DNG' : 'TIFF', file.size, facts),
    origins: {
      'video.width': isDng ? 'default crop' : 'first directory',
      ...(facts.rate ? { 'video.rate': 'FrameRate' } : {}),
      ...(facts.timecode ? { timecode: 'TimeCodes' } : {}),
    },
    fault: null,
  }
}

function factsOfTiff(directory: Directory): StillFacts {
  const photometric = directory.number(tags.photometric) ?? 0
  const extra = directory.number(tags.extra)
  const samples = directory.number(tags.samples) ?? 1
  const isFloat = directory.number(tags.format) === 3
  const depth = directory.number(tags.bits) ?? 1
  return {
    width: directory.number(tags.width) ?? 0,
    height: directory.number(tags.height) ?? 0,
    bitDepth: depth <= 32 ? depth : 32,
    chroma: chromaOfTiff(photometric, directory.numbers(tags.subsampling)),
    alpha: hasAlpha(samples - (samplesOf[photometric] ?? 1), extra),
    premultiplied: extra === associated,
    rotation: turns[directory.number(tags.orientation) ?? 1] ?? 0,
    pixelAspect: shapeOf(directory),
    recordedAt: dateOf(directory.text(tags.taken)),
    notes: isFloat
      ? [
          {
            code: 'float-samples',
            message: 'Its samples are floating-point numbers: beyond black and white they are cut off.',
          },
        ]
      : [],
  }
}

/** Resolutions are pixels to a length: more of them across make each narrower. */
function shapeOf(directory: Directory) {
  const [across, down] = [directory.number(tags.across) ?? 0, directory.number(tags.down) ?? 0]
  const shape = across > 0 && down > 0 && Number.isFinite(down / across) ? down / across : 1
  const isPlain = Math.abs(shape - 1) < 1e-3 || shape < 0.2 || shape > 5
  return isPlain ? rational(1) : rational(Math.round(down * 1000), Math.round(across * 1000))
}

/** `2026:05:01 09:30:00` */
function dateOf(text: string | null): string | null {
  const [, day = '', time = ''] = /^(\d{4}:\d\d:\d\d) (\d\d:\d\d:\d\d)$/.exec(text ?? '') ?? []
  const date = `${day.replace(/:/g, '-')}T${time}`
  return day && !Number.isNaN(Date.parse(date)) ? date : null
}

/**
 * A raw picture (Adobe's DNG specification 1.7, CinemaDNG): what is meant to be shown of it is its default crop at its default scale,
 * within its active area.
 */
async function factsOfDng(file: FileWindow, first: Directory, writing: Writing): Promise<StillFacts> {
  const places = [...first.numbers(tags.subIfds)].slice(0, mostDirectories)
  const others: Directory[] = []
  for (const place of places) others.push(await directoryAt(file, place, writing))
  // Of several the raw one is that which is no reduced preview.
  const raw = [first, ...others].find((directory) => (directory.number(tags.subfile) ?? 0) === 0) ?? first
  const [top = 0, left = 0, bottom = 0, right = 0] = raw.numbers(tags.area)
  const area = { width: right - left, height: bottom - top }
  const [cropWidth, cropHeight] = raw.numbers(tags.cropSize)
  const [scaleX = 1, scaleY = 1] = raw.numbers(tags.scale)
  const width = cropWidth ?? (area.width > 0 ? area.width : (raw.number(tags.width) ?? 0))
  const height = cropHeight ?? (area.height > 0 ? area.height : (raw.number(tags.height) ?? 0))
  const perSecond = first.number(tags.rate) ?? raw.number(tags.rate) ?? 0
  const isMosaic = raw.number(tags.photometric) === 32_803
  const notes: Note[] = [
    { code: 'raw', message: 'It is raw and not developed here: the preview in the file is shown.' },
  ]
  const whole = [raw.number(tags.width) ?? 0, raw.number(tags.height) ?? 0]
  if (whole[0] !== Math.round(width) || whole[1] !== Math.round(height))
    notes.push({
      code: 'raw-area',
      message: `The sensor gave ${whole[0]}×${whole[1]}; ${Math.round(width)}×${Math.round(height)} of it are meant to be shown.`,
    })
  return {
    codec: isMosaic ? 'raw, mosaic' : 'raw, linear',
    width: Math.round(width),
    height: Math.round(height),
    bitDepth: raw.number(tags.bits) ?? null,
    chroma: null,
    alpha: false,
    rotation: turns[first.number(tags.orientation) ?? 1] ?? 0,
    pixelAspect:
      scaleX > 0 && scaleY > 0 && Math.abs(scaleX / scaleY - 1) > 1e-3
        ? rational(Math.round(scaleX * 1000), Math.round(scaleY * 1000))
        : rational(1),
    colour: { transfer: 'raw' },
    rate: perSecond > 0 && perSecond < 1000 ? (snapToStandard(perSecond) ?? exactRate(perSecond)) : null,
    timecode: timecodeIn(first.bytes(tags.timecodes) ?? raw.bytes(tags.timecodes)),
    recordedAt: dateOf(first.text(tags.taken)),
    reel: first.text(tags.reel) ?? first.text(tags.camera),
    notes,
  }
}

/** The first timecode of several: eight bytes, the digits of SMPTE ST 331 with the frames first. */
function timecodeIn(bytes: Uint8Array | null): Reading['timecode'] {
  return bytes && bytes.length >= 4 ? timecodeOfDigits(new Cursor(bytes).u32(true)) : null
}

/** Where a picture that any browser shows lies in a file. */
export interface Preview {
  readonly offset: number
  readonly length: number
}

const [oldJpeg, jpeg] = [6, 7]

/** The largest preview of a DNG that is a JPEG of one piece; null where there is none. */
export async function previewOfDng(file: FileWindow): Promise<Preview | null> {
  const writing = await writingOf(file)
  const first = await directoryAt(file, writing.start, writing)
  const directories = [first]
  for (const place of first.numbers(tags.subIfds).slice(0, mostDirectories))
    directories.push(await directoryAt(file, place, writing))
  const previews = directories.flatMap((directory): (Preview & { readonly width: number })[] => {
    const [offset, ...more] = directory.numbers(tags.strips)
    const length = directory.number(tags.stripBytes)
    const isJpeg = [oldJpeg, jpeg].includes(directory.number(tags.compression) ?? 0)
    const isRaw = [32_803, 34_892].includes(directory.number(tags.photometric) ?? 0)
    const isThere = offset !== undefined && length !== undefined && offset + length <= file.size
    return isThere && isJpeg && !isRaw && more.length === 0
      ? [{ offset, length, width: directory.number(tags.width) ?? 0 }]
      : []
  })
  return previews.sort((a, b) => b.width - a.width)[0] ?? null
}

/** Whether a TIFF has places of eight bytes, or floating-point samples: not every decoder knows these. */
export async function isUncommonTiff(file: FileWindow): Promise<boolean> {
  const writing = await writingOf(file)
  const directory = await directoryAt(file, writing.start, writing)
  return writing.isBig || directory.number(tags.format) === 3
}

/** Samples of a pixel by what they mean (TIFF 6.0, PhotometricInterpretation): grey, colours, a palette, CMYK, YCbCr, L*a*b*. */
const samplesOf: Readonly<Record<number, number>> = { 0: 1, 1: 1, 2: 3, 3: 1, 5: 4, 6: 3, 8: 3 }
const [palette, yCbCr] = [3, 6]

/** Grey has no colour; of YCbCr the subsampling says how much of it there is: half each way where it says nothing (TIFF 6.0 §21). */
function chromaOfTiff(photometric: number, subsampling: readonly number[]): string {
  if ((samplesOf[photometric] ?? 1) === 1) return photometric === palette ? '4:4:4' : '4:0:0'
  if (photometric !== yCbCr) return '4:4:4'
  const [across = 2, down = 2] = subsampling
  if (across === 4) return '4:1:1'
  return across === 1 ? '4:4:4' : down === 1 ? '4:2:2' : '4:2:0'
}

/** What ExtraSamples calls alpha that the colours are multiplied by (TIFF 6.0 §18). */
const associated = 1

/** Whether more samples than the colours take are alpha: those that are said to be nothing known are not. */
const hasAlpha = (more: number, kind: number | undefined): boolean => more > 0 && kind !== 0
