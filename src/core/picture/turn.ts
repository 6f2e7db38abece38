import * as z from 'zod'
import { rational } from '../rational/rational'
import type { FrameSize } from './size'

/** The clockwise turn, in degrees, that shows a stored picture upright. */
export const Rotation = z.union([z.literal(0), z.literal(90), z.literal(180), z.literal(270)])
export type Rotation = z.infer<typeof Rotation>

/** Whether a turn lays rows where columns were. */
export const isQuarterTurn = (rotation: Rotation): boolean => rotation % 180 === 90

/** A size turned on its side: landscape to portrait and back. The pixels turn with it. */
export const turnedSize = ({ width, height, pixelAspect }: FrameSize): FrameSize => ({
  width: height,
  height: width,
  pixelAspect: rational(pixelAspect.den, pixelAspect.num),
})

/** The frame size that a stored picture fills when it stands upright. */
export const uprightSize = ({
  width,
  height,
  pixelAspect,
  rotation,
}: FrameSize & { readonly rotation: Rotation }): FrameSize =>
  isQuarterTurn(rotation) ? turnedSize({ width, height, pixelAspect }) : { width, height, pixelAspect }
