import type { Lie } from '../framing/lay'
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
import { conversionOf, inColour, ofDepth } from './colour'
import { type Cropped, type StoredPicture, cropped, eachPlane, roomFor, turned } from './stored'

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
export interface Laying extends Pick<Framing, 'filter' | 'sharpen' | 'reduction' | 'zoom'> {
  readonly lie: Lie
  readonly colour: ColourConversion
}

/** A part of a raster with a picture on it: its planes whole, opacity where it is not seen all over. */
export interface Laid {
  readonly area: Area
  readonly planes: Planes
}

const whole: Siting = { every: 1, halves: 1 }

/**
 * Where the cropped picture's sides lie on an axis of the raster, and the whole pixels that it touches within some.
 * @param every so many pixels share their colour: they are taken together
 */
function reached(
  lie: 'x' | 'y',
  { x, y, scaleX, scaleY, crop }: Lie,
  length: number,
  within: Area,
  every: number,
) {
  const [start, scale, before, after, first, count] =
    lie === 'x'
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
const told = (value: Rational): Rational =>
  Math.abs(value.num) < 2 ** 24 && value.den < 2 ** 16 ? value : nearestRational(toNumber(value), 1e-7)

/** The axis of a picture that begins some pixels in, on the axis of an area that begins some pixels in. */
const axisMap = (scale: Rational, start: Rational, taken: number, from: number): AxisMap => ({
  scale: told(scale),
  shift: told(subtract(add(start, multiply(told(scale), rational(taken))), rational(from))),
})

/** Colour times opacity, so that what cannot be seen weighs nothing; of 12 bits, so that little is lost. */
function premultiplied(planes: Planes): Planes {
  const { alpha } = planes
  if (!alpha) return planes
  const [depth, most] = [12, 2 ** planes.bitDepth - 1]
  const deep = (samples: Samples) => ofDepth(samples, planes.bitDepth, depth)
  const [columns, across, down] = [Math.ceil(planes.width / planes.across), planes.across, planes.down]
  const share = (samples: Samples, at: (i: number) => number) => {
    const made = deep(samples)
    for (let i = 0; i < made.length; i++)
      made[i] = Math.floor(((made[i] as number) * (alpha[at(i)] as number)) / most + 0.5)
    return made
  }
  const beside = (i: number) => {
    const row = Math.floor(i / columns)
    return row * down * planes.width + (i - row * columns) * across
  }
  return {
    ...planes,
    bitDepth: depth,
    luma: share(planes.luma, (i) => i),
    chroma: planes.chroma && { cb: share(planes.chroma.cb, beside), cr: share(planes.chroma.cr, beside) },
    alpha: Uint16Array.from(alpha, (a) => Math.floor((a * (2 ** depth - 1)) / most + 0.5)),
  }
}

/** Back from colour times opacity to colour. */
function divided(planes: Planes): Planes {
  const { alpha, bitDepth } = planes
  if (!alpha) return planes
  const most = 2 ** bitDepth - 1
  const share = (samples: Samples) => {
    const made = roomFor(samples.length, samples)
    for (let i = 0; i < made.length; i++) {
      const opacity = alpha[i] as number
      made[i] =
        opacity === 0 ? 0 : Math.min(most, Math.floor(((samples[i] as number) * most) / opacity + 0.5))
    }
    return made
  }
  return { ...planes, ...eachPlane(planes, share, share), alpha }
}

/** Planes of a picture on an area, by a map of each axis, its chroma where it is to lie there. */
function resampled(
  { planes, siting }: Pick<StoredPicture, 'planes' | 'siting'>,
  [mapX, mapY]: readonly [AxisMap, AxisMap],
  { width, height }: Pick<Area, 'width' | 'height'>,
  filter: Framing['filter'],
  kernel: PlaneKernel,
  onto: ChromaSiting = wholeChroma,
): Planes {
  const make = (x: Siting, y: Siting, toX: Siting, toY: Siting) => {
    const size = { width: Math.ceil(planes.width / x.every), height: Math.ceil(planes.height / y.every) }
    const across = tapsOf(filter, mapX, x, toX, Math.ceil(width / toX.every))
    const down = tapsOf(filter, mapY, y, toY, Math.ceil(height / toY.every))
    return (samples: Samples) => kernel({ ...size, samples }, across, down, planes.bitDepth).samples
  }
  const large = make(whole, whole, whole, whole)
  const small = [siting, onto].every(isWhole)
    ? large
    : make(siting.across, siting.down, onto.across, onto.down)
  const [across, down] = [onto.across.every, onto.down.every]
  return { bitDepth: planes.bitDepth, width, height, across, down, ...eachPlane(planes, large, small) }
}

const isWhole = ({ across, down }: ChromaSiting): boolean => across.every === 1 && down.every === 1

/** Planes with as much chroma as luma, with their chroma where a ground has it. */
function withChromaOf(ground: ChromaSiting, planes: Planes, filter: Framing['filter'], kernel: PlaneKernel) {
  if (isWhole(ground)) return planes
  const still = { scale: rational(1), shift: rational(0) }
  const picture = { planes, siting: wholeChroma }
  const { luma, alpha } = planes
  return { ...resampled(picture, [still, still], planes, filter, kernel, ground), luma, alpha }
}

/** A picture brought to the raster's own fineness before it is zoomed: what is finer is gone. */
function baked(
  picture: Cropped,
  { filter, zoom, lie }: Laying,
  kernel: PlaneKernel,
): { picture: Cropped; lie: Lie } {
  const unzoomed = (scale: Rational) => multiply(scale, rational(zoom.den, zoom.num))
  const [scaleX, scaleY] = [unzoomed(lie.scaleX), unzoomed(lie.scaleY)]
  const one = rational(1)
  if (compare(scaleX, one) >= 0 && compare(scaleY, one) >= 0) return { picture, lie }
  const size = (pixels: number, scale: Rational) => Math.max(1, Math.round(pixels * toNumber(scale)))
  const { planes } = picture
  const [width, height] = [size(planes.width, scaleX), size(planes.height, scaleY)]
  const maps = [
    { scale: told(rational(width, planes.width)), shift: rational(0) },
    { scale: told(rational(height, planes.height)), shift: rational(0) },
  ] as const
  const reduced = resampled(picture, maps, { width, height }, filter, kernel)
  const start = (corner: Rational, scale: Rational, taken: number) =>
    add(corner, multiply(scale, rational(taken)))
  return {
    picture: { ...picture, planes: reduced, siting: { across: whole, down: whole }, left: 0, top: 0 },
    lie: {
      ...lie,
      x: start(lie.x, lie.scaleX, picture.left),
      y: start(lie.y, lie.scaleY, picture.top),
      scaleX: multiply(lie.scaleX, rational(planes.width, width)),
      scaleY: multiply(lie.scaleY, rational(planes.height, height)),
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
export function laid(
  picture: StoredPicture,
  laying: Laying,
  ground: Ground,
  within: Area,
  kernel: PlaneKernel,
): Laid | null {
  const { lie, filter, sharpen, reduction, colour } = laying
  const upright = turned(picture, lie.turn)
  const { siting } = ground
  const x = reached('x', lie, upright.planes.width, within, siting.across.every)
  const y = reached('y', lie, upright.planes.height, within, siting.down.every)
  if (x.count === 0 || y.count === 0) return null
  const area: Area = { x: x.low, y: y.low, width: x.count, height: y.count }
  const cut = cropped(upright, lie.crop)
  const source: Cropped = { ...cut, planes: premultiplied(cut.planes) }
  const from =
    reduction === 'baked' && !equal(laying.zoom, rational(1))
      ? baked(source, laying, kernel)
      : { picture: source, lie }
  const maps = [
    axisMap(from.lie.scaleX, from.lie.x, from.picture.left, area.x),
    axisMap(from.lie.scaleY, from.lie.y, from.picture.top, area.y),
  ] as const
  const conversion = conversionOf(picture.meaning, ground.meaning, colour)
  // Opacity and other colour are worked out where there is a sample of each for every pixel.
  const needsWhole = source.planes.alpha !== null || conversion.names.length > 0
  const straight = divided(
    resampled(from.picture, maps, area, filter, kernel, needsWhole ? wholeChroma : siting),
  )
  const sharp = sharpen
    ? {
        ...straight,
        luma: sharpened({ ...area, samples: straight.luma }, straight.bitDepth, sharpen).samples,
      }
    : straight
  const coloured = inColour(sharp, picture.meaning, ground.meaning, conversion, ground.bitDepth)
  const planes = needsWhole ? withChromaOf(siting, coloured, filter, kernel) : coloured
  return { area, planes: covered(planes, coverage(x), coverage(y)) }
}
