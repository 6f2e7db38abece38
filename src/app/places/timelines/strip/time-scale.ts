import { nominalRate } from '../../../../core/rate/timecode'
import type { Rate } from '../../../../core/rate/rate'
import { toNumber } from '../../../../core/rational/rational'
import type { Placement } from '../../../../core/model/timeline'

/** The time scale of a strip: pixels for a second, and the frame at its left edge. */
export interface TimeScale {
  readonly perSecond: number
  readonly from: number
}

/** Fewer pixels a second show nothing, more are wider than a screen for a frame. */
const [narrowest, widest] = [0.05, 4000]

export const perFrame = ({ perSecond }: TimeScale, rate: Rate): number => perSecond / toNumber(rate)

/** Where a frame stands on the strip, in pixels from its left edge. */
export const pixelOf = (scale: TimeScale, rate: Rate, frame: number): number =>
  (frame - scale.from) * perFrame(scale, rate)

/** The frame at a pixel of the strip. */
export const frameAtPixel = (scale: TimeScale, rate: Rate, pixel: number): number =>
  Math.floor(scale.from + pixel / perFrame(scale, rate))

/** The scale at which so many frames fill a width. */
export const fitted = (frames: number, rate: Rate, width: number): TimeScale => ({
  perSecond: clamped((width * toNumber(rate)) / Math.max(1, frames)),
  from: 0,
})

const clamped = (perSecond: number) => Math.min(widest, Math.max(narrowest, perSecond))

/** Zooms by a factor; what stands at a pixel stays there. */
export function zoomed(scale: TimeScale, rate: Rate, by: number, pixel: number): TimeScale {
  const perSecond = clamped(scale.perSecond * by)
  const at = scale.from + pixel / perFrame(scale, rate)
  return { perSecond, from: Math.max(0, at - pixel / perFrame({ perSecond, from: 0 }, rate)) }
}

/** Scrolls by pixels, never before the first frame nor past the last. */
export function scrolled(scale: TimeScale, rate: Rate, by: number, frames: number, width: number): TimeScale {
  const shown = width / perFrame(scale, rate)
  const from = scale.from + by / perFrame(scale, rate)
  return { ...scale, from: Math.max(0, Math.min(Math.max(0, frames - shown * 0.5), from)) }
}

/** The placements of a track that a width shows, found without looking at the others. They stand in order. */
export function inView(
  placements: readonly Placement[],
  scale: TimeScale,
  rate: Rate,
  width: number,
): readonly Placement[] {
  const until = scale.from + width / perFrame(scale, rate)
  let [low, high] = [0, placements.length]
  while (low < high) {
    const middle = (low + high) >> 1
    const placement = placements[middle]
    if (placement && placement.start + placement.length <= scale.from) low = middle + 1
    else high = middle
  }
  let end = low
  while ((placements[end]?.start ?? Infinity) < until) end++
  return placements.slice(low, end)
}

/** Frames that the ruler marks: whole seconds, far enough apart to be read; single frames where there is room. */
export function rulerMarks(scale: TimeScale, rate: Rate, width: number): number[] {
  const nominal = nominalRate(rate)
  const apart = 110 / perFrame(scale, rate)
  const frames = [1, 5, 10].filter((n) => n < nominal)
  const seconds = [1, 2, 5, 10, 15, 30, 60, 120, 300, 600, 1800, 3600, 7200].map((s) => s * nominal)
  const step = [...frames, ...seconds].find((s) => s >= apart) ?? 14_400 * nominal
  const marks: number[] = []
  const until = scale.from + width / perFrame(scale, rate)
  for (let f = Math.floor(scale.from / step) * step; f < until; f += step) marks.push(f)
  return marks
}
