import type { Planes, Samples } from '../planes/planes'
import type { ChromaSiting } from '../resample/picture'
import type { Siting } from '../resample/taps'
import { ofDepth } from './colour'
import { type ChromaSize, chromaSizeOf, roomFor } from './stored'

/**
 * Colour times opacity, so that what cannot be seen weighs nothing where samples are mixed, and back. Luma is counted from 0, chroma from
 * its middle; opacity keeps room above what is whole, so that a filter that overshoots does so alike in both and their quotient stays.
 */

const depth = 12
const most = 2 ** depth - 1
const middle = 2 ** (depth - 1)
/** Whole opacity: Lanczos overshoots an edge by less than a third on both axes together. */
const whole = 3000

/** Planes whose colour is multiplied by opacity, of 12 bits. */
export interface Weighted {
  /** Luma, chroma about its middle, and the opacity of luma. */
  readonly planes: Planes
  /** The opacity of each sample of chroma, where chroma lies. */
  readonly chromaAlpha: Samples
}

/** A value of a plane between its samples, by what is around; edges go on. */
function between(samples: Samples, width: number, height: number, x: number, y: number): number {
  const clamped = (value: number, length: number) => Math.max(0, Math.min(length - 1, value))
  const [left, top] = [Math.floor(x), Math.floor(y)]
  const [fx, fy] = [x - left, y - top]
  const at = (column: number, row: number) =>
    samples[clamped(row, height) * width + clamped(column, width)] as number
  const upper = at(left, top) * (1 - fx) + (fx ? at(left + 1, top) * fx : 0)
  return fy
    ? upper * (1 - fy) + (at(left, top + 1) * (1 - fx) + (fx ? at(left + 1, top + 1) * fx : 0)) * fy
    : upper
}

/** Where a sample of chroma lies among those of luma. */
const placeOf = ({ every, halves }: Siting, index: number): number => every * index + halves / 2 - 0.5

/** Opacity where chroma lies, by its own siting. */
export function opacityOfChroma(
  { width, height }: Planes,
  alpha: Samples,
  { across, down }: ChromaSiting,
  size: ChromaSize,
): Samples {
  if (across.every === 1 && down.every === 1) return alpha
  const samples = roomFor(size.width * size.height, alpha)
  for (let y = 0, i = 0; y < size.height; y++)
    for (let x = 0; x < size.width; x++, i++)
      samples[i] = Math.floor(between(alpha, width, height, placeOf(across, x), placeOf(down, y)) + 0.5)
  return samples
}

/** Multiplies colour by opacity. @param alpha of the picture, as its samples are deep */
export function weighted(
  planes: Planes,
  alpha: Samples,
  siting: ChromaSiting,
  chroma?: ChromaSize,
): Weighted {
  const full = 2 ** planes.bitDepth - 1
  const deep = Uint16Array.from(alpha, (a) => Math.floor((a * whole) / full + 0.5))
  const ofChroma = opacityOfChroma(planes, deep, siting, chroma ?? chromaSizeOf({ planes }))
  const times = (samples: Samples, by: Samples, from: number) => {
    const scaled = Uint16Array.from(ofDepth(samples, planes.bitDepth, depth))
    for (let i = 0; i < scaled.length; i++)
      scaled[i] = Math.floor(from + (((scaled[i] as number) - from) * (by[i] as number)) / most + 0.5)
    return scaled
  }
  return {
    planes: {
      ...planes,
      bitDepth: depth,
      luma: times(planes.luma, deep, 0),
      chroma: planes.chroma && {
        cb: times(planes.chroma.cb, ofChroma, middle),
        cr: times(planes.chroma.cr, ofChroma, middle),
      },
      alpha: deep,
    },
    chromaAlpha: ofChroma,
  }
}

/** Back to colour, and to opacity of 12 bits; what cannot be seen is black. */
export function unweighted({ planes, chromaAlpha }: Weighted): Planes & { readonly chromaAlpha: Samples } {
  const by = (samples: Samples, alpha: Samples, from: number) => {
    const premultiplied = new Uint16Array(samples.length)
    for (let i = 0; i < premultiplied.length; i++) {
      const opacity = alpha[i] as number
      const value = opacity === 0 ? from : from + (((samples[i] as number) - from) * most) / opacity
      premultiplied[i] = value < 0 ? 0 : value > most ? most : Math.floor(value + 0.5)
    }
    return premultiplied
  }
  const opacity = (alpha: Samples) =>
    Uint16Array.from(alpha, (a) => Math.min(most, Math.floor((a * most) / whole + 0.5)))
  const alpha = planes.alpha ?? new Uint16Array(planes.luma.length).fill(whole)
  return {
    ...planes,
    luma: by(planes.luma, alpha, 0),
    chroma: planes.chroma && {
      cb: by(planes.chroma.cb, chromaAlpha, middle),
      cr: by(planes.chroma.cr, chromaAlpha, middle),
    },
    alpha: opacity(alpha),
    chromaAlpha: opacity(chromaAlpha),
  }
}
