import { type Samples, placeFor } from '../planes/planes'
import type { Taps } from './taps'

/** A plane of samples, row by row without gaps. */
export interface Plane {
  readonly width: number
  readonly height: number
  readonly samples: Samples
}

/** Deeper samples than these are summed without rounding between. */
export const deepestRounded = 12

/** How sums are rounded, by depth: down the columns first, to a number that fits 16 bit, then along the rows. */
export const roundingOf = (bitDepth: number) => {
  const fraction = 14 - bitDepth
  return { down: 14 - fraction, across: 14 + fraction }
}

const clamp = (value: number, most: number): number => (value < 0 ? 0 : value > most ? most : value)

/**
 * Makes a plane of another size. Where samples of its size and depth are given, it is made in their place: a frame that is made
 * anew each time costs more than what is computed for it.
 */
export type PlaneKernel = (
  plane: Plane,
  across: Taps,
  down: Taps,
  bitDepth: number,
  into?: Samples | null,
) => Plane

/** The reference. Beyond its edges a plane goes on as its edge is. */
export const resamplePlane: PlaneKernel = (plane, across, down, bitDepth, into) => {
  const { width, height, samples } = plane
  const [columns, rows] = [across.first.length, down.first.length]
  const resized = placeFor(columns * rows, bitDepth > 8, into)
  const most = 2 ** bitDepth - 1
  const isRounded = bitDepth <= deepestRounded
  const shift = roundingOf(bitDepth)
  const row = new Float64Array(width)
  for (let y = 0; y < rows; y++) {
    row.fill(0)
    for (let k = 0; k < down.count; k++) {
      const weight = down.weights[y * down.count + k] as number
      if (weight === 0) continue
      const from = clamp((down.first[y] as number) + k, height - 1) * width
      for (let x = 0; x < width; x++) row[x] = (row[x] as number) + weight * (samples[from + x] as number)
    }
    if (isRounded)
      for (let x = 0; x < width; x++) row[x] = ((row[x] as number) + (1 << (shift.down - 1))) >> shift.down
    for (let x = 0; x < columns; x++) {
      const [base, first] = [x * across.count, across.first[x] as number]
      let sum = 0
      for (let k = 0; k < across.count; k++)
        sum += (across.weights[base + k] as number) * (row[clamp(first + k, width - 1)] as number)
      resized[y * columns + x] = isRounded
        ? clamp((sum + (1 << (shift.across - 1))) >> shift.across, most)
        : clamp(Math.floor((sum + 2 ** 27) / 2 ** 28), most)
    }
  }
  return { width: columns, height: rows, samples: resized }
}
