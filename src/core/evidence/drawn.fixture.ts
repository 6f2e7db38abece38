import type { Luma } from '../planes/luma'

/** Pictures drawn for tests, with known truth: the same at every run. */

/** A number from 0 to 1 for a place of a lattice. */
function hash(x: number, y: number, seed: number): number {
  let h = Math.imul(x, 374761393) ^ Math.imul(y, 668265263) ^ Math.imul(seed, 2147483647)
  h = Math.imul(h ^ (h >>> 13), 1274126177)
  return ((h ^ (h >>> 16)) >>> 0) / 2 ** 32
}

/** Smooth noise: −1 to 1, about one hill a unit. */
function hills(x: number, y: number, seed: number): number {
  const [i, j] = [Math.floor(x), Math.floor(y)]
  const ease = (t: number) => t * t * (3 - 2 * t)
  const [u, v] = [ease(x - i), ease(y - j)]
  const row = (k: number) => hash(i, k, seed) * (1 - u) + hash(i + 1, k, seed) * u
  return 2 * (row(j) * (1 - v) + row(j + 1) * v) - 1
}

/** A picture that goes on for ever: its brightness at a place, 16 to 235. */
export type DrawnScene = (x: number, y: number) => number

/** A yard with coarse and fine detail; the finest is `fine` pixels wide. */
export const yard =
  (fine = 3, seed = 1): DrawnScene =>
  (x, y) => {
    const coarse = 60 * hills(x / 41, y / 29, seed) + 34 * hills(x / 11, y / 13, seed + 1)
    // Fine detail stands in patches, as it does in pictures: between them is something even.
    const patch = Math.max(0, hills(x / 53, y / 47, seed + 2))
    return Math.max(16, Math.min(235, 122 + coarse + 90 * patch * hills(x / fine, y / fine, seed + 3)))
  }

/** Stone with grain in every pixel, softly joined: detail without a period. Only for whole places. */
export const stone =
  (seed = 1): DrawnScene =>
  (x, y) => {
    let grain = 0
    for (const [i, w] of [1, 2, 1].entries())
      for (const [j, v] of [1, 2, 1].entries()) grain += (w * v * hash(x + i, y + j, seed)) / 16
    const patch = 0.3 + Math.max(0, hills(x / 53.7, y / 47.3, seed + 2))
    return Math.max(
      16,
      Math.min(235, 120 + 40 * hills(x / 41.3, y / 29.7, seed + 4) + 260 * patch * (grain - 0.5)),
    )
  }

export interface DrawnFootage {
  readonly width?: number
  readonly height?: number
  readonly scene?: DrawnScene
  /** Pixels that the scene moves by in a unit of time, across and down. */
  readonly across?: number
  readonly down?: number
  /** Codes of noise, to each side. */
  readonly noise?: number
}

/** A picture of a scene; `at` says when each line is seen. */
export function drawn(
  at: (line: number) => number,
  { width = 160, height = 128, scene = yard(), across = 3.3, down = 0.7, noise = 0 }: DrawnFootage = {},
  seed = 0,
): Luma {
  const data = new Uint8Array(width * height)
  for (let y = 0; y < height; y++) {
    const time = at(y)
    for (let x = 0; x < width; x++) {
      const value = scene(x + time * across, y + time * down)
      const grain = noise ? noise * (2 * hash(x, y, 7919 * (seed + 1)) - 1) : 0
      data[y * width + x] = Math.max(0, Math.min(255, Math.round(value + grain)))
    }
  }
  return { width, height, data }
}

/** Frames of a scene at given times. */
export const filmed = (times: readonly number[], drawing: DrawnFootage = {}): Luma[] =>
  times.map((time, i) => drawn(() => time, drawing, i))

/** Frames whose even and odd lines are seen at times of their own. */
export const fielded = (
  pairs: readonly (readonly [top: number, bottom: number])[],
  drawing: DrawnFootage = {},
): Luma[] => pairs.map(([top, bottom], i) => drawn((line) => (line % 2 ? bottom : top), drawing, i))

export const count = (n: number): number[] => Array.from({ length: n }, (_, i) => i)

/** The picture shown on each frame where each is held for so many, begun at a place of the pattern. */
export function held(frames: number, holds: readonly number[], phase = 0): number[] {
  const shown: number[] = []
  for (let picture = 0; shown.length < frames + phase; picture++)
    for (let i = 0; i < (holds[picture % holds.length] ?? 1); i++) shown.push(picture)
  return shown.slice(phase, phase + frames)
}

/** A picture in black bars. */
export function barred(
  picture: Luma,
  bars: { top: number; bottom: number; left: number; right: number },
  black = 16,
): Luma {
  const { width, height } = picture
  const data = picture.data.map((value, i) => {
    const [x, y] = [i % width, Math.floor(i / width)]
    const inside = x >= bars.left && x < width - bars.right && y >= bars.top && y < height - bars.bottom
    return inside ? value : black
  })
  return { width, height, data }
}

/** A picture enlarged by the filter of a kernel (Keys, a = −0.5, or a triangle), centres of pixels aligned. */
export function enlarged(
  picture: Luma,
  width: number,
  height: number,
  filter: 'bilinear' | 'bicubic' = 'bicubic',
): Luma {
  const weight = (d: number) => {
    const x = Math.abs(d)
    if (filter === 'bilinear') return Math.max(0, 1 - x)
    if (x < 1) return 1.5 * x ** 3 - 2.5 * x ** 2 + 1
    return x < 2 ? -0.5 * x ** 3 + 2.5 * x ** 2 - 4 * x + 2 : 0
  }
  const taps = (n: number, N: number) =>
    count(N).map((k) => {
      const c = ((k + 0.5) * n) / N - 0.5
      return count(4).map((i) => {
        const at = Math.floor(c) - 1 + i
        return [Math.max(0, Math.min(n - 1, at)), weight(at - c)] as const
      })
    })
  const [xs, ys] = [taps(picture.width, width), taps(picture.height, height)]
  const rows = new Float64Array(width * picture.height)
  for (let y = 0; y < picture.height; y++)
    xs.forEach((list, x) => {
      rows[y * width + x] = list.reduce((sum, [at, w]) => sum + w * picture.data[y * picture.width + at]!, 0)
    })
  const data = new Uint8Array(width * height)
  ys.forEach((list, y) => {
    for (let x = 0; x < width; x++) {
      const value = list.reduce((sum, [at, w]) => sum + w * rows[at * width + x]!, 0)
      data[y * width + x] = Math.max(0, Math.min(255, Math.round(value)))
    }
  })
  return { width, height, data }
}
