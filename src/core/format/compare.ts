import { type Picture } from '../picture/picture'
import { isHdr, matricesDiffer, matrixOf } from '../picture/colour'
import { primariesAlike } from '../planes/primaries'
import { type FieldOrder, type Scan, ordersDiffer } from '../picture/scan'
import { type FrameSize, isStandardDefinition } from '../picture/size'
import { uprightSize } from '../picture/turn'
import type { Rate } from '../rate/rate'
import { type Rational, equal } from '../rational/rational'
import type { Format } from './format'

/**
 * What of a colour is converted: between standard and high dynamic range, from PQ to HLG or back, primaries, or the matrix
 * alone, which loses nothing.
 */
export type ColourStep = 'dynamic-range' | 'transfer' | 'primaries' | 'matrix'

/** One property in which a picture differs from a format. */
export type Difference =
  | { readonly about: 'size'; readonly from: FrameSize; readonly to: FrameSize }
  | { readonly about: 'pixel shape'; readonly from: Rational; readonly to: Rational }
  | { readonly about: 'rate'; readonly from: Rate; readonly to: Rate }
  | { readonly about: 'scan'; readonly from: Scan; readonly to: Scan }
  | { readonly about: 'field order'; readonly from: FieldOrder; readonly to: FieldOrder }
  | { readonly about: 'colour'; readonly step: ColourStep; readonly from: string; readonly to: string }
  /** More bits than the format has: the finer steps are rounded away. Fewer are no difference. */
  | { readonly about: 'depth'; readonly from: number; readonly to: number }

export type DifferenceAbout = Difference['about']

/**
 * What differs between a picture and a format, each property alone: the one place that says so. Sizes are compared upright;
 * what a clip does not state differs from nothing.
 * @param picture of a clip's reading, or of another format (`pictureOfFormat`)
 */
export function differencesOf(picture: Picture, format: Format): Difference[] {
  const found: Difference[] = []
  const size = uprightSize(picture)
  if (size.width !== format.width || size.height !== format.height)
    found.push({ about: 'size', from: size, to: format })
  if (!equal(size.pixelAspect, format.pixelAspect))
    found.push({ about: 'pixel shape', from: size.pixelAspect, to: format.pixelAspect })
  if (picture.rate && !equal(picture.rate, format.rate))
    found.push({ about: 'rate', from: picture.rate, to: format.rate })
  // A still has neither rate nor scan.
  if (picture.rate && picture.scan !== 'unknown' && picture.scan !== format.scan)
    found.push({ about: 'scan', from: picture.scan, to: format.scan })
  const { fieldOrder } = picture
  if (fieldOrder && format.fieldOrder && ordersDiffer(fieldOrder, format.fieldOrder))
    found.push({ about: 'field order', from: fieldOrder, to: format.fieldOrder })
  const colour = colourDifference(picture, format)
  if (colour) found.push(colour)
  if (picture.bitDepth !== null && picture.bitDepth > format.colour.bitDepth)
    found.push({ about: 'depth', from: picture.bitDepth, to: format.colour.bitDepth })
  return found
}

type ColourDifference = Extract<Difference, { about: 'colour' }>

const converted = (step: ColourStep, from: string, to: string): ColourDifference => ({
  about: 'colour',
  step,
  from,
  to,
})

/** The conversion that a picture's colour needs to stand in a format; the dearest of several names them all. */
function colourDifference(picture: Picture, format: Format): ColourDifference | null {
  const { transfer } = picture
  const { colour } = format
  if (transfer !== null && isHdr(transfer) !== isHdr(colour.transfer))
    return converted('dynamic-range', transfer, colour.transfer)
  if (transfer !== null && isHdr(transfer) && transfer !== colour.transfer)
    return converted('transfer', transfer, colour.transfer)
  return primariesDifference(picture, format) ?? matrixDifference(picture, format)
}

/** Other primaries than a format's; null where they are the same, or not stated. */
export function primariesDifference(picture: Picture, format: Format): ColourDifference | null {
  const { primaries } = picture
  const { colour } = format
  return primaries !== null &&
    !primariesAlike(
      primaries,
      colour.primaries,
      isStandardDefinition(picture) || isStandardDefinition(format),
    )
    ? converted('primaries', primaries, colour.primaries)
    : null
}

/** Another matrix than a format's; null where they compute alike. */
export function matrixDifference(picture: Picture, format: Format): ColourDifference | null {
  const { colour } = format
  // Stills are RGB and have no matrix until they are laid into a format.
  if (picture.rate === null && picture.matrix === null) return null
  const [from, to] = [matrixOf(picture, picture), matrixOf(format, { primaries: colour.primaries })]
  return from !== 'rgb' && matricesDiffer(from, to) ? converted('matrix', from, to) : null
}
