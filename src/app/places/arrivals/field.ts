/** Which lines of a woven frame are shown: all, or those of one field, each twice as high. */
export type Field = 'both' | 'top' | 'bottom'

/**
 * Replaces the lines of the other field by the one above (or below) that belongs to the wanted field, so that a single
 * moment is seen at full height. Works on RGBA pixels in place.
 */
export function keepField(
  pixels: Uint8ClampedArray,
  width: number,
  height: number,
  field: Exclude<Field, 'both'>,
): void {
  const stride = width * 4
  const own = field === 'top' ? 0 : 1
  for (let line = 1 - own; line < height; line += 2) {
    const from = line - 1 >= 0 && (line - 1) % 2 === own ? line - 1 : Math.min(line + 1, height - 1)
    if (from !== line) pixels.copyWithin(line * stride, from * stride, (from + 1) * stride)
  }
}

/** One step in fields: the next field of the frame in its order, else the first of the next frame. */
export function stepField(
  frame: number,
  field: Field,
  topFirst: boolean,
  by: 1 | -1,
): { frame: number; field: Field } {
  const order: Field[] = topFirst ? ['top', 'bottom'] : ['bottom', 'top']
  const at = field === 'both' ? (by > 0 ? -1 : 2) : order.indexOf(field)
  const next = at + by
  if (next >= 0 && next <= 1) return { frame, field: order[next] }
  return { frame: frame + by, field: by > 0 ? order[0] : order[1] }
}
