import * as z from 'zod'
import { Rational, equal, multiply, rational, toNumber } from '../rational/rational'

/** Pixels along a side: from one to what any format of a picture counts in 16 bits. */
export const Pixels = z.number().int().min(1).max(65_536)

/** The shape of one pixel, width : height. Beyond 1:16 and 16:1 no picture is meant. */
export const PixelAspect = Rational.refine((shape) => toNumber(shape) >= 1 / 16 && toNumber(shape) <= 16, {
  error: 'a pixel shape lies between 1:16 and 16:1',
})

/** Width and height in stored pixels, and the shape of one pixel. */
export const FrameSize = z.object({ width: Pixels, height: Pixels, pixelAspect: PixelAspect }).readonly()
export type FrameSize = z.infer<typeof FrameSize>

export const square = rational(1)

/** Equal for sizes that are the same in width, height and pixel shape. */
export const sizeKey = ({ width, height, pixelAspect }: FrameSize): string =>
  `${width}x${height}/${pixelAspect.num}:${pixelAspect.den}`

export const sameSize = (a: FrameSize, b: FrameSize): boolean =>
  a.width === b.width && a.height === b.height && equal(a.pixelAspect, b.pixelAspect)

/** Width and height as the picture is shown, in square pixels. */
export const displaySize = (size: FrameSize): { width: number; height: number } => ({
  width: size.width * toNumber(size.pixelAspect),
  height: size.height,
})

/** The display aspect ratio, exact. */
export const displayAspect = (size: FrameSize): Rational =>
  multiply(size.pixelAspect, rational(size.width, size.height))

/** Whether a picture is higher than wide as it is shown; a square one counts as lying. */
export const isUpright = (size: FrameSize): boolean => size.height > size.width * toNumber(size.pixelAspect)

/** The size of square pixels that shows a stored picture as wide as it is meant: its width to the nearest even number. */
export function squareSize(size: FrameSize): FrameSize {
  if (equal(size.pixelAspect, square)) return size
  const width = Math.max(2, 2 * Math.round((size.width * toNumber(size.pixelAspect)) / 2))
  return { width, height: size.height, pixelAspect: square }
}

/** Pictures of the 525- and 625-line systems (ITU-R BT.601), turned ones too. */
export const isStandardDefinition = ({ width, height }: { width: number; height: number }): boolean =>
  Math.min(width, height) <= 576 && Math.max(width, height) <= 1024
