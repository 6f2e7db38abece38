import { type Parity, firstParity, otherParity } from '../../core/picture/scan'

/** Which lines of a woven frame are shown: all, or those of one field, each twice as high. */
export type Field = 'both' | Parity

/**
 * Replaces the lines of the other field by the one above (or below) that belongs to the wanted field, so that a single
 * moment is seen at full height. Works on RGBA pixels in place.
 */
export function keepField(pixels: Uint8ClampedArray, width: number, height: number, field: Parity): void {
  const stride = width * 4
  const own = field === 'top' ? 0 : 1
  for (let line = 1 - own; line < height; line += 2) {
    const from = line - 1 >= 0 && (line - 1) % 2 === own ? line - 1 : Math.min(line + 1, height - 1)
    if (from !== line) pixels.copyWithin(line * stride, from * stride, (from + 1) * stride)
  }
}

/**
 * Weaves a frame out of two fields: the lines of one parity are replaced by lines of another picture of the same size.
 * @param from the parity of the lines that are taken there; where it is the other one, the line beside it is taken
 */
export function takeLines(
  pixels: Uint8ClampedArray,
  other: Uint8ClampedArray,
  { width, height }: { readonly width: number; readonly height: number },
  into: Parity,
  from: Parity,
): void {
  const stride = width * 4
  for (let line = into === 'top' ? 0 : 1; line < height; line += 2) {
    const beside = from === into ? line : line % 2 === 0 ? line + 1 : line - 1
    const source = Math.max(0, Math.min(height - 1, beside))
    pixels.set(other.subarray(source * stride, (source + 1) * stride), line * stride)
  }
}

/** One step in fields: the next field of the frame in its order, else the first of the next frame. */
export function stepField(
  frame: number,
  field: Field,
  topFirst: boolean,
  by: 1 | -1,
): { frame: number; field: Field } {
  const first = firstParity(topFirst ? 'top-first' : 'bottom-first')
  const second = otherParity(first)
  if (by > 0)
    return field === 'both'
      ? { frame, field: first }
      : field === first
        ? { frame, field: second }
        : { frame: frame + 1, field: first }
  return field === 'both'
    ? { frame, field: second }
    : field === second
      ? { frame, field: first }
      : { frame: frame - 1, field: second }
}
