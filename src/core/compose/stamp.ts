import type { Planes } from '../planes/planes'

/** What is written into a picture: grey of 0 (black) to 255 (white), and how much of it covers what is under it. */
export interface Stamp {
  readonly x: number
  readonly y: number
  readonly width: number
  readonly height: number
  /** Row by row. */
  readonly grey: Uint8Array
  readonly cover: Uint8Array
}

/**
 * Writes a stamp into the planes of a picture, of limited range; chroma fades towards grey as far as it is covered. The planes are
 * changed. What lies outside of the picture is left out.
 */
export function stamped(planes: Planes, { x, y, width, height, grey, cover }: Stamp): Planes {
  const scale = 2 ** (planes.bitDepth - 8)
  for (let row = Math.max(0, -y); row < Math.min(height, planes.height - y); row++)
    for (let column = Math.max(0, -x); column < Math.min(width, planes.width - x); column++) {
      const from = row * width + column
      const at = (y + row) * planes.width + x + column
      const wanted = (16 + ((grey[from] as number) * 219) / 255) * scale
      const share = (cover[from] as number) / 255
      planes.luma[at] = Math.round((planes.luma[at] as number) * (1 - share) + wanted * share)
    }
  if (!planes.chroma) return planes
  const { across, down } = planes
  const stride = Math.ceil(planes.width / across)
  const lines = Math.ceil(planes.height / down)
  const middle = 128 * scale
  for (
    let line = Math.max(0, Math.floor(y / down));
    line < Math.min(lines, Math.ceil((y + height) / down));
    line++
  )
    for (
      let at = Math.max(0, Math.floor(x / across));
      at < Math.min(stride, Math.ceil((x + width) / across));
      at++
    ) {
      const share = meanCover(at * across - x, line * down - y)
      for (const plane of [planes.chroma.cb, planes.chroma.cr]) {
        const value = plane[line * stride + at] as number
        plane[line * stride + at] = Math.round(value * (1 - share) + middle * share)
      }
    }
  return planes

  /** How much of the samples of luma that share one of chroma is covered. */
  function meanCover(left: number, top: number): number {
    let sum = 0
    for (let row = top; row < top + down; row++)
      for (let column = left; column < left + across; column++)
        if (row >= 0 && row < height && column >= 0 && column < width)
          sum += cover[row * width + column] as number
    return sum / (255 * across * down)
  }
}
