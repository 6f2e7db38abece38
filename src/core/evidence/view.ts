import type { Luma } from '../planes/luma'
import { barsIn, lineMeans } from './bars'
import { detailAxes } from './detail'
import { combingBlocks } from './fields'
import { type PairKernel, pairBlockSide, measurePair } from './pair'
import { mostDiffering } from './repeats'
import { seriesOf } from './series'

/** A rectangle of a picture, in its pixels. */
export interface PictureArea {
  readonly x: number
  readonly y: number
  readonly width: number
  readonly height: number
}

/**
 * The blocks of a frame that comb, for showing them.
 * @param before the frame before it, where there is one
 * @param after the frame after it, where there is one
 */
export function combsIn(
  before: Luma | null,
  frame: Luma,
  after: Luma | null,
  pairOf: PairKernel = measurePair,
): PictureArea[] {
  // Of the last frame of a clip there is no pair that begins with it.
  if (!after) return []
  const pairs = [...(before ? [pairOf(before, frame)] : []), pairOf(frame, after)]
  const [series] = seriesOf([{ first: 0, pairs }])
  if (!series) return []
  const at = before ? 1 : 0
  const across = Math.floor(frame.width / pairBlockSide)
  return combingBlocks(series, at).map((block) => ({
    x: (block % across) * pairBlockSide,
    y: Math.floor(block / across) * pairBlockSide,
    width: pairBlockSide,
    height: pairBlockSide,
  }))
}

/** By how much two frames differ: the mean over the blocks that differ most, and the picture of it. */
export interface PictureDifference {
  /** In 8-bit codes, over the 2 % of blocks that differ most. */
  readonly codes: number
  /** The absolute difference of each pixel. */
  readonly picture: Luma
}

export function differenceOf(a: Luma, b: Luma, pairOf: PairKernel = measurePair): PictureDifference {
  const data = new Uint8Array(a.data.length)
  for (let i = 0; i < data.length; i++) data[i] = Math.abs((a.data[i] ?? 0) - (b.data[i] ?? 0))
  return {
    codes: mostDiffering(pairOf(a, b)),
    picture: { width: a.width, height: a.height, data },
  }
}

/** How strong each fraction of the band is in a frame, across and down, in dB over one code². */
export interface Spectrum {
  readonly across: readonly number[]
  readonly down: readonly number[]
}

/** The spectra of a frame within its bars: what an enlargement leaves empty is seen in them. */
export function spectrumOf(frame: Luma, points = 96): Spectrum | null {
  const axes = detailAxes([frame], barsIn(lineMeans(frame), 12))
  if (!axes) return null
  const row = (level: (from: number, to: number) => number) =>
    Array.from({ length: points }, (_, k) => level(k / points, (k + 1) / points))
  return { across: row(axes.across.level), down: row(axes.down.level) }
}
