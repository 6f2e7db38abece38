import type { Luma } from './luma'

/** Samples of a plane, row by row without gaps: bytes for 8 bits a sample, else two bytes each. */
export type Samples = Uint8Array | Uint16Array

/** A decoded picture as the decoder gave it: nothing converted, nothing scaled. */
export interface Planes {
  readonly width: number
  readonly height: number
  /** 8 to 16. */
  readonly bitDepth: number
  /** How many samples of luma stand beside and above each other for one of chroma. */
  readonly across: number
  readonly down: number
  readonly luma: Samples
  /** Null of a picture without colour. */
  readonly chroma: { readonly cb: Samples; readonly cr: Samples } | null
  readonly alpha: Samples | null
}

/** Where a plane is made: in the place that is given, if it fits. @param isWide whether samples take two bytes */
export function placeFor(count: number, isWide: boolean, into: Samples | null | undefined): Samples {
  if (into?.length === count && into instanceof Uint16Array === isWide) return into
  return isWide ? new Uint16Array(count) : new Uint8Array(count)
}

/** How a picture's planes follow each other in one row of bytes. */
export interface PlaneLayout {
  readonly width: number
  readonly height: number
  readonly bitDepth: number
  /** How many samples of luma stand beside and above each other for one of chroma. */
  readonly across: number
  readonly down: number
  /** 1 without colour, 4 with alpha, else 3. */
  readonly planeCount: number
}

/** Bytes of a picture whose planes follow each other without gaps. */
export function bytesOfLayout({ width, height, bitDepth, across, down, planeCount }: PlaneLayout): number {
  const luma = width * height
  const chroma = planeCount > 1 ? 2 * Math.ceil(width / across) * Math.ceil(height / down) : 0
  return (luma + chroma + (planeCount > 3 ? luma : 0)) * (bitDepth > 8 ? 2 : 1)
}

/**
 * The planes of a picture, as views of its bytes: luma, then chroma of blue and red, then alpha.
 * @param bytes as many as `bytesOfLayout` says; samples of more than 8 bits have the lower byte first
 */
export function planesOf(layout: PlaneLayout, bytes: Uint8Array): Planes {
  const { width, height, bitDepth, across, down, planeCount } = layout
  const wide = bitDepth > 8
  // Two bytes are only read as one number where they begin at an even place.
  const at = wide && bytes.byteOffset % 2 ? bytes.slice() : bytes
  const samples: Samples = wide ? new Uint16Array(at.buffer, at.byteOffset, at.byteLength >> 1) : at
  let from = 0
  const next = (count: number) => samples.subarray(from, (from += count))
  const chromaCount = Math.ceil(width / across) * Math.ceil(height / down)
  const luma = next(width * height)
  const chroma = planeCount > 1 ? { cb: next(chromaCount), cr: next(chromaCount) } : null
  const alpha = planeCount > 3 ? next(width * height) : null
  return { width, height, bitDepth, across, down, luma, chroma, alpha }
}

/**
 * A copy of a picture's luma, 8 bits a sample; deeper samples are shifted down.
 * @param into where it is put; a new place where none is given or it is of another length
 */
export function lumaOf({ width, height, bitDepth, luma }: Planes, into?: Uint8Array): Luma {
  const data = into?.length === luma.length ? into : new Uint8Array(luma.length)
  if (luma instanceof Uint8Array) data.set(luma)
  else for (let i = 0; i < luma.length; i++) data[i] = (luma[i] ?? 0) >> (bitDepth - 8)
  return { width, height, data }
}
