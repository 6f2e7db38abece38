import { type FieldPlane, type Moving, firstLine, movingBlockSide } from './plane'
import type { Parity } from '../picture/scan'

/** A block moves where so many of its samples differ by more than so many codes of 8 bits. */
export const [leastDiffering, stillCodes] = [4, 12] as const

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
  const [across, down] = [Math.ceil(width / movingBlockSide), Math.ceil(height / movingBlockSide)]
  const most = stillCodes * 2 ** (bitDepth - 8)
  const differing = new Uint8Array(across * down)
  for (let y = firstLine(parity); y < height; y += 2) {
    const row = Math.floor(y / movingBlockSide) * across
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
  const blocks = new Uint8Array(across * down)
  for (let y = 0, at = 0; y < down; y++)
    for (let x = 0; x < across; x++, at++) {
      if ((differing[at] as number) < leastDiffering) continue
      blocks[at] = 1
      if (x > 0) blocks[at - 1] = 1
      if (x + 1 < across) blocks[at + 1] = 1
      if (y > 0) blocks[at - across] = 1
      if (y + 1 < down) blocks[at + across] = 1
    }
  return blocks
}
