/**
 * The mark that every demo frame bears: its number as a row of black and white blocks, so that a program can tell
 * which source frame is on screen after any scaling, cropping of bars, or encoding.
 *
 * Twenty blocks on a black ground: white, black, sixteen bits (most significant first), parity, white.
 */
export const mark = { left: 0.04, top: 0.91, blockWidth: 0.02, height: 0.045, blocks: 20 }

/** The blocks of a frame number, true = white. */
export function markBlocks(frame: number): boolean[] {
  const bits = Array.from({ length: 16 }, (_, i) => ((frame >> (15 - i)) & 1) === 1)
  const parity = bits.filter(Boolean).length % 2 === 1
  return [true, false, ...bits, parity, true]
}

/** Where a picture lies in a raster, and how bright the raster is there (0…255). */
export interface Raster {
  readonly left: number
  readonly top: number
  readonly width: number
  readonly height: number
  luma(x: number, y: number): number
}

/**
 * Reads the frame number from a picture, or null where no whole mark is seen.
 * @param line 0…1 down the mark; for woven fields, pick a row of the field that is asked for.
 */
export function readMark(raster: Raster, line = 0.5): number | null {
  const y = Math.floor(raster.top + raster.height * (mark.top + mark.height * line))
  const lumas = Array.from({ length: mark.blocks }, (_, i) => {
    const x = raster.left + raster.width * (mark.left + mark.blockWidth * (i + 0.5))
    return (
      (raster.luma(Math.floor(x) - 1, y) +
        raster.luma(Math.floor(x), y) +
        raster.luma(Math.floor(x) + 1, y)) /
      3
    )
  })
  const threshold = (Math.max(...lumas) + Math.min(...lumas)) / 2
  if (Math.max(...lumas) - Math.min(...lumas) < 60) return null
  const white = lumas.map((l) => l > threshold)
  if (!white[0] || white[1] || !white[19]) return null
  const number = white.slice(2, 18).reduce((n, bit) => n * 2 + Number(bit), 0)
  return white[18] === markBlocks(number)[18] ? number : null
}
