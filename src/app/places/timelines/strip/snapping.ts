import type { Placement } from '../../../../core/model/timeline'

/** So near, in pixels, an edge is drawn to another. */
const reach = 8

/** Frames that edges are drawn to: both ends of all that is not moved, the playhead, the beginning. */
export function snapFrames(
  placements: readonly Placement[],
  moving: ReadonlySet<string>,
  playhead: number,
): number[] {
  const frames = new Set([0, playhead])
  for (const { id, start, length } of placements) if (!moving.has(id)) frames.add(start).add(start + length)
  return [...frames].sort((a, b) => a - b)
}

/** The nearest of sorted frames; null where there are none. */
function nearest(frames: readonly number[], frame: number): number | null {
  let [low, high] = [0, frames.length]
  while (low < high) {
    const middle = (low + high) >> 1
    if ((frames[middle] ?? 0) < frame) low = middle + 1
    else high = middle
  }
  const [before, after] = [frames[low - 1], frames[low]]
  if (before === undefined) return after ?? null
  return after === undefined || frame - before <= after - frame ? before : after
}

/**
 * How far a move goes when one of its edges is near enough to be drawn to a frame: that far, else as it was meant.
 * @param edges where the edges stand before the move
 */
export function snapped(
  by: number,
  edges: readonly number[],
  frames: readonly number[],
  framePixels: number,
): number {
  let [best, away] = [by, reach / framePixels]
  for (const edge of edges) {
    const there = nearest(frames, edge + by)
    if (there === null) continue
    const apart = Math.abs(there - edge - by)
    if (apart <= away) [best, away] = [there - edge, apart - 1e-9]
  }
  return best
}
