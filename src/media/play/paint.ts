import { present } from '../../core/assert'
import { drawnArea } from '../../core/framing/raster-map'
import { toNumber } from '../../core/rational/rational'
import type { Layer } from '../../core/plan/layers'
import type { Shown, SourceField } from '../../core/motion/shown'
import { type Field, keepField, takeLines } from './field'

/** A decoded frame of a source, upright. */
export type Decoded = ImageBitmap | OffscreenCanvas

/** A rectangle of a raster, in its pixels. */
export interface Region {
  readonly x: number
  readonly y: number
  readonly width: number
  readonly height: number
}

/** What is painted: layers on a raster, and the part of it that fills the canvas. */
export interface Painting {
  readonly layers: readonly Layer[]
  readonly region: Region
  /** Of the canvas, in device pixels. */
  readonly width: number
  readonly height: number
  /** `smooth` scales as a picture is scaled, `quick` as fast as may be; `pixels` shows each pixel of the source as a block. */
  readonly scaling: 'smooth' | 'quick' | 'pixels'
  /** One field of the result, made whole; both as they stand where it is not said. */
  readonly field?: Field
  readonly background?: string
  /** Whether layers are first brought to the raster's own pixels, which are then magnified: what the raster holds is seen. */
  readonly throughRaster?: boolean
}

/** Whether lines have to be told apart, so that a smaller picture would not do. */
export const needsLines = (shown: Shown): boolean =>
  shown.kind === 'field' ||
  shown.kind === 'fields' ||
  (shown.kind === 'mix' && (needsLines(shown.a) || needsLines(shown.b)))

const canvasOf = (width: number, height: number) => {
  const canvas = new OffscreenCanvas(width, height)
  return {
    canvas,
    context: present(canvas.getContext('2d', { willReadFrequently: true }), 'a canvas is drawn on'),
  }
}

/** A picture whose lines are read, and how they stand after another part of it is worked on. */
function pixelsOf(picture: Decoded) {
  const { canvas, context } = canvasOf(picture.width, picture.height)
  context.drawImage(picture, 0, 0)
  return { canvas, context, image: context.getImageData(0, 0, picture.width, picture.height) }
}

/** One field of a frame made whole, quickly: each line twice. */
function wholeField(picture: Decoded, { parity }: Pick<SourceField, 'parity'>): CanvasImageSource {
  const { canvas, context, image } = pixelsOf(picture)
  keepField(image.data, image.width, image.height, parity)
  context.putImageData(image, 0, 0)
  return canvas
}

function woven(
  top: Decoded,
  topParity: SourceField['parity'],
  bottom: Decoded,
  bottomParity: SourceField['parity'],
): OffscreenCanvas {
  // Fields of the other order keep the lines that they have: they lie a line lower.
  if (topParity === 'bottom' && bottomParity === 'top') return woven(bottom, 'top', top, 'bottom')
  const { canvas, context, image } = pixelsOf(top)
  const before = new Uint8ClampedArray(image.data)
  takeLines(image.data, before, { width: image.width, height: image.height }, 'top', topParity)
  takeLines(
    image.data,
    pixelsOf(bottom).image.data,
    { width: image.width, height: image.height },
    'bottom',
    bottomParity,
  )
  context.putImageData(image, 0, 0)
  return canvas
}

type Draw = (picture: CanvasImageSource) => void

/** Draws what of a source is shown; a mixture is the first with the second laid over it. */
function drawShown(
  context: OffscreenCanvasRenderingContext2D | CanvasRenderingContext2D,
  shown: Shown,
  frame: (index: number) => Decoded | undefined,
  draw: Draw,
): void {
  switch (shown.kind) {
    case 'frame': {
      const picture = frame(shown.index)
      if (picture) draw(picture)
      return
    }
    case 'field': {
      const picture = frame(shown.frame)
      if (picture) draw(shown.method === 'blend' ? picture : wholeField(picture, shown))
      return
    }
    case 'fields': {
      const [top, bottom] = [frame(shown.top.frame), frame(shown.bottom.frame)]
      if (top && bottom) draw(woven(top, shown.top.parity, bottom, shown.bottom.parity))
      return
    }
    case 'mix': {
      const alpha = context.globalAlpha
      drawShown(context, shown.a, frame, draw)
      context.globalAlpha = alpha * shown.weightOfB
      drawShown(context, shown.b, frame, draw)
      context.globalAlpha = alpha
      return
    }
    case 'nothing':
  }
}

/** Both kinds of canvas are drawn on alike. */
const contextOf = (canvas: HTMLCanvasElement | OffscreenCanvas, willReadFrequently: boolean) =>
  present(
    canvas.getContext('2d', { willReadFrequently }) as CanvasRenderingContext2D | null,
    'a canvas is drawn on in two dimensions',
  )

/** Paints what a raster holds of the layers, with a rim so that edges have neighbours, and magnifies its pixels. */
function magnified(
  canvas: HTMLCanvasElement | OffscreenCanvas,
  painting: Painting,
  frameOf: (layer: Layer, index: number) => Decoded | undefined,
): void {
  const { region, width, height } = painting
  const rim = 4
  const x = Math.floor(region.x) - rim
  const y = Math.floor(region.y) - rim
  const held = {
    x,
    y,
    width: Math.ceil(region.x + region.width) + rim - x,
    height: Math.ceil(region.y + region.height) + rim - y,
  }
  const untouched = painting.layers.every(
    ({ rasterMap }) => toNumber(rasterMap.scaleX) === 1 && toNumber(rasterMap.scaleY) === 1,
  )
  const raster = new OffscreenCanvas(held.width, held.height)
  const onRaster: Painting = {
    ...painting,
    throughRaster: false,
    region: held,
    width: held.width,
    height: held.height,
    scaling: untouched ? 'pixels' : 'smooth',
  }
  paint(raster, onRaster, frameOf)
  canvas.width = width
  canvas.height = height
  const context = contextOf(canvas, false)
  context.imageSmoothingEnabled = false
  context.drawImage(raster, region.x - x, region.y - y, region.width, region.height, 0, 0, width, height)
}

/**
 * Paints layers onto a canvas, bottom to top: the one function that turns a plan into pixels on a screen. It scales as the
 * browser does, quickly.
 * @param frameOf a decoded frame of a layer's source; undefined where there is none
 */
export function paint(
  canvas: HTMLCanvasElement | OffscreenCanvas,
  painting: Painting,
  frameOf: (layer: Layer, index: number) => Decoded | undefined,
): void {
  if (painting.throughRaster) return magnified(canvas, painting, frameOf)
  const { layers, region, width, height, scaling, field, background = '#000' } = painting
  if (canvas.width !== width) canvas.width = width
  if (canvas.height !== height) canvas.height = height
  const context = contextOf(canvas, field !== undefined && field !== 'both')
  context.setTransform(1, 0, 0, 1, 0, 0)
  context.globalAlpha = 1
  context.fillStyle = background
  context.fillRect(0, 0, width, height)
  context.imageSmoothingEnabled = scaling !== 'pixels'
  context.imageSmoothingQuality = scaling === 'quick' ? 'low' : 'high'
  const [kx, ky] = [width / region.width, height / region.height]
  for (const layer of layers) {
    const area = drawnArea(layer.rasterMap, layer.size)
    const { crop } = layer.rasterMap
    const { across, down } = layer.size
    drawShown(
      context,
      layer.shown,
      (index) => frameOf(layer, index),
      (picture) => {
        // A decoder may hand out a picture of another size than the header states; shares hold for both.
        const { width: w, height: h } = picture as ImageBitmap
        context.drawImage(
          picture,
          (crop.left / across) * w,
          (crop.top / down) * h,
          ((across - crop.left - crop.right) / across) * w,
          ((down - crop.top - crop.bottom) / down) * h,
          (area.left - region.x) * kx,
          (area.top - region.y) * ky,
          (area.right - area.left) * kx,
          (area.bottom - area.top) * ky,
        )
      },
    )
  }
  if (field && field !== 'both') {
    const image = context.getImageData(0, 0, width, height)
    keepField(image.data, width, height, field)
    context.putImageData(image, 0, 0)
  }
}

/** Puts the pixels of a raster that were made exactly onto a canvas, in place of those of `paint`. */
export function putExactly(
  canvas: HTMLCanvasElement | OffscreenCanvas,
  { region, width, height, scaling, background = '#000' }: Painting,
  picture: ImageBitmap,
  held: Region,
): void {
  const context = contextOf(canvas, false)
  context.setTransform(1, 0, 0, 1, 0, 0)
  context.globalAlpha = 1
  context.fillStyle = background
  context.fillRect(0, 0, width, height)
  context.imageSmoothingEnabled = scaling === 'smooth'
  context.imageSmoothingQuality = 'high'
  const [kx, ky] = [width / region.width, height / region.height]
  context.drawImage(
    picture,
    (held.x - region.x) * kx,
    (held.y - region.y) * ky,
    held.width * kx,
    held.height * ky,
  )
}
