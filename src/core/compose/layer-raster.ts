import type { RasterMap } from '../framing/raster-map'
import type { Planes, Samples } from '../planes/planes'
import type { Meaning } from '../planes/screen'
import {
  type Rational,
  add,
  compare,
  equal,
  multiply,
  nearestRational,
  rational,
  subtract,
  toNumber,
} from '../rational/rational'
import type { PlaneKernel } from '../resample/plane'
import { sharpened } from '../resample/sharpen'
import { type ChromaSiting, wholeChroma } from '../resample/picture'
import { type AxisMap, type Siting, tapsOf } from '../resample/taps'
import type { ColourConversion, Framing } from '../treatment/treatment'
import { conversionOf, inColour, ofDepth, shareOfDepth } from './colour'
import { opacityOfChroma, unweighted, weighted } from './opacity'
import {
  type ChromaSize,
  type Cropped,
  type StoredPicture,
  chromaSizeOf,
  cropped,
  eachPlane,
  roomFor,
  turned,
} from './stored'

/** Whole pixels of a raster. */
export interface Area {
  readonly x: number
  readonly y: number
  readonly width: number
  readonly height: number
}

/** What layers are laid onto: samples that all mean the same, and where its colour lies. */
export interface Ground {
  readonly meaning: Meaning
  readonly bitDepth: number
  readonly siting: ChromaSiting
}

/** How a picture comes to lie on a raster, and what is done to it on the way. */
export interface LayerPlacing extends Pick<Framing, 'filter' | 'sharpen' | 'reduction' | 'zoom'> {
  readonly rasterMap: RasterMap
  readonly colour: ColourConversion
}

/** A part of a raster with a picture on it: its planes whole, opacity where it is not seen all over. */
export interface LayerRaster {
  readonly area: Area
  readonly planes: Planes
  /** How much is seen of each sample of chroma; null where all is. */
  readonly chromaAlpha: Samples | null
}

const whole: Siting = { every: 1, halves: 1 }

/**
 * Where the cropped picture's sides lie on an axis of the raster, and the whole pixels that it touches within some.
 * @param every so many pixels share their colour: they are taken together
 */
function reached(
  offset: 'x' | 'y',
  { x, y, scaleX, scaleY, crop }: RasterMap,
  length: number,
  within: Area,
  every: number,
) {
  const [start, scale, before, after, first, count] =
    offset === 'x'
      ? [x, scaleX, crop.left, crop.right, within.x, within.width]
      : [y, scaleY, crop.top, crop.bottom, within.y, within.height]
  const at = (pixel: number) => toNumber(start) + toNumber(scale) * pixel
  const [from, to] = [at(before), at(Math.max(before + 1e-3, length - after))]
  const low = Math.max(first, Math.floor(Math.floor(from + 1e-9) / every) * every)
  const high = Math.min(first + count, Math.ceil(Math.ceil(to - 1e-9) / every) * every)
  return { from, to, low, count: Math.max(0, high - low) }
}

/** How much of each pixel of an axis is covered; null where all of them are, wholly. */
function coverage({ from, to, low, count }: ReturnType<typeof reached>): Float64Array | null {
  const shares = Float64Array.from({ length: count }, (_, n) =>
    Math.max(0, Math.min(1, to - low - n) - Math.max(0, from - low - n)),
  )
  return shares.every((share) => share > 1 - 1e-9) ? null : shares
}

/** Positions are told in whole numbers: a map that is finer is told by the nearest that is not. */
const rounded = (value: Rational): Rational =>
  Math.abs(value.num) < 2 ** 24 && value.den < 2 ** 16 ? value : nearestRational(toNumber(value), 1e-7)

/** The axis of a picture that begins some pixels in, on the axis of an area that begins some pixels in. */
const axisMap = (scale: Rational, start: Rational, taken: number, from: number): AxisMap => ({
  scale: rounded(scale),
  shift: rounded(subtract(add(start, multiply(rounded(scale), rational(taken))), rational(from))),
})

/** What makes planes of a picture on an area, by a map of each axis: those of luma's size, and those of chroma's where it is to lie. */
function makers(
  picture: Pick<StoredPicture, 'planes' | 'siting' | 'chroma'>,
  [mapX, mapY]: readonly [AxisMap, AxisMap],
  { width, height }: Pick<Area, 'width' | 'height'>,
  { filter, kernel }: { readonly filter: Framing['filter']; readonly kernel: PlaneKernel },
  onto: ChromaSiting,
) {
  const { planes, siting } = picture
  const make = (size: ChromaSize, x: Siting, y: Siting, toX: Siting, toY: Siting) => {
    const across = tapsOf(filter, mapX, x, toX, Math.ceil(width / toX.every))
    const down = tapsOf(filter, mapY, y, toY, Math.ceil(height / toY.every))
    return (samples: Samples) => kernel({ ...size, samples }, across, down, planes.bitDepth).samples
  }
  const large = make({ width: planes.width, height: planes.height }, whole, whole, whole, whole)
  const isSame = [siting, onto].every(isWhole)
  const small = isSame
    ? large
    : make(chromaSizeOf(picture), siting.across, siting.down, onto.across, onto.down)
  return { large, small }
}

/** Planes of a picture on an area, by a map of each axis, its chroma where it is to lie there. */
function resampled(
  picture: Pick<StoredPicture, 'planes' | 'siting' | 'chroma'>,
  maps: readonly [AxisMap, AxisMap],
  { width, height }: Pick<Area, 'width' | 'height'>,
  { filter, kernel }: { readonly filter: Framing['filter']; readonly kernel: PlaneKernel },
  onto: ChromaSiting = wholeChroma,
): Planes {
  const { large, small } = makers(picture, maps, { width, height }, { filter, kernel }, onto)
  const [across, down] = [onto.across.every, onto.down.every]
  const { planes } = picture
  return { bitDepth: planes.bitDepth, width, height, across, down, ...eachPlane(planes, large, small) }
}

/** The same of a picture with opacity: mixed by how much of each sample is seen. */
function resampledSeen(
  picture: Pick<StoredPicture, 'planes' | 'siting' | 'chroma'>,
  alpha: Samples,
  maps: readonly [AxisMap, AxisMap],
  area: Pick<Area, 'width' | 'height'>,
  {
    filter,
    kernel,
    onto = wholeChroma,
  }: { readonly filter: Framing['filter']; readonly kernel: PlaneKernel; readonly onto?: ChromaSiting },
) {
  const { planes, chromaAlpha } = weighted(picture.planes, alpha, picture.siting, chromaSizeOf(picture))
  const source = { ...picture, planes }
  const { small } = makers(source, maps, area, { filter, kernel }, onto)
  return unweighted({
    planes: resampled(source, maps, area, { filter, kernel }, onto),
    chromaAlpha: small(chromaAlpha),
  })
}

const isWhole = ({ across, down }: ChromaSiting): boolean => across.every === 1 && down.every === 1

/** A part of a raster, with its chroma where the ground has it, and how much of that is seen there. */
function withChromaOf(
  ground: ChromaSiting,
  planes: Planes,
  filter: Framing['filter'],
  kernel: PlaneKernel,
): Pick<LayerRaster, 'planes' | 'chromaAlpha'> {
  const { luma, alpha } = planes
  if (isWhole(ground)) return { planes, chromaAlpha: alpha }
  const still = { scale: rational(1), shift: rational(0) }
  const picture = { planes, siting: wholeChroma }
  if (!alpha) {
    const { chroma, across, down } = resampled(picture, [still, still], planes, { filter, kernel }, ground)
    return { planes: { ...planes, chroma, across, down, luma, alpha }, chromaAlpha: null }
  }
  const seen = resampledSeen(picture, alpha, [still, still], planes, { filter, kernel, onto: ground })
  const { across, down } = seen
  const back = (samples: Samples) => ofDepth(samples, seen.bitDepth, planes.bitDepth)
  const chroma = seen.chroma && { cb: back(seen.chroma.cb), cr: back(seen.chroma.cr) }
  return {
    planes: { ...planes, chroma, across, down, luma, alpha },
    chromaAlpha: shareOfDepth(seen.chromaAlpha, seen.bitDepth, planes.bitDepth),
  }
}

/** A picture brought to the raster's own fineness before it is zoomed: what is finer is gone. */
function baked(
  picture: Cropped,
  { filter, zoom, rasterMap }: LayerPlacing,
  kernel: PlaneKernel,
): { picture: Cropped; rasterMap: RasterMap } {
  const unzoomed = (scale: Rational) => multiply(scale, rational(zoom.den, zoom.num))
  const [scaleX, scaleY] = [unzoomed(rasterMap.scaleX), unzoomed(rasterMap.scaleY)]
  const unit = rational(1)
  if (compare(scaleX, unit) >= 0 && compare(scaleY, unit) >= 0) return { picture, rasterMap }
  const size = (pixels: number, scale: Rational) => Math.max(1, Math.round(pixels * toNumber(scale)))
  const { planes } = picture
  const [width, height] = [size(planes.width, scaleX), size(planes.height, scaleY)]
  const maps = [
    { scale: rounded(rational(width, planes.width)), shift: rational(0) },
    { scale: rounded(rational(height, planes.height)), shift: rational(0) },
  ] as const
  const { alpha } = planes
  const reduced = alpha
    ? resampledSeen(picture, alpha, maps, { width, height }, { filter, kernel })
    : resampled(picture, maps, { width, height }, { filter, kernel })
  const start = (corner: Rational, scale: Rational, taken: number) =>
    add(corner, multiply(scale, rational(taken)))
  return {
    picture: { meaning: picture.meaning, planes: reduced, siting: wholeChroma, left: 0, top: 0 },
    rasterMap: {
      ...rasterMap,
      x: start(rasterMap.x, rasterMap.scaleX, picture.left),
      y: start(rasterMap.y, rasterMap.scaleY, picture.top),
      scaleX: multiply(rasterMap.scaleX, rational(planes.width, width)),
      scaleY: multiply(rasterMap.scaleY, rational(planes.height, height)),
    },
  }
}

/** Opacity of what is covered in part, over that of the picture itself. */
function covered(planes: Planes, x: Float64Array | null, y: Float64Array | null): Planes {
  if (!x && !y) return planes
  const { width, height, bitDepth } = planes
  const most = 2 ** bitDepth - 1
  const alpha = planes.alpha?.slice() ?? roomFor(width * height, planes.luma).fill(most)
  for (let row = 0, i = 0; row < height; row++)
    for (let column = 0; column < width; column++, i++)
      alpha[i] = Math.floor((alpha[i] as number) * (x?.[column] ?? 1) * (y?.[row] ?? 1) + 0.5)
  return { ...planes, alpha }
}

/**
 * A picture laid onto a raster, scaled once and exactly: what of it lies within an area, in the colour and the depth of the
 * ground. Null where nothing does.
 */
export function layerRaster(
  picture: StoredPicture,
  laying: LayerPlacing,
  ground: Ground,
  within: Area,
  kernel: PlaneKernel,
): LayerRaster | null {
  const { rasterMap, filter, sharpen, reduction, colour } = laying
  const upright = turned(picture, rasterMap.turn)
  const { siting } = ground
  const x = reached('x', rasterMap, upright.planes.width, within, siting.across.every)
  const y = reached('y', rasterMap, upright.planes.height, within, siting.down.every)
  if (x.count === 0 || y.count === 0) return null
  const area: Area = { x: x.low, y: y.low, width: x.count, height: y.count }
  const cut = cropped(upright, rasterMap.crop)
  const from =
    reduction === 'baked' && !equal(laying.zoom, rational(1))
      ? baked(cut, laying, kernel)
      : { picture: cut, rasterMap }
  const maps = [
    axisMap(from.rasterMap.scaleX, from.rasterMap.x, from.picture.left, area.x),
    axisMap(from.rasterMap.scaleY, from.rasterMap.y, from.picture.top, area.y),
  ] as const
  const conversion = conversionOf(picture.meaning, ground.meaning, colour)
  const { alpha } = from.picture.planes
  const shares = [coverage(x), coverage(y)] as const
  // Opacity and other colour are worked out where there is a sample of each for every pixel.
  const needsWhole = alpha !== null || conversion.names.length > 0
  const straight = alpha
    ? resampledSeen(from.picture, alpha, maps, area, { filter, kernel })
    : resampled(from.picture, maps, area, { filter, kernel }, needsWhole ? wholeChroma : siting)
  const sharp = sharpen
    ? {
        ...straight,
        luma: sharpened({ ...area, samples: straight.luma }, straight.bitDepth, sharpen).samples,
      }
    : straight
  const coloured = inColour(sharp, picture.meaning, ground.meaning, conversion, ground.bitDepth)
  const planes = covered(coloured, ...shares)
  if (needsWhole) return { area, ...withChromaOf(siting, planes, filter, kernel) }
  // What nothing is seen through but at its edges has its colour there too: only how much of it counts.
  const seen = planes.alpha && opacityOfChroma(planes, planes.alpha, siting, chromaSizeOf({ planes }))
  return { area, planes, chromaAlpha: seen }
}
