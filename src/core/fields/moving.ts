import { type FieldPlane, type Parity, firstLine } from './plane'

/** What is told still or moving at once, in luma samples. */
export const blockSide = 8
/** A block moves where so many of its samples differ by more than so many codes of 8 bits. */
export const [leastDiffering, stillCodes] = [4, 12] as const

/** Which blocks of a picture move, row by row: 1 or 0. */
export interface Moving {
  readonly across: number
  readonly down: number
  readonly blocks: Uint8Array
}

/**
 * Which blocks move between two frames, told by one of their fields; a block beside one that moves does so too.
 * @param parity of the field that is compared
 */
export function movingBetween(
  before: FieldPlane,
  after: FieldPlane,
  parity: Parity,
  bitDepth: number,
): Moving {
  const { width, height } = before
  const [across, down] = [Math.ceil(width / blockSide), Math.ceil(height / blockSide)]
  const most = stillCodes * 2 ** (bitDepth - 8)
  const differing = new Uint8Array(across * down)
  for (let y = firstLine(parity); y < height; y += 2) {
    const row = Math.floor(y / blockSide) * across
    for (let x = 0; x < width; x++) {
      const at = y * width + x
      const apart = (before.samples[at] as number) - (after.samples[at] as number)
      if (apart > most || apart < -most) differing[row + (x >> 3)] = (differing[row + (x >> 3)] as number) + 1
    }
  }
  return { across, down, blocks: grown(differing, across, down) }
}

/** Blocks with enough that differs, and their four neighbours. */
export function grown(differing: Uint8Array, across: number, down: number): Uint8Array {
  const moves = (x: number, y: number): boolean =>
    x >= 0 && x < across && y >= 0 && y < down && (differing[y * across + x] ?? 0) >= leastDiffering
  const blocks = new Uint8Array(across * down)
  for (let y = 0; y < down; y++)
    for (let x = 0; x < across; x++)
      if (moves(x, y) || moves(x - 1, y) || moves(x + 1, y) || moves(x, y - 1) || moves(x, y + 1))
        blocks[y * across + x] = 1
  return blocks
}
