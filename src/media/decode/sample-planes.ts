import { concat } from '../../core/reading/bytes/concat'
import type { Luma } from '../../core/planes/luma'
import { type Planes, lumaOf, planesOf } from '../../core/planes/planes'
import { type Meaning, matrixWeights } from '../../core/planes/screen'

/** What a decoded frame of the browser offers, or of a decoder that works in its stead. */
export interface CopiedFrame {
  readonly format: string | null
  readonly codedWidth: number
  readonly codedHeight: number
  readonly visibleRect?: { readonly width: number; readonly height: number } | null
  allocationSize(): number
  copyTo(destination: Uint8Array): Promise<readonly { readonly offset: number; readonly stride: number }[]>
}

/** Formats whose planes follow each other: how many samples of luma for one of chroma, depth, alpha. */
const planar = /^I(420|422|444)(A?)(?:P(10|12))?$/
const subsampling: Readonly<Record<string, readonly [across: number, down: number]>> = {
  '420': [2, 2],
  '422': [2, 1],
  '444': [1, 1],
}

/** Room for one frame that was copied and is done with: garbage of many megabytes a frame would stay long. */
let spare: Uint8Array<ArrayBuffer> | null = null

/** Lends room for the bytes of a frame, as long as some work lasts. */
export async function withRoom<T>(
  frame: CopiedFrame,
  work: (room: Uint8Array<ArrayBuffer>) => T | Promise<T>,
): Promise<T> {
  const size = frame.allocationSize()
  const room = spare && spare.length >= size ? spare : new Uint8Array(size)
  spare = null
  try {
    return await work(room)
  } finally {
    spare = room
  }
}

/**
 * The planes of a decoded frame as they were decoded; of a picture in red, green and blue those of its matrix.
 * @param bytes where they are put, if not in a place of their own
 */
export async function planesOfSample(
  frame: CopiedFrame,
  meaning: Meaning,
  bytes = new Uint8Array(frame.allocationSize()),
): Promise<Planes> {
  const { format } = frame
  const width = frame.visibleRect?.width ?? frame.codedWidth
  const height = frame.visibleRect?.height ?? frame.codedHeight
  const layout = await frame.copyTo(bytes)
  const [, chroma = '', alpha = '', depth] = planar.exec(format ?? '') ?? []
  const [across, down] = subsampling[chroma] ?? [2, 2]
  if (chroma) {
    const bitDepth = Number(depth ?? 8)
    const wide = bitDepth > 8 ? 2 : 1
    const rows = [height, Math.ceil(height / down), Math.ceil(height / down), height]
    const widths = [width, Math.ceil(width / across), Math.ceil(width / across), width]
    const packed = layout.map(({ offset, stride }, i) =>
      rowsOf(bytes, offset, stride, (widths[i] ?? width) * wide, rows[i] ?? height),
    )
    const planeCount = alpha ? 4 : 3
    return planesOf(
      { width, height, bitDepth, across, down, planeCount },
      joined(packed.slice(0, planeCount)),
    )
  }
  if (format === 'NV12') {
    const [luma, both] = layout
    const [w, h] = [Math.ceil(width / 2), Math.ceil(height / 2)]
    const pairs = rowsOf(bytes, both?.offset ?? 0, both?.stride ?? 2 * w, 2 * w, h)
    const [cb, cr] = [new Uint8Array(w * h), new Uint8Array(w * h)]
    for (let i = 0; i < w * h; i++) {
      cb[i] = pairs[2 * i] ?? 0
      cr[i] = pairs[2 * i + 1] ?? 0
    }
    return {
      width,
      height,
      bitDepth: 8,
      across,
      down,
      luma: rowsOf(bytes, luma?.offset ?? 0, luma?.stride ?? width, width, height),
      chroma: { cb, cr },
      alpha: null,
    }
  }
  if (/^(RGB|BGR)[AX]$/.test(format ?? '')) {
    const [only] = layout
    const pixels = rowsOf(bytes, only?.offset ?? 0, only?.stride ?? 4 * width, 4 * width, height)
    return planesOfRgb(
      pixels,
      { width, height },
      format?.startsWith('BGR') ?? false,
      format?.endsWith('A') ?? false,
      meaning,
    )
  }
  throw new Error(`the browser gives frames as ${format ?? 'something of its own'}, which cannot be read`)
}

/** The luma of a decoded frame, 8 bits a sample. @param into where it is put, if it has the size */
export async function lumaOfSample(frame: CopiedFrame, meaning: Meaning, into?: Uint8Array): Promise<Luma> {
  const isPlain = /^(I4(20|22|44)A?|NV12)$/.test(frame.format ?? '')
  return withRoom(frame, async (room) => {
    if (!isPlain) return lumaOf(await planesOfSample(frame, meaning, room), into)
    const [plane] = await frame.copyTo(room)
    const width = frame.visibleRect?.width ?? frame.codedWidth
    const height = frame.visibleRect?.height ?? frame.codedHeight
    const data = into?.length === width * height ? into : new Uint8Array(width * height)
    copyRows(
      room,
      { offset: plane?.offset ?? 0, stride: plane?.stride ?? width, length: width, rows: height },
      data,
    )
    return { width, height, data }
  })
}

function rowsOf(bytes: Uint8Array, offset: number, stride: number, length: number, rows: number): Uint8Array {
  if (stride === length) return bytes.subarray(offset, offset + length * rows)
  return copyRows(bytes, { offset, stride, length, rows }, new Uint8Array(length * rows))
}

/** Puts rows that lie apart beside each other. */
function copyRows(
  bytes: Uint8Array,
  {
    offset,
    stride,
    length,
    rows,
  }: { readonly offset: number; readonly stride: number; readonly length: number; readonly rows: number },
  into: Uint8Array,
): Uint8Array {
  for (let row = 0; row < rows; row++)
    into.set(bytes.subarray(offset + row * stride, offset + row * stride + length), row * length)
  return into
}

/** Parts one after the other; where they lie so already, nothing is copied. */
function joined(parts: readonly Uint8Array[]): Uint8Array {
  const [first] = parts
  const follow = parts.every(({ buffer, byteOffset }, i) => {
    const before = parts[i - 1]
    return !before || (buffer === before.buffer && byteOffset === before.byteOffset + before.length)
  })
  const last = parts.at(-1)
  if (first && last && follow)
    return new Uint8Array(first.buffer, first.byteOffset, last.byteOffset + last.length - first.byteOffset)
  return concat(parts)
}

/** Red, green and blue as luma and chroma of a matrix, limited or full as it is meant, chroma whole. */
function planesOfRgb(
  pixels: Uint8Array,
  { width, height }: { readonly width: number; readonly height: number },
  blueFirst: boolean,
  hasAlpha: boolean,
  { matrix, range }: Meaning,
): Planes {
  const count = width * height
  const [luma, cb, cr] = [
    new Uint8ClampedArray(count),
    new Uint8ClampedArray(count),
    new Uint8ClampedArray(count),
  ]
  const alpha = hasAlpha ? new Uint8Array(count) : null
  const full = range === 'full'
  const [black, lumaSpan, chromaSpan] = full ? [0, 1, 1] : [16, 219 / 255, 224 / 255]
  const [kr, kb] = matrixWeights(matrix)
  for (let i = 0; i < count; i++) {
    const [first, g, last] = [pixels[4 * i] ?? 0, pixels[4 * i + 1] ?? 0, pixels[4 * i + 2] ?? 0]
    const [r, b] = blueFirst ? [last, first] : [first, last]
    const y = kr * r + (1 - kr - kb) * g + kb * b
    luma[i] = black + y * lumaSpan
    cb[i] = 128 + ((b - y) / (2 * (1 - kb))) * chromaSpan
    cr[i] = 128 + ((r - y) / (2 * (1 - kr))) * chromaSpan
    if (alpha) alpha[i] = pixels[4 * i + 3] ?? 255
  }
  const bytes = (samples: Uint8ClampedArray) => new Uint8Array(samples.buffer)
  return {
    width,
    height,
    bitDepth: 8,
    across: 1,
    down: 1,
    luma: bytes(luma),
    chroma: { cb: bytes(cb), cr: bytes(cr) },
    alpha,
  }
}
