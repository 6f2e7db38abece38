import { type Rational, rational } from '../../rational/rational'
import type { Bits } from '../bytes/bits'
import type { ClaimedFacts } from '../claims'
import { colourFromCodes } from '../colour'

/** The pixel shapes of ITU-T H.273 Table 2 (`SampleAspectRatio`), shared by H.264, HEVC and others; 0 says nothing. */
const shapes: Record<number, readonly [number, number]> = {
  1: [1, 1],
  2: [12, 11],
  3: [10, 11],
  4: [16, 11],
  5: [40, 33],
  6: [24, 11],
  7: [20, 11],
  8: [32, 11],
  9: [80, 33],
  10: [18, 11],
  11: [15, 11],
  12: [64, 33],
  13: [160, 99],
  14: [4, 3],
  15: [3, 2],
  16: [2, 1],
}

export function pixelAspectFromIdc(idc: number): Rational | null {
  const shape = shapes[idc]
  return shape ? rational(shape[0], shape[1]) : null
}

/** The start of the usability information, which H.264 and HEVC share: pixel shape, overscan, colour. */
export function readPictureUsability(bits: Bits): ClaimedFacts {
  const facts: ClaimedFacts = {}
  if (bits.flag()) {
    const idc = bits.u(8)
    const shape = idc === 255 ? { num: bits.u(16), den: bits.u(16) } : pixelAspectFromIdc(idc)
    if (shape && shape.num > 0 && shape.den > 0) facts.pixelAspect = rational(shape.num, shape.den)
  }
  if (bits.flag()) bits.skip(1)
  if (bits.flag()) {
    bits.skip(3)
    const full = bits.flag()
    const codes = bits.flag() ? ([bits.u(8), bits.u(8), bits.u(8)] as const) : ([2, 2, 2] as const)
    Object.assign(facts, colourFromCodes(...codes, full))
  }
  return facts
}
