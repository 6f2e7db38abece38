import type { FrameSize } from '../picture/size'
import { type Rotation, isQuarterTurn } from '../picture/turn'
import {
  type Rational,
  add,
  divide,
  exactly,
  least,
  most,
  multiply,
  rational,
  subtract,
  toNumber,
} from '../rational/rational'
import type { Framing, Sides } from '../treatment/treatment'

/** A stored picture as far as framing needs it. */
export type UprightSize = FrameSize & { readonly rotation: Rotation }

/** A stored picture along the timeline's axes: pixels across and down, and the size of one in square units. */
export interface Axes {
  readonly across: number
  readonly down: number
  readonly unitX: Rational
  readonly unitY: Rational
}

/** A picture along the axes on which it is shown, after its turn. */
export const axesOf = ({ width, height, pixelAspect, rotation }: UprightSize): Axes =>
  isQuarterTurn(rotation)
    ? { across: height, down: width, unitX: rational(1), unitY: pixelAspect }
    : { across: width, down: height, unitX: pixelAspect, unitY: rational(1) }

/**
 * The map from a stored picture, turned upright, to a raster, exact: pixel position `p` of the picture lies at `x + scaleX · p`
 * across and `y + scaleY · p` down. What is cropped is not drawn.
 */
export interface RasterMap {
  readonly turn: Rotation
  /** Upright stored pixels that are not drawn, on each side. */
  readonly crop: Sides
  readonly scaleX: Rational
  readonly scaleY: Rational
  /** Where the corner of the whole picture lies, in pixels of the raster. */
  readonly x: Rational
  readonly y: Rational
}

/** A crop of everything leaves a sliver, not nothing to divide by. */
const sliver = rational(1, 1000)
const kept = (length: number, before: number, after: number): Rational =>
  most(sliver, subtract(rational(length), add(exactly(before), exactly(after))))

/** Lays a stored picture into a frame: where its pixels come to lie, exactly. */
export function mapToRaster(source: UprightSize, frame: FrameSize, framing: Framing): RasterMap {
  const { mode, zoom, position, crop } = framing
  const { across, down, unitX, unitY } = axesOf(source)
  const P = frame.pixelAspect
  const keptX = kept(across, crop.left, crop.right)
  const keptY = kept(down, crop.top, crop.bottom)
  const { scaleX, scaleY } = scales()
  const [dx, dy] =
    mode.kind === 'placed' ? [add(mode.x, position.x), add(mode.y, position.y)] : [position.x, position.y]
  return {
    turn: source.rotation,
    crop,
    scaleX,
    scaleY,
    x: corner(frame.width, keptX, crop.left, scaleX, dx),
    y: corner(frame.height, keptY, crop.top, scaleY, dy),
  }

  function scales(): { scaleX: Rational; scaleY: Rational } {
    if (mode.kind === 'placed')
      return { scaleX: multiply(mode.scaleX, zoom), scaleY: multiply(mode.scaleY, zoom) }
    const [fitX, fitY] = [
      divide(multiply(rational(frame.width), P), multiply(keptX, unitX)),
      divide(rational(frame.height), multiply(keptY, unitY)),
    ]
    const [sx, sy] =
      mode.kind === 'stretch'
        ? [fitX, fitY]
        : mode.kind === 'one-to-one'
          ? // Circles stay circles: the stored rows stand on the timeline's rows, and the columns follow the shape.
            [rational(1), rational(1)]
          : mode.kind === 'fill'
            ? [most(fitX, fitY), most(fitX, fitY)]
            : [least(fitX, fitY), least(fitX, fitY)]
    return {
      scaleX: multiply(divide(multiply(sx, unitX), P), zoom),
      scaleY: multiply(multiply(sy, unitY), zoom),
    }
  }
}

/** Where the whole picture begins on an axis when what is kept of it stands in the middle, moved by an offset. */
function corner(
  frame: number,
  keptLength: Rational,
  cropBefore: number,
  scale: Rational,
  offset: Rational,
): Rational {
  const start = add(divide(subtract(rational(frame), multiply(keptLength, scale)), rational(2)), offset)
  return subtract(start, multiply(exactly(cropBefore), scale))
}

/** Two maps one after the other: a picture laid into a picture that is itself laid into a raster. */
export const composeMaps = (inner: RasterMap, outer: RasterMap): RasterMap => ({
  ...inner,
  scaleX: multiply(inner.scaleX, outer.scaleX),
  scaleY: multiply(inner.scaleY, outer.scaleY),
  x: add(outer.x, multiply(inner.x, outer.scaleX)),
  y: add(outer.y, multiply(inner.y, outer.scaleY)),
})

/** Where what is drawn of a picture lies on its raster: its sides, in pixels. */
export function drawnArea(
  { crop, scaleX, scaleY, x, y }: RasterMap,
  { across, down }: Pick<Axes, 'across' | 'down'>,
) {
  const at = (start: Rational, scale: Rational, pixel: number) => toNumber(start) + toNumber(scale) * pixel
  return {
    left: at(x, scaleX, crop.left),
    right: at(x, scaleX, across - crop.right),
    top: at(y, scaleY, crop.top),
    bottom: at(y, scaleY, down - crop.bottom),
  }
}
