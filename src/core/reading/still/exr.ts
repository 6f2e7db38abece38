import { nearestRational, rational } from '../../rational/rational'
import { type Rate, exactRate, snapToStandard } from '../../rate/rate'
import { type WrapperReading, captureRateAbove } from '../assemble'
import { Cursor } from '../bytes/cursor'
import type { FileWindow } from '../bytes/source'
import { type Fault, ReadingFault } from '../fault'
import type { Note } from '../reading'
import { timecodeOfDigits } from './smpte-digits'
import { stillReading } from './still'

/** A header of an OpenEXR is no longer than this here. */
const mostHeader = 192 * 1024
const depths = [32, 16, 32] as const

interface Attribute {
  readonly type: string
  /** Where its value begins in the file. */
  readonly at: number
  readonly body: Cursor
}

/** A header taken apart: its attributes, whose values begin where they are told, and where it ends. */
export interface ExrHeader {
  readonly isMultiPart: boolean
  readonly isTiled: boolean
  readonly attributes: ReadonlyMap<string, Attribute>
  readonly end: number
}

/** The first header of an OpenEXR. @param bytes from the beginning of the file @throws ReadingFault */
export function exrHeader(bytes: Uint8Array): ExrHeader {
  const cursor = new Cursor(bytes)
  cursor.skip(4)
  const version = cursor.u32(true)
  const word = () => {
    const end = bytes.indexOf(0, cursor.at)
    if (end < 0 || end - cursor.at > 255)
      throw new ReadingFault('damaged', 'A name in the header has no end.', cursor.at)
    const text = cursor.text(end - cursor.at)
    cursor.skip(1)
    return text
  }
  const attributes = new Map<string, Attribute>()
  for (let name = word(); name !== ''; name = word()) {
    const type = word()
    const length = cursor.u32(true)
    attributes.set(name, { type, at: cursor.at, body: cursor.sub(length) })
  }
  return {
    isMultiPart: (version & 0x1000) !== 0,
    isTiled: (version & 0x200) !== 0,
    attributes,
    end: cursor.at,
  }
}

/** A window of a header, in pixels from the origin of both. @throws ReadingFault */
export function exrWindow({ attributes }: ExrHeader, name: 'displayWindow' | 'dataWindow') {
  const body = attributes.get(name)?.body
  if (!body || body.bytes.length < 16) throw new ReadingFault('damaged', `Its header has no ${name}.`, 8)
  const value = new Cursor(body.bytes)
  const [left, top, right, bottom] = [value.i32(true), value.i32(true), value.i32(true), value.i32(true)]
  return { left, top, width: right - left + 1, height: bottom - top + 1 }
}

/** How many lines lie together in a chunk; null where the header does not say. */
export function linesInChunk({ attributes }: ExrHeader): number | null {
  const body = attributes.get('compression')?.body
  return body && body.bytes.length > 0 ? (linesOf[body.bytes[0] ?? 0] ?? 1) : null
}

/**
 * Reads the first header of an OpenEXR (its published file layout): display and data window, channels, pixel shape, rate, timecode.
 * The picture is its display window; its samples are linear to light, and no picture for a display.
 */
export async function readExr(file: FileWindow): Promise<WrapperReading> {
  const bytes = (await file.some(0, Math.min(file.size, mostHeader))).slice()
  const header = exrHeader(bytes)
  const { attributes, isMultiPart } = header
  const [display, data] = [exrWindow(header, 'displayWindow'), exrWindow(header, 'dataWindow')]
  if (display.width < 1 || display.height < 1 || display.width > 65_535 || display.height > 65_535)
    throw new ReadingFault('damaged', 'The picture has no size.', 8)
  const channels = channelsIn(attributes.get('channels')?.body)
  const own = channels.filter(({ name }) => !name.includes('.'))
  const names = new Set((own.length > 0 ? own : channels).map(({ name }) => name.split('.').at(-1) ?? name))
  const isLuma = names.has('Y') && !names.has('R')
  const hasChroma = names.has('RY') && names.has('BY')
  const notes: Note[] = [
    { code: 'colour-linear', message: 'Its samples are linear to light: this is no picture for a display.' },
  ]
  const { width, height } = data
  const [left, top] = [data.left - display.left, data.top - display.top]
  const isApart = left !== 0 || top !== 0 || width !== display.width || height !== display.height
  const isPicture = width > 0 && height > 0 && width <= 65_535 && height <= 65_535
  if (isApart) {
    const isMore = left <= 0 && top <= 0 && left + width >= display.width && top + height >= display.height
    notes.push({
      code: 'data-window',
      message: `It holds ${width}×${height} from ${left}, ${top}: ${isMore ? 'more than is shown' : 'outside of that the picture is empty'}.`,
    })
  }
  if (isMultiPart)
    notes.push({ code: 'several-parts', message: 'It holds several parts: the first is taken.' })
  const layers = new Set(
    channels.filter(({ name }) => name.includes('.')).map(({ name }) => name.split('.')[0]),
  )
  if (layers.size > 0 && own.length > 0)
    notes.push({ code: 'several-layers', message: `Beside the picture it holds ${[...layers].join(', ')}.` })
  const { primaries, note } = primariesOf(attributes.get('chromaticities')?.body)
  if (note) notes.push(note)
  const aspect = attributes.get('pixelAspectRatio')?.body
  const shape = aspect && aspect.left >= 4 ? aspect.f32(true) : 1
  const rate = rateIn(attributes.get('framesPerSecond'))
  const depth =
    channels.find(({ name }) => /^(R|G|B|Y)$/.test(name.split('.').at(-1) ?? ''))?.kind ?? channels[0]?.kind
  const code = attributes.get('timeCode')?.body
  const lines = linesInChunk(header)
  const fault =
    isMultiPart || header.isTiled || lines === null
      ? null
      : await faultOfLines(file, header.end, Math.ceil(height / lines))
  return {
    reading: stillReading('OpenEXR', file.size, {
      width: display.width,
      height: display.height,
      ...(isApart && isPicture ? { dataWindow: { left, top, width, height } } : {}),
      bitDepth: depths[depth ?? 1] ?? null,
      chroma: isLuma ? (hasChroma ? '4:2:0' : '4:0:0') : '4:4:4',
      alpha: names.has('A'),
      // By its definition: colours are multiplied by how much of the pixel they cover.
      premultiplied: true,
      pixelAspect: shape > 0 && shape < 100 ? nearestRational(shape, 1e-4) : rational(1),
      colour: { transfer: 'linear', primaries, ...(isLuma ? {} : { matrix: 'rgb', range: 'full' as const }) },
      rate,
      captureRate: captureRateAbove(rateIn(attributes.get('captureRate')), rate),
      timecode: code && code.left >= 4 ? timecodeOfDigits(code.u32(true)) : null,
      reel: textIn(attributes.get('reelName') ?? attributes.get('owner')),
      notes,
    }),
    origins: { 'video.width': 'displayWindow', 'video.rate': 'framesPerSecond', timecode: 'timeCode' },
    fault,
  }
}

/** A rate that a header states as numerator and denominator; null where it states none that can be. */
function rateIn(attribute: Attribute | undefined): Rate | null {
  if (!attribute || attribute.body.left < 8) return null
  const [num, den] = [attribute.body.i32(true), attribute.body.u32(true)]
  return num > 0 && den > 0 && num / den < 1000 ? (snapToStandard(num / den) ?? exactRate(num / den)) : null
}

/** Red, green, blue and white in CIE x and y, by name (ITU-R BT.709 and BT.2020, SMPTE RP 431-2 and EG 432-1). */
const known: Readonly<Record<string, readonly number[]>> = {
  bt709: [0.64, 0.33, 0.3, 0.6, 0.15, 0.06, 0.3127, 0.329],
  bt2020: [0.708, 0.292, 0.17, 0.797, 0.131, 0.046, 0.3127, 0.329],
  'dci-p3': [0.68, 0.32, 0.265, 0.69, 0.15, 0.06, 0.314, 0.351],
  'display-p3': [0.68, 0.32, 0.265, 0.69, 0.15, 0.06, 0.3127, 0.329],
}

/** The primaries that a picture states; those of no display are told as they are. */
function primariesOf(body: Cursor | undefined): { primaries: string | null; note: Note | null } {
  if (!body || body.left < 32) return { primaries: null, note: null }
  const stated = Array.from({ length: 8 }, () => body.f32(true))
  const near = (values: readonly number[]) =>
    values.every((value, i) => Math.abs(value - (stated[i] ?? NaN)) < 0.002)
  const primaries = Object.keys(known).find((name) => near(known[name] ?? [])) ?? null
  if (primaries) return { primaries, note: null }
  const [red, green, blue] = [0, 2, 4].map((i) =>
    stated
      .slice(i, i + 2)
      .map((value) => value.toFixed(3))
      .join(', '),
  )
  return {
    primaries,
    note: {
      code: 'colour-primaries',
      message: `Its primaries are red ${red}, green ${green} and blue ${blue}, those of no display: its colours shift until they are converted.`,
    },
  }
}

/** Lines that lie together, by compression: none, RLE, ZIPS, ZIP, PIZ, PXR24, B44, B44A, DWAA, DWAB. */
const linesOf = [1, 1, 1, 16, 32, 16, 32, 32, 32, 256]
/** A table of lines is looked at this far. */
const mostTable = 64 * 1024

/** Where the lines of a picture lie is listed behind its header: what a renderer has not written yet is nought, what is cut off lies behind the end. */
async function faultOfLines(file: FileWindow, at: number, count: number): Promise<Fault | null> {
  const table = new Cursor((await file.some(at, Math.min(8 * count, mostTable))).slice())
  let furthest = 0
  let isWhole = table.left >= Math.min(8 * count, mostTable)
  while (isWhole && table.left >= 8) {
    const offset = table.u32(true) + table.u32(true) * 2 ** 32
    if (offset < at || offset > file.size - 8) isWhole = false
    furthest = Math.max(furthest, offset)
  }
  if (isWhole) {
    const lines = new Cursor(await file.some(furthest, 8))
    lines.skip(4)
    isWhole = furthest + 8 + lines.u32(true) <= file.size
  }
  return isWhole
    ? null
    : {
        code: 'truncated',
        message: 'The picture is not whole: some of its lines are missing. Render or copy it again.',
        offset: file.size,
      }
}

/** Channels by their names, with the kind of their samples: whole numbers, half, float. */
function channelsIn(body: Cursor | undefined): { name: string; kind: number }[] {
  const channels: { name: string; kind: number }[] = []
  if (!body) return channels
  while (body.left > 1 && channels.length < 1000) {
    const end = body.bytes.indexOf(0, body.at)
    if (end <= body.at) break
    const name = body.text(end - body.at)
    body.skip(1)
    if (body.left < 16) break
    channels.push({ name, kind: body.u32(true) })
    body.skip(12)
  }
  return channels
}

const textIn = (attribute: Attribute | undefined): string | null =>
  attribute?.type === 'string' ? attribute.body.text(Math.min(attribute.body.left, 100)).trim() || null : null
