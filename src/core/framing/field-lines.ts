import { equal, rational } from '../rational/rational'
import type { RasterMap } from './raster-map'

/**
 * How the lines of an interlaced picture come to stand on those of an interlaced raster: as they are, each field on the lines that show it
 * at its time; a line lower, which makes one order the other; or not at all, so that both fields are made whole and taken apart again.
 */
export type FieldLines = 'kept' | 'shifted' | 'made-whole'

/**
 * @param firstLine of the stored frame with which the picture begins: 1 where an odd number of baked lines is cropped above it
 * @param turnsOrder whether the picture's fields come in the other order than the raster's
 */
export function fieldLines(
  { turn, scaleY, y }: Pick<RasterMap, 'turn' | 'scaleY' | 'y'>,
  firstLine: 0 | 1,
  turnsOrder: boolean,
): FieldLines {
  if (turn !== 0 || !equal(scaleY, rational(1)) || y.den !== 1) return 'made-whole'
  // A picture that lies on odd lines shows the fields of the other order.
  const isOdd = (y.num + firstLine) % 2 !== 0
  return isOdd === turnsOrder ? 'kept' : 'shifted'
}
