import type { Planes, Samples } from '../planes/planes'

/** Pictures, levels and sound of what was made, held against what was planned. */

/** A picture as small as it can be told from others by: means of blocks, and whole where it is small. */
export interface Reduced {
  readonly width: number
  readonly height: number
  /** In code values of 8 bits. */
  readonly values: Float32Array
  /** Means of blocks of both colours, one after the other; none of a picture without. */
  readonly colours: Float32Array
}

const widest = 320

/** The luma of a picture in means of blocks; fields stay apart, so that a swap of them is seen. */
export function reduced(planes: Planes): Reduced {
  const { width, height, luma, bitDepth } = planes
  const by = Math.max(1, Math.ceil(width / widest))
  const [w, h] = [Math.floor(width / by), Math.floor(height / (2 * by)) * 2]
  const values = new Float32Array(w * h)
  const unit = 1 / (by * by * 2 ** (bitDepth - 8))
  for (let row = 0; row < h; row++) {
    // Lines of one parity beside each other: the row of a block is of the top field or of the bottom one.
    const parity = row % 2
    const first = Math.floor(row / 2) * 2 * by + parity
    for (let k = 0; k < by; k++) {
      const line = (first + 2 * k) * width
      for (let x = 0; x < w; x++) {
        let sum = 0
        for (let i = 0; i < by; i++) sum += luma[line + x * by + i] as number
        values[row * w + x] = (values[row * w + x] as number) + sum * unit
      }
    }
  }
  return { width: w, height: h, values, colours: coloursOf(planes) }
}

/** Blocks of colour across a picture. */
const colourBlocks = 64

/** Chroma in means of blocks: what mixes its fields leaves them as they are. */
function coloursOf({ width, height, across, down, chroma, bitDepth }: Planes): Float32Array {
  if (!chroma) return new Float32Array()
  const [wide, high] = [Math.ceil(width / across), Math.ceil(height / down)]
  const by = Math.max(1, Math.floor(wide / colourBlocks))
  const [w, h] = [Math.floor(wide / by), Math.floor(high / by)]
  const unit = 1 / (by * by * 2 ** (bitDepth - 8))
  const doubledValues = new Float32Array(2 * w * h)
  for (const [i, plane] of [chroma.cb, chroma.cr].entries())
    for (let y = 0; y < h * by; y++) {
      const row = i * w * h + Math.floor(y / by) * w
      for (let x = 0; x < w * by; x++) {
        const at = row + Math.floor(x / by)
        doubledValues[at] = (doubledValues[at] as number) + (plane[y * wide + x] as number) * unit
      }
    }
  return doubledValues
}

/** The same with its fields the other way round. */
export function swapped({ width, height, values, colours }: Reduced): Reduced {
  const levelled = new Float32Array(values.length)
  for (let row = 0; row < height; row++)
    levelled.set(values.subarray((row ^ 1) * width, ((row ^ 1) + 1) * width), row * width)
  return { width, height, values: levelled, colours }
}

/** The mean square of what differs, in code values of 8 bits; infinite where the sizes do. */
export function unlikeness(a: Reduced, b: Reduced): number {
  if (a.width !== b.width || a.height !== b.height) return Infinity
  let sum = 0
  for (let i = 0; i < a.values.length; i++) sum += ((a.values[i] as number) - (b.values[i] as number)) ** 2
  return sum / a.values.length
}

/** The peak signal to noise, in decibels of 8 bits; infinite where nothing differs. */
export const decibels = (meanSquare: number): number => 10 * Math.log10(255 ** 2 / meanSquare)

/** What was found to be shown where a frame was planned. */
export interface Verdict {
  /** `cannot-tell`: what was planned and what lies beside it are too much alike for the error of the coding. */
  readonly verdict: 'planned' | 'another' | 'cannot-tell'
  /** What it is like instead. */
  readonly like: string | null
  /** Of the whole picture, sample by sample. */
  readonly decibels: number
}

/** Pictures that differ by less, in mean squares of code values, show the same. */
const imperceptible = 0.05
/** So far on the way from the planned picture to another a found one may lie and still be the planned one. */
const onTheWay = 0.35

/** How far a picture lies on the way from the planned one (0) to another (1), in the direction in which these differ. */
function wayTo(found: Reduced, planned: Reduced, other: Reduced): number {
  let [along, whole] = [0, 0]
  for (let i = 0; i < planned.values.length; i++) {
    const step = (other.values[i] as number) - (planned.values[i] as number)
    along += step * ((found.values[i] as number) - (planned.values[i] as number))
    whole += step * step
  }
  return whole > 0 ? along / whole : 0
}

/**
 * Whether a picture is the planned one: it is nearer to it than to any other that it could be by mistake, and nowhere another.
 * @param others pictures of the frames beside it, and the planned one with its fields swapped, by name
 * @param whole how both differ in full size
 */
export function judged(
  found: Reduced,
  planned: Reduced,
  others: Readonly<Record<string, Reduced>>,
  whole: WholeDifference,
): Verdict {
  const error = unlikeness(found, planned)
  const alike = Object.entries(others).filter(([, picture]) => unlikeness(planned, picture) >= imperceptible)
  const [nearest] = alike
    .map(([name, picture]) => ({ name, error: unlikeness(found, picture) }))
    .sort((a, b) => a.error - b.error)
  const verdict = { decibels: decibels(whole.meanSquare), like: null }
  if (nearest && nearest.error < error) return { ...verdict, verdict: 'another', like: nearest.name }
  if (whole.differsAt)
    return { ...verdict, verdict: 'another', like: `none that was planned at ${whole.differsAt.join(', ')}` }
  const canTell = alike.every(([, picture]) => wayTo(found, planned, picture) <= onTheWay)
  return { ...verdict, verdict: canTell ? 'planned' : 'cannot-tell' }
}

/** How two pictures differ in full size. */
export interface WholeDifference {
  /** Of luma, in code values of 8 bits. */
  readonly meanSquare: number
  /** The corner of a part that is another picture; null where none is. */
  readonly differsAt: readonly [x: number, y: number] | null
}

/** A part of so many luma samples across and down is told from noise by its mean: by so many codes of 8 bits it may be off. */
const [partSide, mostOff] = [32, 8]

/** How a picture differs from the planned one, sample by sample, and whether any part of it is another. */
export function wholeDifference(found: Planes, planned: Planes): WholeDifference {
  const { width, height } = planned
  if (found.width !== width || found.height !== height) return { meanSquare: 255 ** 2, differsAt: [0, 0] }
  const [a, b] = [2 ** (8 - found.bitDepth), 2 ** (8 - planned.bitDepth)]
  let squares = 0
  for (let i = 0; i < width * height; i++)
    squares += ((found.luma[i] as number) * a - (planned.luma[i] as number) * b) ** 2
  const meanSquare = squares / (width * height)
  const [across, down] = [planned.across, planned.down]
  const luma = partThatDiffers([found.luma, a], [planned.luma, b], {
    width,
    height,
    across: partSide,
    down: partSide,
  })
  if (luma || !found.chroma || !planned.chroma || found.across !== across || found.down !== down)
    return { meanSquare, differsAt: luma }
  const [w, h] = [Math.ceil(width / across), Math.ceil(height / down)]
  for (const plane of ['cb', 'cr'] as const) {
    const at = partThatDiffers([found.chroma[plane], a], [planned.chroma[plane], b], {
      width: w,
      height: h,
      across: partSide / across,
      down: partSide / down,
    })
    if (at) return { meanSquare, differsAt: [at[0] * across, at[1] * down] }
  }
  return { meanSquare, differsAt: null }
}

/** The first part of a plane whose mean is off by more than any coding leaves it; null where none is. */
function partThatDiffers(
  [found, a]: readonly [Samples, number],
  [planned, b]: readonly [Samples, number],
  {
    width,
    height,
    across,
    down,
  }: { readonly width: number; readonly height: number; readonly across: number; readonly down: number },
): readonly [number, number] | null {
  for (let y = 0; y < height; y += down)
    for (let x = 0; x < width; x += across) {
      const [right, bottom] = [Math.min(width, x + across), Math.min(height, y + down)]
      let sum = 0
      for (let row = y; row < bottom; row++)
        for (let i = row * width + x; i < row * width + right; i++)
          sum += (found[i] as number) * a - (planned[i] as number) * b
      if (Math.abs(sum) > mostOff * (right - x) * (bottom - y)) return [x, y]
    }
  return null
}

/** Values that were planned, and those that were found in their places. */
export type Pairs = readonly (readonly [planned: Float32Array, found: Float32Array])[]

/**
 * How levels came out: found = slope · planned + offset, by least squares; null where what was planned is all of one level.
 * @param spread how far apart the planned ones have to lie for that, in code values (standard deviation)
 */
export function levelsOf(pairs: Pairs, spread = 1e-3) {
  let [n, x, y, xx, xy] = [0, 0, 0, 0, 0]
  for (const [planned, found] of pairs)
    for (let i = 0; i < planned.length; i++) {
      const [a, b] = [planned[i] as number, found[i] ?? 0]
      n++
      x += a
      y += b
      xx += a * a
      xy += a * b
    }
  const variation = n * xx - x * x
  if (n === 0 || variation < (spread * n) ** 2) return null
  const slope = (n * xy - x * y) / variation
  return { slope, offset: (y - slope * x) / n }
}

/** By how much the values lie higher in the mean than they were planned, in code values of 8 bits; null where there are none. */
export function meanOffset(pairs: Pairs): number | null {
  let [sum, count] = [0, 0]
  for (const [planned, found] of pairs)
    for (let i = 0; i < planned.length; i++) {
      sum += (found[i] ?? 0) - (planned[i] as number)
      count++
    }
  return count > 0 ? sum / count : null
}
