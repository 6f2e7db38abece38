import type { Format } from '../format/format'
import { type Toll, tollFrom } from './charge'
import { motionCharges } from './motion-charges'
import type { Picture } from './picture'
import { colourCharges, framingCharges } from './picture-charges'
import { type Weights, defaultWeights } from './policy'
import { type Treatment, plainTreatment } from './treatment'

/** What a clip pays to run in a format under a treatment. Free when nothing happens to it. */
export function tollOf(
  picture: Picture,
  format: Format,
  treatment: Treatment = plainTreatment,
  weights: Weights = defaultWeights,
): Toll {
  const { charges, fit } = framingCharges(picture, format, treatment, weights)
  return tollFrom([
    ...charges,
    ...motionCharges(picture, format, fit, treatment, weights),
    ...colourCharges(picture, format, weights),
  ])
}

/** A format as if it were a clip: what it pays when a timeline is carried to a deliverable. */
export const pictureOfFormat = (format: Format): Picture => ({
  width: format.width,
  height: format.height,
  pixelAspect: format.pixelAspect,
  rotation: 0,
  rate: format.rate,
  scan: format.scan,
  fieldOrder: format.fieldOrder,
  offNominalShare: null,
  minRate: null,
  maxRate: null,
  primaries: format.colour.primaries,
  transfer: format.colour.transfer,
  bitDepth: format.colour.bitDepth,
})
