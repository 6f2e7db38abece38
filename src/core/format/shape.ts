import { type FrameSize, displayAspect, square } from '../picture/size'
import { type Rational, equal, nearestRational, rational, toNumber } from '../rational/rational'
import { sizeText } from './format'
import { standardSizes } from './standard'

/** A picture's shape: its display aspect ratio, width : height. */
export interface Shape {
  readonly name: string
  readonly aspect: Rational
}

/** The shapes that are asked for most. 21:9 is a name: the rasters are 64:27. */
export const shapes: readonly Shape[] = [
  { name: '16:9', aspect: rational(16, 9) },
  { name: '9:16', aspect: rational(9, 16) },
  { name: '1:1', aspect: rational(1) },
  { name: '4:3', aspect: rational(4, 3) },
  { name: '21:9', aspect: rational(64, 27) },
  { name: '256:135', aspect: rational(256, 135) },
]

/**
 * Reads a shape as people type it: `16:9`, `2.39:1`, `1.85`.
 * @returns null where it is no shape, or one beyond 10 : 1 either way
 */
export function parseShape(text: string): Shape | null {
  const name = text.trim()
  const known = shapes.find((shape) => shape.name === name)
  if (known) return known
  const match = /^(\d+(?:[.,]\d+)?)\s*(?::|\/|x|×)?\s*(\d+(?:[.,]\d+)?)?$/i.exec(name)
  if (!match) return null
  const side = (part = '1') => Number(part.replace(',', '.'))
  const [w, h] = [side(match[1]), side(match[2])]
  if (!(w > 0 && h > 0) || w / h > 10 || w / h < 0.1) return null
  return { name, aspect: nearestRational(w / h, 1e-6) }
}

/** The lengths of the shorter side for which a size is offered in any shape, HD first. */
const shorterSides = [1080, 2160, 720]

/**
 * The sizes that exist in a shape: the standard ones that have it exactly, then rasters of square pixels at the usual
 * heights, their longer side the nearest even number.
 */
export function sizesInShape({ aspect }: Shape): FrameSize[] {
  const portrait = toNumber(aspect) < 1
  const ratio = portrait ? 1 / toNumber(aspect) : toNumber(aspect)
  const squarePixels = shorterSides.map((short): FrameSize => {
    const long = 2 * Math.round((short * ratio) / 2)
    return portrait
      ? { width: short, height: long, pixelAspect: square }
      : { width: long, height: short, pixelAspect: square }
  })
  const standard = standardSizes.filter((size) => equal(displayAspect(size), aspect))
  const sizes = new Map<string, FrameSize>()
  for (const size of [...standard, ...squarePixels])
    if (!sizes.has(sizeText(size))) sizes.set(sizeText(size), size)
  return [...sizes.values()]
}
