import { z } from 'zod'
import { toNumber } from '../rational/rational'
import type { FrameSize } from '../format/format'
import type { Rotation } from '../reading/reading'

/** How a picture is laid into a frame. `native` is one-to-one: one stored pixel on one timeline pixel. */
export const Framing = z.enum(['fit', 'fill', 'stretch', 'native'])
export type Framing = z.infer<typeof Framing>

/** Pixels on each side of a picture or a frame. */
export const Sides = z.object({
  left: z.number().nonnegative(),
  right: z.number().nonnegative(),
  top: z.number().nonnegative(),
  bottom: z.number().nonnegative(),
})
export type Sides = z.infer<typeof Sides>

export const noSides: Sides = { left: 0, right: 0, top: 0, bottom: 0 }

/** Where and how large a picture stands in its timeline's frame. */
export const Layout = z.object({
  framing: Framing.default('fit'),
  /** Enlargement on top of the framing, 1 = none. */
  zoom: z.number().positive().max(100).default(1),
  /** From the middle of the frame to the middle of the picture, in timeline pixels; right and down are positive. */
  position: z.object({ x: z.number(), y: z.number() }).default({ x: 0, y: 0 }),
  /** Stored pixels cut off on each side before framing, along the timeline's axes. */
  crop: Sides.default(noSides),
})
export type Layout = z.infer<typeof Layout>

/** A stored picture as far as framing needs it. */
export interface StoredPicture extends FrameSize {
  readonly rotation: Rotation
}

/** The geometry of a picture in a frame; scales, bars and crop along the timeline's axes. */
export interface Fit {
  /** Timeline pixels per stored pixel, across (after a 90° turn, of the stored rows) and down. */
  readonly scaleX: number
  readonly scaleY: number
  /** Where the picture's top left corner stands in the frame, in timeline pixels; negative where it hangs out. */
  readonly left: number
  readonly top: number
  /** The picture's size in timeline pixels, before the frame cuts anything off. */
  readonly width: number
  readonly height: number
  /** Empty timeline pixels on each side. */
  readonly bars: Sides
  /** Share of the frame that stays empty. */
  readonly barsShare: number
  /** Stored pixels lost on each side. */
  readonly crop: Sides
  /** Share of the stored picture that is lost. */
  readonly cropShare: number
  /** The zoom left before pixels are invented: min(1/scaleX, 1/scaleY). */
  readonly headroom: number
  /** Widening against the true shape: 1 where circles stay circles. */
  readonly distortion: number
  /** Every stored pixel that is shown stands unchanged on one timeline pixel. */
  readonly untouched: boolean
}

const exactlyOne = (value: number) => Math.abs(value - 1) < 1e-9
/** Takes away the dust of floating point where a whole number is meant. */
const settle = (value: number) => (Math.abs(value - Math.round(value)) < 1e-9 ? Math.round(value) + 0 : value)

/** A stored picture along the timeline's axes: pixels across and down, and the size of one in square units. */
function upright({ width, height, pixelAspect, rotation }: StoredPicture) {
  const p = toNumber(pixelAspect)
  return rotation % 180 === 90
    ? { across: height, down: width, unitX: 1, unitY: p }
    : { across: width, down: height, unitX: p, unitY: 1 }
}

/**
 * Lays a stored picture into a timeline frame.
 * @param layout what is not given is plain: fit, zoom 1, centred, nothing cropped
 */
export function fitPicture(source: StoredPicture, frame: FrameSize, layout: Partial<Layout> = {}): Fit {
  const { framing = 'fit', zoom = 1, position = { x: 0, y: 0 }, crop = noSides } = layout
  const { across, down, unitX, unitY } = upright(source)
  const P = toNumber(frame.pixelAspect)
  // A crop of everything leaves a sliver, not nothing to divide by.
  const keptX = Math.max(1e-3, across - crop.left - crop.right)
  const keptY = Math.max(1e-3, down - crop.top - crop.bottom)
  const [dw, dh] = [keptX * unitX, keptY * unitY]
  const [DW, DH] = [frame.width * P, frame.height]

  const uniform = framing === 'fill' ? Math.max(DW / dw, DH / dh) : Math.min(DW / dw, DH / dh)
  // One-to-one keeps circles circles: the stored rows stand on the timeline's rows, and the columns follow the shape.
  const sx = framing === 'stretch' ? DW / dw : framing === 'native' ? 1 : uniform
  const sy = framing === 'stretch' ? DH / dh : framing === 'native' ? 1 : uniform
  const scaleX = settle(((sx * unitX) / P) * zoom)
  const scaleY = settle(sy * unitY * zoom)
  const width = settle(keptX * scaleX)
  const height = settle(keptY * scaleY)

  const x = onAxis(frame.width, width, position.x)
  const y = onAxis(frame.height, height, position.y)
  return {
    scaleX,
    scaleY,
    left: x.start,
    top: y.start,
    width,
    height,
    bars: { left: x.before, right: x.after, top: y.before, bottom: y.after },
    barsShare: 1 - (x.shown * y.shown) / (frame.width * frame.height),
    crop: {
      left: crop.left + x.hidBefore / scaleX,
      right: crop.right + x.hidAfter / scaleX,
      top: crop.top + y.hidBefore / scaleY,
      bottom: crop.bottom + y.hidAfter / scaleY,
    },
    cropShare: 1 - (x.shown * y.shown) / (across * scaleX * down * scaleY),
    headroom: Math.min(1 / scaleX, 1 / scaleY),
    distortion: settle(sx / sy),
    untouched:
      exactlyOne(scaleX) &&
      exactlyOne(scaleY) &&
      source.rotation === 0 &&
      exactlyOne(toNumber(source.pixelAspect) / P) &&
      Number.isInteger(x.start) &&
      Number.isInteger(y.start),
  }
}

/** A picture of some length on one axis of the frame: where it begins, what stays empty, what hangs out, what is shown. */
function onAxis(frame: number, picture: number, position: number) {
  const start = settle((frame - picture) / 2 + position)
  const end = settle(start + picture)
  const from = Math.min(frame, Math.max(0, start))
  const to = Math.min(frame, Math.max(0, end))
  return {
    start,
    before: from,
    after: frame - to,
    hidBefore: Math.min(picture, Math.max(0, -start)),
    hidAfter: Math.min(picture, Math.max(0, end - frame)),
    shown: to - from,
  }
}

/**
 * The crop that has the frame's shape: as large as the picture allows at zoom 1, smaller above.
 * @param at where its middle stands in the picture, as shares of it across and down; kept inside the picture
 */
export function cropToShape(
  source: StoredPicture,
  frame: FrameSize,
  zoom = 1,
  at = { x: 0.5, y: 0.5 },
): Sides {
  const { across, down, unitX, unitY } = upright(source)
  const shape = (frame.width * toNumber(frame.pixelAspect)) / frame.height
  const inStored = (shape * unitY) / unitX
  const width = Math.min(across, down * inStored) / Math.max(1, zoom)
  const height = width / inStored
  const left = Math.min(across - width, Math.max(0, at.x * across - width / 2))
  const top = Math.min(down - height, Math.max(0, at.y * down - height / 2))
  return {
    left: settle(left),
    right: settle(across - width - left),
    top: settle(top),
    bottom: settle(down - height - top),
  }
}

/** Bars too thin to be meant: under two pixels on each side. Fill is offered instead. */
export const hasHairline = ({ bars }: Fit): boolean => {
  const all = [bars.left, bars.right, bars.top, bars.bottom]
  return all.some((bar) => bar > 1e-9) && all.every((bar) => bar < 2)
}

/**
 * Source pixels behind one output pixel when a reduction is kept linked to the source, and when it is baked to the
 * timeline's raster first, at a later zoom. 1 or more is sharp; 0.5 means that half of the detail is invented.
 */
export const sharpnessAtZoom = (scale: number, zoom: number): { linked: number; baked: number } => ({
  linked: 1 / (scale * zoom),
  baked: Math.min(1 / scale, 1) / zoom,
})
