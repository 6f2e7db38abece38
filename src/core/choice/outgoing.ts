import { type Format, pictureOfFormat } from '../format/format'
import { equal } from '../rational/rational'
import type { Rate } from '../rate/rate'
import type { Charge, Toll } from '../toll/charge'
import { type Picture } from '../picture/picture'
import { isUpright, square } from '../picture/size'
import { plainTreatment, treated } from '../treatment/treatment'
import type { Mains, Weights } from '../toll/policy'
import type { TollTable } from '../toll/table'
import { tollOf } from '../toll/toll'
import { isForeignRate, rateKey } from './rates'

/** What a timeline loses on its way out, by reason: what is delivered, the screen it is seen on, its fields, the region. */
export interface OutTerm {
  readonly kind: 'delivery' | 'screen' | 'interlaced' | 'region'
  readonly loss: number
  /** What is paid on the way; empty for fields and region. */
  readonly charges: readonly Charge[]
  /** The format that the timeline is carried to; null for fields and region. */
  readonly to: Format | null
}

/** What a clip loses after the timeline: its terms, and 1 − Π(1 − loss) over them. */
export interface Out {
  readonly loss: number
  readonly terms: readonly OutTerm[]
}

/** What prices are worked out from besides the footage: tolls under some weights, and what is known of where the timeline goes. */
export interface Pricing {
  readonly table: TollTable
  readonly deliverables: readonly Format[]
  readonly mains: Mains | null
}

const outOf = (terms: readonly OutTerm[]): Out => ({
  loss: 1 - terms.reduce((kept, term) => kept * (1 - term.loss), 1),
  terms: terms.filter((term) => term.loss > 0 || term.to),
})

/**
 * What is lost after a timeline of a format, for one clip and its toll there. Where deliverables are known, the timeline is
 * carried to each by fit or fill, whichever costs less; else it is taken to be seen on an HD screen that is progressive.
 */
export function onwardLosses(format: Format, pricing: Pricing): (picture: Picture | null, toll: Toll) => Out {
  const known = new Map<string, Out>()
  return (picture, toll) => {
    const rate = picture && wholeRate(picture, toll)
    const key = rate ? rateKey(rate) : ''
    let out = known.get(key)
    if (!out)
      known.set(
        key,
        (out = outOf(
          pricing.deliverables.length > 0
            ? pricing.deliverables.map((to) => carried(format, rate, to, pricing.table.weights))
            : unknownTerms(format, pricing),
        )),
      )
    return out
  }
}

/** Charges of motion after which a clip's frames no longer come out one by one. */
const broken: ReadonlySet<Charge['kind']> = new Set(['even-skip', 'slip', 'uneven', 'fields-from-frames'])

/** The rate at which a clip leaves the timeline progressive again: its own, where the timeline shows it whole, holds it evenly or pulls it down. */
const wholeRate = ({ scan, rate }: Picture, toll: Toll): Rate | null =>
  scan !== 'interlaced' && rate && !toll.charges.some((charge) => broken.has(charge.kind)) ? rate : null

/** A timeline carried to a deliverable, with a clip in it that may leave at its own rate. */
function carried(format: Format, rate: Rate | null, to: Format, weights: Weights): OutTerm {
  const asItRuns = to.scan === format.scan && equal(to.rate, format.rate)
  const picture: Picture = {
    ...pictureOfFormat(format),
    ...(rate && !asItRuns ? { rate, scan: 'progressive' as const, fieldOrder: null } : {}),
  }
  const [fit, fill] = [
    tollOf(picture, to, plainTreatment, weights),
    tollOf(picture, to, treated([{ framing: { mode: { kind: 'fill' } } }]), weights),
  ]
  const { loss, charges } = fill.loss < fit.loss - 1e-12 ? fill : fit
  return { kind: 'delivery', loss, charges, to }
}

/** Where no delivery is known, the timeline will be seen on at least HD, on progressive screens, in the editor's region. */
function unknownTerms(format: Format, { mains, table: { weights } }: Pricing): OutTerm[] {
  const terms: OutTerm[] = []
  const [width, height] = isUpright(format) ? [1080, 1920] : [1920, 1080]
  const screen: Format = { ...format, width, height, pixelAspect: square }
  const enlarge = tollOf(pictureOfFormat(format), screen, plainTreatment, weights).charges.find(
    (charge) => charge.kind === 'enlarge',
  )
  if (enlarge)
    terms.push({ kind: 'screen', loss: weights.screen * enlarge.loss, charges: [enlarge], to: screen })
  const without = (kind: OutTerm['kind'], loss: number) => terms.push({ kind, loss, charges: [], to: null })
  if (format.scan === 'interlaced') without('interlaced', weights.interlacedOut)
  if (isForeignRate(format.rate, mains)) without('region', weights.foreignRate)
  return terms
}
