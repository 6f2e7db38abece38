import type { Planes } from '../planes/planes'

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
  const made = new Float32Array(2 * w * h)
  for (const [i, plane] of [chroma.cb, chroma.cr].entries())
    for (let y = 0; y < h * by; y++) {
      const row = i * w * h + Math.floor(y / by) * w
      for (let x = 0; x < w * by; x++) {
        const at = row + Math.floor(x / by)
        made[at] = (made[at] as number) + (plane[y * wide + x] as number) * unit
      }
    }
  return made
}

/** The same with its fields the other way round. */
export function swapped({ width, height, values, colours }: Reduced): Reduced {
  const made = new Float32Array(values.length)
  for (let row = 0; row < height; row++)
    made.set(values.subarray((row ^ 1) * width, ((row ^ 1) + 1) * width), row * width)
  return { width, height, values: made, colours }
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
  readonly decibels: number
}

/** So many times the error of the coding, another picture has to differ from the planned one to be told from it. */
const apart = 3

/**
 * Whether a picture is the planned one: it has to be nearer to it than to any other that it could be by mistake.
 * @param others pictures of the frames beside it, and the planned one with its fields swapped, by name
 */
export function judged(found: Reduced, planned: Reduced, others: Readonly<Record<string, Reduced>>): Verdict {
  const error = unlikeness(found, planned)
  const named = Object.entries(others)
  const [nearest] = named
    .map(([name, picture]) => ({ name, error: unlikeness(found, picture) }))
    .sort((a, b) => a.error - b.error)
  const verdict = { decibels: decibels(error), like: null }
  if (nearest && nearest.error < error) return { ...verdict, verdict: 'another', like: nearest.name }
  const canTell = named.every(([, picture]) => unlikeness(planned, picture) >= apart * error)
  return { ...verdict, verdict: canTell ? 'planned' : 'cannot-tell' }
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

/** The loudest of each millisecond of a sound. */
export function envelope(samples: Float32Array, sampleRate: number): Float32Array {
  const every = sampleRate / 1000
  const made = new Float32Array(Math.floor(samples.length / every))
  for (let i = 0; i < made.length; i++) {
    const [from, to] = [Math.floor(i * every), Math.floor((i + 1) * every)]
    let most = 0
    for (let n = from; n < to; n++) most = Math.max(most, Math.abs(samples[n] as number))
    made[i] = most
  }
  return made
}

/**
 * By how many milliseconds a sound comes later than it was planned, by the correlation of the envelopes; null where it is too even to
 * tell.
 */
export function lagOf(planned: Float32Array, found: Float32Array, most = 250): number | null {
  const mean = (of: Float32Array) => of.reduce((sum, value) => sum + value, 0) / Math.max(1, of.length)
  const [a, b] = [planned, found].map((of) => {
    const middle = mean(of)
    return of.map((value) => value - middle)
  }) as [Float32Array, Float32Array]
  const power = (of: Float32Array) => of.reduce((sum, value) => sum + value * value, 0)
  const scale = Math.sqrt(power(a) * power(b))
  if (!(scale > 1e-9)) return null
  let best: { lag: number; match: number } | null = null
  for (let lag = -most; lag <= most; lag++) {
    let sum = 0
    for (let i = Math.max(0, -lag); i < a.length && i + lag < b.length; i++)
      sum += (a[i] as number) * (b[i + lag] as number)
    if (!best || sum / scale > best.match) best = { lag, match: sum / scale }
  }
  return best && best.match > 0.5 ? best.lag : null
}
