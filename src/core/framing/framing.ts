import { displayAspect } from '../picture/size'
import type { FrameSize } from '../picture/size'
import { divide, multiply, toNumber } from '../rational/rational'
import { type Framing, type FramingOverride, type Sides, plainTreatment } from '../treatment/treatment'
import { type UprightSize, axesOf, drawnArea, mapToRaster } from './raster-map'

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

/**
 * The figures of a stored picture laid into a timeline frame.
 * @param override what is not set is plain: fit, zoom 1, centred, nothing cropped
 */
export function fitPicture(source: UprightSize, frame: FrameSize, override: FramingOverride = {}): Fit {
  const framing: Framing = { ...plainTreatment.framing, ...override }
  const rasterMap = mapToRaster(source, frame, framing)
  const { across, down, unitX, unitY } = axesOf(source)
  const [scaleX, scaleY] = [toNumber(rasterMap.scaleX), toNumber(rasterMap.scaleY)]
  const area = drawnArea(rasterMap, { across, down })
  const x = onAxis(frame.width, area.left, area.right)
  const y = onAxis(frame.height, area.top, area.bottom)
  const { crop } = framing
  const shape = divide(
    multiply(rasterMap.scaleX, frame.pixelAspect),
    multiply(rasterMap.scaleY, divide(unitX, unitY)),
  )
  return {
    scaleX,
    scaleY,
    left: x.start,
    top: y.start,
    width: settle(area.right - area.left),
    height: settle(area.bottom - area.top),
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
    distortion: settle(toNumber(shape)),
    untouched:
      exactlyOne(scaleX) &&
      exactlyOne(scaleY) &&
      source.rotation === 0 &&
      exactlyOne(toNumber(source.pixelAspect) / toNumber(frame.pixelAspect)) &&
      Number.isInteger(x.start) &&
      Number.isInteger(y.start),
  }
}

/** A picture of some length on one axis of the frame: where it begins, what stays empty, what hangs out, what is shown. */
function onAxis(frame: number, begins: number, ends: number) {
  const [start, end] = [settle(begins), settle(ends)]
  const picture = end - start
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
export function cropToShape(source: UprightSize, frame: FrameSize, zoom = 1, at = { x: 0.5, y: 0.5 }): Sides {
  const { across, down, unitX, unitY } = axesOf(source)
  const shape = toNumber(displayAspect(frame))
  const inStored = (shape * toNumber(unitY)) / toNumber(unitX)
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

/** The crop of the frame's shape that comes nearest to another one: as large as that leaves across, its middle where that has it. */
export function lockedCrop(
  source: UprightSize,
  frame: FrameSize,
  { left, right, top, bottom }: Sides,
): Sides {
  const { across, down } = axesOf(source)
  const whole = cropToShape(source, frame)
  const widest = across - whole.left - whole.right
  const zoom = widest / Math.max(1, Math.min(widest, across - left - right))
  const at = { x: (left + across - right) / 2 / across, y: (top + down - bottom) / 2 / down }
  return cropToShape(source, frame, zoom, at)
}

/** Bars too thin to be meant: under two pixels on each side. Fill is offered instead. */
export const hasHairline = ({ bars }: Fit): boolean => {
  const all = [bars.left, bars.right, bars.top, bars.bottom]
  return all.some((bar) => bar > 1e-9) && all.every((bar) => bar < 2)
}

/**
 * Source pixels behind one output pixel when a reduction is kept, and when it is baked to the
 * timeline's raster first, at a later zoom. 1 or more is sharp; 0.5 means that half of the detail is invented.
 */
export const sharpnessAtZoom = (scale: number, zoom: number): { kept: number; baked: number } => ({
  kept: 1 / (scale * zoom),
  baked: Math.min(1 / scale, 1) / zoom,
})
