import { differencesOf } from '../format/compare'
import type { Format } from '../format/format'
import type { Picture } from '../picture/picture'
import { type Treatment, plainTreatment } from '../treatment/treatment'
import type { Run } from '../treatment/run'
import { type Toll, tollFrom } from './charge'
import { colourCharges } from './kinds/colour'
import { framingCharges } from './kinds/size'
import { type Weights, defaultWeights } from './policy'
import { settleWay } from './ways'

/** What a clip pays in a format under a treatment, and how it runs there so. */
export interface Settled {
  readonly toll: Toll
  readonly way: Run
}

/** Settles a clip in a format: the way it runs, and what it pays. The one function behind prices, plans and pictures. */
export function settleToll(
  picture: Picture,
  format: Format,
  treatment: Treatment = plainTreatment,
  weights: Weights = defaultWeights,
): Settled {
  const { charges } = framingCharges(picture, format, treatment, weights)
  const { way, charges: motion } = settleWay(picture, format, treatment, weights)
  const all = [...charges, ...motion, ...colourCharges(picture, format, treatment.colour, weights)]
  const recoloured = differencesOf(picture, format).some(({ about }) => about === 'colour')
  return { way, toll: tollFrom(all, !recoloured) }
}

/** What a clip pays to run in a format under a treatment. Free when nothing happens to it. */
export const tollOf = (
  picture: Picture,
  format: Format,
  treatment: Treatment = plainTreatment,
  weights: Weights = defaultWeights,
): Toll => settleToll(picture, format, treatment, weights).toll
