import { plainFields } from '../fields/deinterlace'
import { simdFields } from '../fields/simd'
import { mapToRaster } from '../framing/raster-map'
import type { Planes } from '../planes/planes'
import type { Meaning } from '../planes/screen'
import { rational } from '../rational/rational'
import { chromaSiting, wholeChroma } from '../resample/picture'
import { resamplePlane } from '../resample/plane'
import { simdResample } from '../resample/simd'
import { type FramingOverride, plainTreatment } from '../treatment/treatment'
import type { Composed } from './compose'
import type { StoredPicture } from './stored'

export const meaning: Meaning = { matrix: 'bt709', primaries: 'bt709', transfer: 'bt709', range: 'limited' }
export const ground = { meaning, bitDepth: 8, siting: wholeChroma }
/** As deliverables in 4:2:0 have it. */
export const halved = { ...ground, siting: chromaSiting({ across: 2, down: 2 }, '') }
export const plain = { resample: resamplePlane, fields: plainFields }
export const fast = { resample: simdResample(), fields: simdFields() }
export const squarePixels = rational(1)

/** A picture whose every sample is told by where it is. */
export function drawnPlanes(width: number, height: number, subsampled = true, seed = 0): StoredPicture {
  const [across, down] = subsampled ? [2, 2] : [1, 1]
  const [w, h] = [Math.ceil(width / across), Math.ceil(height / down)]
  const plane = (columns: number, count: number, salt: number) =>
    Uint8Array.from({ length: count }, (_, i) => {
      const [x, y] = [i % columns, Math.floor(i / columns)]
      return 40 + ((x * 37 + y * 59 + x * y * 7 + salt * 31 + seed * 13) % 160)
    })
  const planes: Planes = {
    width,
    height,
    bitDepth: 8,
    across,
    down,
    luma: plane(width, width * height, 0),
    chroma: { cb: plane(w, w * h, 1), cr: plane(w, w * h, 2) },
    alpha: null,
  }
  return { planes, meaning, siting: chromaSiting({ across, down }, '') }
}

export function layer(
  picture: StoredPicture,
  frame: { width: number; height: number },
  set: FramingOverride = {},
): Composed {
  const framing = { ...plainTreatment.framing, ...set }
  const { width, height } = picture.planes
  const { zoom, filter, sharpen, reduction } = framing
  return {
    shown: { kind: 'frame', index: 0 },
    rasterMap: mapToRaster(
      { width, height, pixelAspect: squarePixels, rotation: 0 },
      { ...frame, pixelAspect: squarePixels },
      framing,
    ),
    inFields: null,
    fieldOrder: null,
    zoom,
    filter,
    sharpen,
    reduction,
    colour: 'auto',
    frameOf: () => picture,
  }
}
export const raster = (width: number, height: number) => ({ x: 0, y: 0, width, height })
export const pixel = ({ width, luma }: Planes, x: number, y: number) => luma[y * width + x]
