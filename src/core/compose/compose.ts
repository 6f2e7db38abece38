import { present } from '../assert'
import type { FieldKernels } from '../fields/deinterlace'
import type { Planes, Samples } from '../planes/planes'
import type { PlaneKernel } from '../resample/plane'
import { blackOf } from './colour'
import { type Area, type Ground, type LayerRaster, type LayerPlacing, layerRaster } from './layer-raster'
import { type FrameOf, type ArrangedLayer, fieldArrangementOf } from './field-arrangement'

/** A layer as it is composed: what of its source is shown, how it lies, and where its frames come from. */
export interface Composed extends ArrangedLayer, LayerPlacing {
  readonly frameOf: FrameOf
}

/** What does the work: the references, or what is equal to them and faster. */
export interface ComposeKernels {
  readonly resample: PlaneKernel
  readonly fields: FieldKernels
}

/**
 * An area of a raster with its layers, bottom to top, each scaled once from its source by the exact kernels; black where none is.
 * @param area begins on a pixel that has colour of its own
 */
export function compose(
  layers: readonly Composed[],
  ground: Ground,
  area: Area,
  { resample, fields }: ComposeKernels,
): Planes {
  const raster = blackRaster(ground, area)
  for (const layer of layers) {
    const standing = fieldArrangementOf(layer, layer.frameOf, fields)
    if (!standing) continue
    const lay = (picture: Parameters<typeof layerRaster>[0]) =>
      layerRaster(picture, layer, ground, area, resample)
    if (standing.kind === 'whole') put(raster, lay(standing.picture), area, 0, 1)
    else {
      // Lines of the raster's own fields, counted from its top and not from the area's.
      const first = (((0 - area.y) % 2) + 2) % 2
      put(raster, lay(standing.top), area, first, 2)
      put(raster, lay(standing.bottom), area, 1 - first, 2)
    }
  }
  return raster
}

function blackRaster({ meaning, bitDepth, siting }: Ground, { width, height }: Area): Planes {
  const black = blackOf(meaning, bitDepth)
  const room = (count: number, value: number) =>
    (bitDepth > 8 ? new Uint16Array(count) : new Uint8Array(count)).fill(value)
  const [across, down] = [siting.across.every, siting.down.every]
  const colours = Math.ceil(width / across) * Math.ceil(height / down)
  const chroma = { cb: room(colours, black.chroma), cr: room(colours, black.chroma) }
  const luma = room(width * height, black.luma)
  return { width, height, bitDepth, across, down, luma, chroma, alpha: null }
}

/** Puts what is laid over a raster, on every line or on every second one from a first one on, in code values, rounded half up. */
function put(raster: Planes, over: LayerRaster | null, area: Area, first: number, every: number): void {
  if (!over) return
  const { planes, chromaAlpha } = over
  const { across, down } = raster
  const under = present(raster.chroma, 'a raster has colour')
  const colour = present(planes.chroma, 'what is laid has the colour of its ground')
  const most = 2 ** raster.bitDepth - 1
  const lay = (into: Samples, samples: Samples, alpha: Samples | null, x: number, y: number) => {
    const [left, top] = [(over.area.x - area.x) / x, (over.area.y - area.y) / y]
    const [width, height] = [Math.ceil(over.area.width / x), Math.ceil(over.area.height / y)]
    const stride = Math.ceil(raster.width / x)
    for (let row = 0; row < height; row++) {
      if ((top + row - first) % every !== 0) continue
      const [to, from] = [(top + row) * stride + left, row * width]
      if (!alpha) into.set(samples.subarray(from, from + width), to)
      else
        for (let i = 0; i < width; i++) {
          const below = into[to + i] as number
          const share = (alpha[from + i] as number) / most
          into[to + i] = Math.floor(below + ((samples[from + i] as number) - below) * share + 0.5)
        }
    }
  }
  lay(raster.luma, planes.luma, planes.alpha, 1, 1)
  lay(under.cb, colour.cb, chromaAlpha, across, down)
  lay(under.cr, colour.cr, chromaAlpha, across, down)
}
