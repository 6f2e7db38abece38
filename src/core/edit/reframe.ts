import { cropToShape } from '../framing/framing'
import { type RasterMap, type UprightSize, axesOf, mapToRaster } from '../framing/raster-map'
import type { Picture } from '../picture/picture'
import { type FrameSize, displayAspect, sameSize } from '../picture/size'
import {
  type Rational,
  add,
  divide,
  equal,
  exactly,
  least,
  multiply,
  rational,
  subtract,
} from '../rational/rational'
import { type FramingOverride, type Override, type Treatment, treated } from '../treatment/treatment'
import { apart, ownTreatment, plainlyLying, shapeOf } from '../model/shape'
import type { Placement, Timeline } from '../model/timeline'

/**
 * What becomes of where a picture lies when its frame changes. `keep`: it looks as it did, its map scaled; `anew`: as the timeline's
 * defaults and rules lay it; `fill-shape`: the part of it that has the frame's shape, about the point to look at; `as-before`: as it
 * lay in this shape when the timeline had it before, and anew where it never did.
 */
export type Reframing = 'keep' | 'anew' | 'fill-shape' | 'as-before'

/** Where to look in a picture: shares of it across and down, 0 … 1. */
export interface LookAt {
  readonly x: number
  readonly y: number
}

/** How the placements of a timeline come into another frame: all alike, but for those that are named. */
export interface FramingPlan {
  readonly all: Reframing
  readonly by?: Readonly<Record<string, Reframing>>
  /** Where to look, by placement; the middle where nothing is said. */
  readonly lookAt?: Readonly<Record<string, LookAt>>
}

const middle: LookAt = { x: 0.5, y: 0.5 }

/** What nobody has to choose: a look is kept where the shape stays; where it does not, all is as before in the new one, or framed anew. */
export const usualPlan = (was: FrameSize, is: FrameSize): FramingPlan => ({
  all: sameShape(was, is) ? 'keep' : 'as-before',
})

export const sameShape = (a: FrameSize, b: FrameSize): boolean => equal(displayAspect(a), displayAspect(b))

/** How much larger a frame is than another, in square pixels, so that a look fits: and in stored ones across and down. */
function growthOf(was: FrameSize, is: FrameSize): { readonly across: Rational; readonly down: Rational } {
  const width = (size: FrameSize) => multiply(rational(size.width), size.pixelAspect)
  const down = least(divide(width(is), width(was)), divide(rational(is.height), rational(was.height)))
  return { across: multiply(down, divide(was.pixelAspect, is.pixelAspect)), down }
}

/** A framing that was told in pixels of one frame, in those of another of the same look. */
export function scaledFraming(framing: FramingOverride, was: FrameSize, is: FrameSize): FramingOverride {
  const { across, down } = growthOf(was, is)
  const { mode, position } = framing
  const moved = <T extends { x: Rational; y: Rational }>(at: T): T => ({
    ...at,
    x: multiply(at.x, across),
    y: multiply(at.y, down),
  })
  return {
    ...framing,
    ...(position ? { position: moved(position) } : {}),
    ...(mode?.kind === 'placed'
      ? {
          mode: {
            ...moved(mode),
            scaleX: multiply(mode.scaleX, across),
            scaleY: multiply(mode.scaleY, down),
          },
        }
      : {}),
  }
}

/** An override whose framing was told in pixels of one frame, in those of another. */
export const scaledOverride = (override: Override, was: FrameSize, is: FrameSize): Override =>
  override.framing ? { ...override, framing: scaledFraming(override.framing, was, is) } : override

/** The map that shows in one frame what another map shows in another: scaled about the middle. */
function scaledLie(rasterMap: RasterMap, was: FrameSize, is: FrameSize): RasterMap {
  const { across, down } = growthOf(was, is)
  const about = (at: Rational, before: number, after: number, by: Rational) =>
    add(rational(after, 2), multiply(subtract(at, rational(before, 2)), by))
  return {
    ...rasterMap,
    scaleX: multiply(rasterMap.scaleX, across),
    scaleY: multiply(rasterMap.scaleY, down),
    x: about(rasterMap.x, was.width, is.width, across),
    y: about(rasterMap.y, was.height, is.height, down),
  }
}

/** The framing that lays a picture as a map does. */
export function framingOf(
  picture: UprightSize,
  frame: FrameSize,
  rasterMap: RasterMap,
  zoom: Rational,
): FramingOverride {
  const { across, down } = axesOf(picture)
  const off = (
    start: Rational,
    scale: Rational,
    length: number,
    { before, after }: { readonly before: number; readonly after: number },
    wholeLength: number,
  ) => {
    const middleOfKept = divide(subtract(add(rational(length), exactly(before)), exactly(after)), rational(2))
    return subtract(add(start, multiply(scale, middleOfKept)), rational(wholeLength, 2))
  }
  const { crop } = rasterMap
  return {
    mode: {
      kind: 'placed',
      scaleX: divide(rasterMap.scaleX, zoom),
      scaleY: divide(rasterMap.scaleY, zoom),
      x: off(rasterMap.x, rasterMap.scaleX, across, { before: crop.left, after: crop.right }, frame.width),
      y: off(rasterMap.y, rasterMap.scaleY, down, { before: crop.top, after: crop.bottom }, frame.height),
    },
    zoom,
    position: plainlyLying.position,
    crop,
  }
}

const sameLie = (a: RasterMap, b: RasterMap): boolean =>
  equal(a.scaleX, b.scaleX) && equal(a.scaleY, b.scaleY) && equal(a.x, b.x) && equal(a.y, b.y)

/** What is at hand when a placement comes into another frame. */
export interface Coming {
  readonly placement: Placement
  readonly picture: Picture | null
  /** As the timeline treats the picture, without what is the placement's own: as it was, and as it will be. */
  readonly before: Treatment
  readonly after: Treatment
  readonly was: FrameSize
  readonly is: FrameSize
  /** Frames that the timeline had in other shapes, by shape. */
  readonly rasters: Timeline['rasters']
}

/** A placement in another frame. What its framing is in other shapes stays. */
export function reframedPlacement(coming: Coming, how: Reframing, lookAt: LookAt = middle): Placement {
  const { placement, picture, was, is } = coming
  if (!picture || sameSize(was, is)) return placement
  switch (how) {
    case 'as-before':
      return asBefore(coming, picture) ?? reframedPlacement(coming, 'anew')
    case 'keep':
      return keptLook(coming, picture)
    case 'anew':
      return setsNothing(coming) ? placement : laid(coming, {})
    case 'fill-shape':
      return laid(coming, { ...plainlyLying, crop: cropToShape(picture, is, 1, lookAt), cropToShape: true })
  }
}

/** Whether nothing of a placement's own says where it lies in the new frame. */
const setsNothing = ({ placement, was, is }: Coming): boolean =>
  [was, is].every(
    (frame) => Object.keys(apart(ownTreatment(placement, frame).framing ?? {}).lies).length === 0,
  )

/**
 * A placement that lies as told; by default where that says nothing. In a new shape it is told in full, so that nothing told for
 * another one shows through.
 */
function laid({ placement, after, was, is }: Coming, lies: FramingOverride): Placement {
  const { treatment, framingByShape } = placement
  const shape = shapeOf(is)
  if (!sameShape(was, is) || framingByShape[shape]) {
    const { mode, zoom, position, crop, cropToShape } = { ...after.framing, ...lies }
    return {
      ...placement,
      framingByShape: { ...framingByShape, [shape]: { mode, zoom, position, crop, cropToShape } },
    }
  }
  const { framing: own, ...others } = treatment
  const framing = { ...apart(own ?? {}).rest, ...lies }
  return {
    ...placement,
    treatment: { ...others, ...(Object.keys(framing).length > 0 ? { framing } : {}) },
  }
}

function keptLook(coming: Coming, picture: Picture): Placement {
  const { placement, before, after, was, is } = coming
  const own = ownTreatment(placement, was)
  const { framing } = treated([own], before)
  const wanted = scaledLie(mapToRaster(picture, was, framing), was, is)
  const looksSo = (placement: Placement) =>
    sameLie(mapToRaster(picture, is, treated([ownTreatment(placement, is)], after).framing), wanted)
  // Whoever lies so by default or by rule has nothing of its own to say, and who says it in words says it in pixels of the new frame.
  const { lies } = apart(own.framing ?? {})
  const inWords = laid(coming, scaledFraming(lies, was, is))
  // What is its own becomes one of two where the shape is another.
  const isOfBoth = sameShape(was, is) || placement.framingByShape[shapeOf(is)] || setsNothing(coming)
  return (
    [...(isOfBoth ? [placement] : []), inWords].find(looksSo) ??
    laid(coming, { ...framingOf(picture, is, wanted, framing.zoom), cropToShape: false })
  )
}

/** As it lay in this shape before, in a frame as large as the new one; null where it never did. */
function asBefore(coming: Coming, picture: Picture): Placement | null {
  const { placement, was, is, rasters } = coming
  const { framingByShape, treatment } = placement
  const raster = rasters[shapeOf(is)]
  // What it sets of its own is of the shape that it comes from, unless that has one of its own.
  const isOfThere =
    !framingByShape[shapeOf(is)] &&
    !framingByShape[shapeOf(was)] &&
    Object.keys(apart(treatment.framing ?? {}).lies).length > 0
  if (isOfThere || (!raster && !framingByShape[shapeOf(is)])) return null
  return raster && !sameSize(raster, is) ? keptLook({ ...coming, was: raster }, picture) : placement
}
