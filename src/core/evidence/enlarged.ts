import type { Periods } from './spectrum'

/** Whether a picture has the detail that its size promises. */
export interface DetailVerdict {
  readonly verdict: 'full' | 'enlarged' | 'cannot-tell'
  /** What the picture truly holds, in pixels of its own raster; null where it cannot be told. */
  readonly width: number | null
  readonly height: number | null
  readonly confidence: number
}

/** What is known along one axis of a picture. */
export interface Axis {
  /** Its pixels along the axis. */
  readonly length: number
  /** What comes back evenly in the first and in the second differences. */
  readonly first: Periods
  readonly second: Periods
  /** Mean level between two fractions of the band, in dB over one code². */
  readonly level: (from: number, to: number) => number
  /** In what share of the picture's parts a wave of some cycles a sample stands as it does in the whole. */
  readonly standsIn: (f: number) => number
}
export interface Detail {
  readonly across: Axis
  readonly down: Axis
}

/** Sizes that pictures are enlarged from. */
const common = (
  '480x270 480x360 640x360 640x480 704x576 720x480 720x576 768x576 854x480 960x540 960x720 1024x576 1024x768 1280x720 1280x960 ' +
  '1366x768 1440x1080 1600x900 1920x1080 2048x1080 2048x1152 2560x1440 2704x1520 2880x1620 3072x1728 3200x1800 3840x2160 4096x2160'
)
  .split(' ')
  .map((text) => text.split('x').map(Number) as [number, number])
const widths = [...new Set(common.map(([width]) => width))]
/** Sizes that were recorded with pixels of another shape: they lie in pictures of any. */
const squeezed = [720, 704]
  .flatMap((width) => [576, 480].map((height): [number, number] => [width, height]))
  .concat([
    [352, 288],
    [352, 240],
    [1440, 1080],
    [1280, 1080],
    [960, 720],
  ])
/** Widths that were recorded in so many lines, and are stretched across alone. */
const recordedAcross: Readonly<Record<number, readonly number[]>> = {
  1080: [1440, 1280],
  720: [960],
  576: [720, 704],
  480: [720, 704],
}
/** Larger shares of the size are not told from all of it. */
const largest = 0.95

/** A size that the picture may have been enlarged from; null on an axis that was not. */
interface Source {
  readonly width: number | null
  readonly height: number | null
  readonly rank: 'common raster' | 'own shape' | 'one axis'
  /** Lines that it is off the picture's own shape. */
  readonly off: number
}

function sourcesFor(W: number, H: number): Source[] {
  const [w, h] = [W * largest, H * largest]
  const isOwnShape = ([width, height]: [number, number]) => Math.abs((width * H) / W - height) <= 2
  const sources: Source[] = [...common.filter(isOwnShape), ...squeezed]
    .filter(([width, height]) => width <= w && height <= h)
    .map(([width, height]) => ({ width, height, rank: 'common raster', off: 0 }))
  for (const width of widths.filter((side) => side <= w))
    for (let off = -2; off <= 2; off++) {
      const height = Math.round((width * H) / W) + off
      if (height <= h && !sources.some((s) => s.width === width && s.height === height))
        sources.push({ width, height, rank: 'own shape', off: Math.abs(off) })
    }
  for (const width of (recordedAcross[H] ?? []).filter((side) => side <= w))
    sources.push({ width, height: null, rank: 'one axis', off: 0 })
  return sources
}

const folded = (r: number): number => Math.abs(r - Math.round(r))

/**
 * In what share of a picture's parts a line stands: patterns of a scene in 0.1 to 0.6, interpolation in 0.5 to 1. Lines on both axes are
 * seldom chance; one alone has to stand nearly everywhere.
 */
const [inMost, inNearlyAll] = [0.5, 0.75]

/** A line that is deeper is a pattern of the scene: the deepest that an interpolation left is 0.56. */
const deepestTrue = 0.65

/** The highest bin of a line at a frequency. */
function peak({ step, spread, depth, z }: Periods, f: number) {
  const middle = Math.round(f / step)
  const reach = Math.ceil(spread * 0.75)
  let best = Math.max(0, Math.min(depth.length - 1, middle))
  for (let k = Math.max(1, middle - reach); k <= Math.min(depth.length - 1, middle + reach); k++)
    if ((depth[k] ?? 0) > (depth[best] ?? 0)) best = k
  return { at: best * step, depth: depth[best] ?? 0, z: z[best] ?? 0 }
}

/** The deepest line that is neither this one, nor a harmonic of it, nor the grid of a codec (multiples of 1/32). */
function deepestOther(periods: Periods, f: number): number {
  const { step, spread, depth } = periods
  const near = spread * 2.5 * step
  const harmonics = Array.from({ length: 8 }, (_, j) => folded(f * (j + 1)))
  let deepest = 0
  for (let k = Math.ceil(0.03 / step); k < depth.length; k++) {
    const at = k * step
    if ((depth[k] ?? 0) <= deepest) continue
    if (Math.abs(at - Math.round(at * 32) / 32) <= near) continue
    if (harmonics.some((harmonic) => Math.abs(at - harmonic) <= near)) continue
    deepest = depth[k] ?? 0
  }
  return deepest
}

/** The line that a source leaves on one axis. */
interface Line {
  /** Cycles a sample where it is deepest. */
  readonly at: number
  readonly z: number
  readonly depth: number
  /** How many times as deep as any other line. */
  readonly dominance: number
  /** Whether it can be told from a codec's grid. */
  readonly clear: boolean
}

const eighths = [1, 2, 3, 4].map((k) => k / 8)

function lineOf(axis: Axis, r: number): Line {
  const f = folded(r)
  const tolerance = 0.6 / axis.length
  // A few lines beside a multiple of 1/8 are no way around it.
  const eighth = eighths.findIndex((at) => Math.abs(f - at) <= 3 / axis.length) + 1
  const views = [axis.first, axis.second].map((periods) => {
    const found = peak(periods, f)
    return { periods, ...found, dominance: found.depth / Math.max(1e-9, deepestOther(periods, f)) }
  })
  const [first, second] = views
  if (!first || !second) return { at: f, z: 0, depth: 0, dominance: 0, clear: false }
  if (eighth) {
    const clear = clearOfGrid(axis, eighth)
    return { at: first.at, z: first.z, depth: first.depth, dominance: first.dominance, clear }
  }
  const best = first.z >= second.z ? first : second
  return { ...best, clear: clearOfSixteenths(best.periods, f, best.depth, tolerance) }
}

/** A line on a multiple of 1/16 must be twice as deep as the grid's other lines. */
function clearOfSixteenths(periods: Periods, f: number, depth: number, tolerance: number): boolean {
  if (Math.abs(f * 16 - Math.round(f * 16)) > tolerance * 16) return true
  for (let k = 1; k <= 8; k++)
    if (Math.abs(k / 16 - f) > tolerance && peak(periods, k / 16).depth * 2 > depth) return false
  return true
}

/** Multiples of 1/8 look like a codec's grid: the depths of them all decide. */
function clearOfGrid({ first, second }: Axis, eighth: number): boolean {
  const depths = eighths.map((at) => peak(first, at).depth)
  const depth = depths[eighth - 1] ?? 0
  const others = depths.filter((_, k) => k !== eighth - 1)
  switch (eighth) {
    case 4: {
      const at = 0.5
      return (
        depth >= 0.03 &&
        peak(first, at).z >= 15 &&
        peak(second, at).z <= 12 &&
        others.every((other) => other <= 0.2 * depth)
      )
    }
    case 2:
      return (
        depth >= 0.015 &&
        depth >= 0.65 * (depths[3] ?? 0) &&
        Math.max(depths[0] ?? 0, depths[2] ?? 0) <= 0.1 * depth
      )
    default:
      return (
        depth >= 0.02 &&
        others.every((other) => depth >= 2.5 * other) &&
        peak(second, (4 - eighth) / 8).depth <= 0.25 * depth
      )
  }
}

/** Whether the spectrum falls where a source ends: at least 5 dB. */
const falls = ({ level }: Axis, r: number): boolean =>
  level(Math.min(0.97, 1.1 * r), 1) <= level(0.5 * r, 0.7 * r) - 5

interface Accepted extends Source {
  readonly strength: number
}

function accepted(source: Source, { across, down }: Detail): Accepted | null {
  const { width, height } = source
  const x = width === null ? null : { axis: across, r: width / across.length }
  const y = height === null ? null : { axis: down, r: height / down.length }
  const lines = [x, y].flatMap((at) => (at ? [{ ...at, line: lineOf(at.axis, at.r) }] : []))
  if (!lines.every(({ axis, r, line }) => line.clear && line.depth <= deepestTrue && falls(axis, r)))
    return null
  const zs = lines.map(({ line }) => line.z)
  const [least, most] = [Math.min(...zs), Math.max(...lines.map(({ line }) => line.dominance))]
  const leastDominance = Math.min(...lines.map(({ line }) => line.dominance))
  if (lines.length === 2) {
    const half = lines.some(({ r }) => Math.abs(folded(r) - 0.5) < 1e-3)
    const dominates = half ? leastDominance >= 1.4 : most >= 2 || leastDominance >= 1.4
    if (least < 10 || !dominates) return null
    // An LED wall in a part of the picture leaves lines on both axes, and they dominate.
    const isEverywhere = lines.every(({ axis, line }) => axis.standsIn(line.at) >= inMost)
    return isEverywhere ? { ...source, strength: least } : null
  }
  const [firstLine] = lines
  if (!firstLine || least < 20 || most < 2) return null
  const other = firstLine.axis === across ? down : across
  const f = folded(firstLine.r)
  const quiet = [other.first, other.second].every(
    (periods) => peak(periods, f).z < 6 && peak(periods, 0.25).z < 10,
  )
  return quiet && firstLine.axis.standsIn(firstLine.line.at) >= inNearlyAll
    ? { ...source, strength: least }
    : null
}

/** Whether the spectrum has come to rest before the middle of the band: the smaller of r and 1 − r may be meant. */
function restsEarly({ level }: Axis, smaller: number): boolean {
  const larger = 1 - smaller
  const middle = level(0.48, 0.53)
  const before = level(0.78 * smaller, 0.93 * smaller) - middle
  const behind = middle - level(0.9 * larger, 0.97 * larger)
  return before > 0 && behind < 0.15 * before
}

/** What the axes of a picture say of its detail; null where it cannot be told. */
export function judge(axes: Detail): DetailVerdict | null {
  const { across, down } = axes
  if (across.level(0.1, 0.3) < -6 || down.level(0.1, 0.3) < -6) return null
  const found = sourcesFor(across.length, down.length)
    .flatMap((source) => accepted(source, axes) ?? [])
    .filter(({ width, height }) => {
      // r and 1 − r leave the same line: the smaller is only taken where the spectrum rests.
      const small = (axis: Axis, side: number | null) =>
        side === null || side / axis.length >= 0.5 || restsEarly(axis, side / axis.length)
      return small(across, width) && small(down, height)
    })
  const strongest = found.reduce((most, { strength }) => Math.max(most, strength), 0)
  // Neighbouring heights share a line: the one of the picture's own shape is meant unless another is clearly deeper.
  const leaning = ({ strength, off }: Accepted) => strength * (1 - 0.1 * off)
  const near = found.filter(({ strength }) => strength >= 0.6 * strongest)
  const ranks: readonly Source['rank'][] = ['common raster', 'own shape', 'one axis']
  near.sort((a, b) => ranks.indexOf(a.rank) - ranks.indexOf(b.rank) || leaning(b) - leaning(a))
  const [best] = near
  if (best)
    return {
      verdict: 'enlarged',
      width: best.width ?? across.length,
      height: best.height ?? down.length,
      confidence: Math.min(1, 0.5 + best.strength / 60),
    }
  if (!isFull(across) || !isFull(down)) return null
  return { verdict: 'full', width: across.length, height: down.length, confidence: 0.8 }
}

/** Detail up to the end of the band, and no grid of a codec to hide an enlargement. */
function isFull({ first, level }: Axis): boolean {
  const grid = eighths.some((at) => peak(first, at).depth >= 0.03)
  return !grid && level(0.72, 0.78) >= -4 && level(0.72, 0.78) >= level(0.9, 0.98) + 2
}
