import type { Fit } from '../../../core/framing/framing'

/** A rectangle of pixels. */
export interface Region {
  readonly x: number
  readonly y: number
  readonly width: number
  readonly height: number
}

/**
 * The same piece of the scene in stored and in timeline pixels, whole timeline pixels wide.
 * @param at its middle, as shares of the picture
 * @param stored the upright picture's size in stored pixels
 * @param across and down: timeline pixels that the piece covers
 */
export function sameScene(
  fit: Fit,
  stored: { width: number; height: number },
  at: { x: number; y: number },
  across: number,
  down: number,
): { stored: Region; timeline: Region } {
  const place = (share: number, length: number, piece: number) =>
    Math.round(Math.min(Math.max(0, length - piece), Math.max(0, share * length - piece / 2)))
  const x = place(at.x, stored.width * fit.scaleX, across)
  const y = place(at.y, stored.height * fit.scaleY, down)
  return {
    timeline: { x, y, width: across, height: down },
    stored: {
      x: x / fit.scaleX,
      y: y / fit.scaleY,
      width: across / fit.scaleX,
      height: down / fit.scaleY,
    },
  }
}
