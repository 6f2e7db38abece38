import { z } from 'zod'
import { toNumber } from '../rational/rational'
import type { FrameSize } from '../format/format'
import type { Rotation } from '../reading/reading'

/** How a picture is laid into a frame. `native` is one-to-one: one stored pixel on one timeline pixel. */
export const Framing = z.enum(['fit', 'fill', 'stretch', 'native'])
export type Framing = z.infer<typeof Framing>

/** A stored picture as far as framing needs it. */
export interface StoredPicture extends FrameSize {
  readonly rotation: Rotation
}

/** The geometry of a picture in a frame; scales and bars along the timeline's axes, in timeline pixels. */
export interface Fit {
  /** Timeline pixels per stored pixel, across (after a 90° turn, of the stored rows) and down. */
  readonly scaleX: number
  readonly scaleY: number
  /** The picture's size in timeline pixels, before anything is cut off. */
  readonly width: number
  readonly height: number
  /** Empty timeline pixels on each side, left and right (X) or above and below (Y). */
  readonly barsX: number
  readonly barsY: number
  /** Share of the frame that stays empty. */
  readonly barsShare: number
  /** Stored pixels lost on each side, along the timeline's axes. */
  readonly cropX: number
  readonly cropY: number
  /** Share of the picture that is lost. */
  readonly cropShare: number
  /** The zoom left before pixels are invented: min(1/scaleX, 1/scaleY). */
  readonly headroom: number
  /** Widening against the true shape: 1 where circles stay circles. */
  readonly distortion: number
  /** Every stored pixel stands unchanged on one timeline pixel. */
  readonly untouched: boolean
}

const exactlyOne = (value: number) => Math.abs(value - 1) < 1e-9
/** Takes away the dust of floating point where a whole number is meant. */
const settle = (value: number) => (Math.abs(value - Math.round(value)) < 1e-9 ? Math.round(value) : value)

/**
 * Lays a stored picture into a timeline frame.
 * @param zoom enlargement on top of the framing, 1 = none; the picture stays centred.
 */
export function fitPicture(source: StoredPicture, frame: FrameSize, framing: Framing = 'fit', zoom = 1): Fit {
  const turned = source.rotation % 180 === 90
  const p = toNumber(source.pixelAspect)
  const P = toNumber(frame.pixelAspect)
  // Stored pixels along the timeline's axes, and the size of one of them in square units.
  const across = turned ? source.height : source.width
  const down = turned ? source.width : source.height
  const unitX = turned ? 1 : p
  const unitY = turned ? p : 1
  const [dw, dh] = [across * unitX, down * unitY]
  const [DW, DH] = [frame.width * P, frame.height]

  const uniform = framing === 'fill' ? Math.max(DW / dw, DH / dh) : Math.min(DW / dw, DH / dh)
  // One-to-one keeps circles circles: the stored rows stand on the timeline's rows, and the columns follow the shape.
  const sx = framing === 'stretch' ? DW / dw : framing === 'native' ? 1 : uniform
  const sy = framing === 'stretch' ? DH / dh : framing === 'native' ? 1 : uniform
  const scaleX = settle(((sx * unitX) / P) * zoom)
  const scaleY = settle(sy * unitY * zoom)
  const width = settle(across * scaleX)
  const height = settle(down * scaleY)

  const barsX = Math.max(0, (frame.width - width) / 2)
  const barsY = Math.max(0, (frame.height - height) / 2)
  const overX = Math.max(0, (width - frame.width) / 2)
  const overY = Math.max(0, (height - frame.height) / 2)
  const shownX = Math.min(width, frame.width)
  const shownY = Math.min(height, frame.height)
  return {
    scaleX,
    scaleY,
    width,
    height,
    barsX,
    barsY,
    barsShare: 1 - (shownX * shownY) / (frame.width * frame.height),
    cropX: overX / scaleX,
    cropY: overY / scaleY,
    cropShare: 1 - (shownX * shownY) / (width * height),
    headroom: Math.min(1 / scaleX, 1 / scaleY),
    distortion: settle(sx / sy),
    untouched:
      exactlyOne(scaleX) &&
      exactlyOne(scaleY) &&
      source.rotation === 0 &&
      exactlyOne(p / P) &&
      Number.isInteger(barsX - overX) &&
      Number.isInteger(barsY - overY),
  }
}

/** Bars too thin to be meant: under two pixels on each side. Fill is offered instead. */
export const hasHairline = (fit: Fit): boolean => {
  const thin = (bars: number) => bars > 1e-9 && bars < 2
  return (thin(fit.barsX) && fit.barsY < 2) || (thin(fit.barsY) && fit.barsX < 2)
}

/**
 * Source pixels behind one output pixel when a reduction is kept linked to the source, and when it is baked to the
 * timeline's raster first, at a later zoom. 1 or more is sharp; 0.5 means that half of the detail is invented.
 */
export const sharpnessAtZoom = (scale: number, zoom: number): { linked: number; baked: number } => ({
  linked: 1 / (scale * zoom),
  baked: Math.min(1 / scale, 1) / zoom,
})
