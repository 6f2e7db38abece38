import { type Samples, placeFor } from '../planes/planes'
import type { Parity } from '../picture/scan'

/** The first line of a field. */
export const firstLine = (parity: Parity): 0 | 1 => (parity === 'top' ? 0 : 1)

/** A plane of woven fields, row by row without gaps. */
export interface FieldPlane {
  readonly width: number
  readonly height: number
  readonly samples: Samples
}

/** Room for what is made of a plane: in the place that is given, if it fits. */
export const roomLike = (samples: Samples, into?: Samples | null): Samples =>
  placeFor(samples.length, samples instanceof Uint16Array, into)

/** Lines of a kept field around a missing one; beyond its edges the last kept line stands again. A field without lines keeps none. */
function keptLines(height: number, parity: Parity) {
  const lowest = firstLine(parity)
  const highest = height - 1 - ((height - 1 - lowest) & 1)
  return (line: number): number => Math.max(lowest, Math.min(highest, line))
}

/** What is told still or moving at once, in luma samples. */
export const movingBlockSide = 8

/** Which blocks of a picture move, row by row: 1 or 0. */
export interface Moving {
  readonly across: number
  readonly down: number
  readonly blocks: Uint8Array
}

/** Where a plane stands still, and how many samples of luma stand for one of its own. */
export interface Still {
  readonly moving: Moving
  readonly across: number
  readonly down: number
}

/** Where the blocks that a line lies on begin among all. */
const blockRow = ({ moving, down }: Still, line: number): number =>
  Math.floor((line * down) / movingBlockSide) * moving.across

/**
 * Missing lines from the kept ones around: (−p + 9a + 9b − n + 8) >> 4, clamped.
 * @param still where they are left as they are; null for nowhere
 */
export function interpolated(
  { width, height, samples }: FieldPlane,
  keep: Parity,
  bitDepth: number,
  still: Still | null = null,
  into?: Samples | null,
): Samples {
  const lines = roomLike(samples, into)
  lines.set(samples)
  if (height < 2) return lines
  const most = 2 ** bitDepth - 1
  const kept = keptLines(height, keep)
  for (let y = 1 - firstLine(keep); y < height; y += 2) {
    const [p, a, b, n] = [y - 3, y - 1, y + 1, y + 3].map((line) => kept(line) * width) as [
      number,
      number,
      number,
      number,
    ]
    const blocks = still ? blockRow(still, y) : 0
    for (let x = 0; x < width; x++) {
      if (still && still.moving.blocks[blocks + Math.floor((x * still.across) / movingBlockSide)] === 0)
        continue
      const near = 9 * ((samples[a + x] as number) + (samples[b + x] as number))
      const value = (near - (samples[p + x] as number) - (samples[n + x] as number) + 8) >> 4
      lines[y * width + x] = value < 0 ? 0 : value > most ? most : value
    }
  }
  return lines
}

/** Both lines of each pair are the kept one; a last line without partner takes the nearest kept one. */
export function linesDoubled(
  { width, height, samples }: FieldPlane,
  keep: Parity,
  into?: Samples | null,
): Samples {
  const lines = roomLike(samples, into)
  const kept = keptLines(height, keep)
  for (let y = 0; y < height; y++) {
    const from = height < 2 ? 0 : kept(y - (y & 1) + firstLine(keep))
    lines.set(samples.subarray(from * width, (from + 1) * width), y * width)
  }
  return lines
}

/** Each line with those above and below it: (above + 2·self + below + 2) >> 2, edges repeated. */
export function blended({ width, height, samples }: FieldPlane, into?: Samples | null): Samples {
  const lines = roomLike(samples, into)
  for (let y = 0; y < height; y++) {
    const [above, here, below] = [Math.max(0, y - 1) * width, y * width, Math.min(height - 1, y + 1) * width]
    for (let x = 0; x < width; x++)
      lines[here + x] =
        ((samples[above + x] as number) +
          2 * (samples[here + x] as number) +
          (samples[below + x] as number) +
          2) >>
        2
  }
  return lines
}
