import type { Reading } from '../reading/reading'
import { toNumber } from '../rational/rational'
import { figure } from '../words/figures'
import { isSlowlyDecoded } from './noted'

/** How much work a clip is to play. */
export interface Weight {
  /** Whether it may not keep up. */
  readonly heavy: boolean
  readonly says: string
}

/** Pixels a second that browsers decode with ease: HD at 50 frames a second, with room. */
const easily = 130e6
/** How many times the work of H.264 a codec is: those of the engine that ships, and those that squeeze harder or are decoded without the machine’s help. */
const slowFactor = 6
const factors: Readonly<Record<string, number>> = { HEVC: 1.6, AV1: 1.6, VP9: 1.6, ProRes: 3 }
/** A clip has to be decoded so many times as fast as it runs to be played beside others. */
const room = 1.25

/**
 * How heavy a clip is to play: by the pixels and the codec that it has, and by what was measured where it was.
 * @param pace frames a second that were decoded here; null while nobody has measured
 * @returns null of what has no moving picture
 */
export function playingWeightOf(reading: Reading | null, pace: number | null): Weight | null {
  const video = reading?.video
  if (!video?.rate || reading?.kind !== 'video') return null
  const rate = toNumber(video.rate)
  const pixels = video.width * video.height * rate
  const slowly = isSlowlyDecoded(reading)
  const factor = slowly ? slowFactor : (factors[video.codec] ?? 1)
  const shape = `${figure(pixels / 1e6, 0)} million pixels a second, ${video.codec}`
  if (pace !== null)
    return {
      heavy: pace < room * rate,
      says: `${shape}: ${figure(pace, 0)} of ${figure(rate, 0)} frames a second decoded here`,
    }
  return {
    heavy: pixels * factor > easily,
    says: slowly ? `${shape}, by the engine that ships` : shape,
  }
}

/** The raster of a clip's proxy: a quarter of its pixels, whole lines where fields have to stay. */
export function proxySize(
  width: number,
  height: number,
  hasFields: boolean,
): { readonly width: number; readonly height: number } {
  const even = (side: number) => Math.max(2, Math.round(side / 2) * 2)
  return hasFields
    ? { width: even(width / 4), height: even(height) }
    : { width: even(width / 2), height: even(height / 2) }
}
