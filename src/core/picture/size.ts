import { z } from 'zod'
import { Rational, toNumber } from '../rational/rational'

/** Pixels along a side: from one to what any format of a picture counts in 16 bits. */
export const Pixels = z.number().int().min(1).max(65_536)

/** The shape of one pixel, width : height. Beyond 1:16 and 16:1 no picture is meant. */
export const PixelAspect = Rational.refine((shape) => toNumber(shape) >= 1 / 16 && toNumber(shape) <= 16, {
  error: 'a pixel shape lies between 1:16 and 16:1',
})

/** Width and height in stored pixels, and the shape of one pixel. */
export const FrameSize = z.object({ width: Pixels, height: Pixels, pixelAspect: PixelAspect })
export type FrameSize = z.infer<typeof FrameSize>
