import { toNumber } from '../rational/rational'
import { type Format, formatKey, formatText } from '../format/format'
import { type Ranking, type Mains, type Policy, weightsForRanking } from '../toll/policy'
import { type TollTable, tollTable } from '../toll/table'
import { candidateFormats } from './candidates'
import type { Pricing } from './outgoing'
import { type Price, priceIn } from './price'
import { reasonFor } from './reason'
import { isUpright } from '../picture/size'
import { countedBlocs } from './vote'
import type { Bloc } from './bloc'

/** A format with its price for all footage, and why it stands where it stands. */
export interface Candidate extends Price {
  readonly reason: string
}

export interface RankOptions {
  readonly deliverables?: readonly Format[]
  readonly lean?: Ranking
  readonly policy: Policy
  /** The region that the film is made for; null where it is not known. */
  readonly mains?: Mains | null
  /** Formats that the editor tries, priced along with the others. */
  readonly tried?: readonly Format[]
  /** Sentences are only made for so many of the best; the rest have none. */
  readonly explained?: number
  /** Tolls that are known already under these weights. */
  readonly table?: TollTable
}

/** What prices are worked out from under some options. */
export const pricingOf = ({
  policy,
  lean = 'balanced',
  deliverables = [],
  mains = null,
  table,
}: RankOptions): Pricing => ({
  table: table ?? tollTable(weightsForRanking(policy, lean)),
  deliverables,
  mains,
})

/** Prices every candidate for the footage and puts the best first. Does not depend on the order of the blocs. */
export function rank(all: readonly Bloc[], options: RankOptions): Candidate[] {
  const { policy, lean = 'balanced', tried = [], explained = Infinity } = options
  const pricing = pricingOf(options)
  const { deliverables, mains } = pricing
  const blocs = countedBlocs(all, policy)
  return candidateFormats(blocs, { deliverables, mains, policy, lean }, tried)
    .map((format) => priceIn(format, blocs, pricing))
    .sort((a, b) => comparePrices(a, b, lean))
    .map((price, i) => ({
      ...price,
      reason: i < explained ? reasonFor(price.format, blocs, pricing) : '',
    }))
}

/** The price of one format, sentence included. */
export function priceOf(format: Format, all: readonly Bloc[], options: RankOptions): Candidate {
  const pricing = pricingOf(options)
  const blocs = countedBlocs(all, options.policy)
  return { ...priceIn(format, blocs, pricing), reason: reasonFor(format, blocs, pricing) }
}

/** By its name; formats of one name differ in colour or field order. */
const nameOf = (format: Format) => `${formatText(format)} ${formatKey(format)}`

/** Differences of rounding are none. */
const beyondDust = (x: number) => (Math.abs(x) < 1e-9 ? 0 : x)

/**
 * Better first. What ties is settled by the larger share that is free, progressive before interlaced, fewer pixels, lying
 * before upright, a lower rate, and last by name.
 */
export function comparePrices(a: Price, b: Price, lean: Ranking): number {
  const freer = beyondDust(b.untouchedShare - a.untouchedShare)
  return (
    (lean === 'majority' ? beyondDust(b.steadyShare - a.steadyShare) : 0) ||
    beyondDust(a.loss - b.loss) ||
    freer ||
    Number(a.format.scan === 'interlaced') - Number(b.format.scan === 'interlaced') ||
    a.format.width * a.format.height - b.format.width * b.format.height ||
    Number(isUpright(a.format)) - Number(isUpright(b.format)) ||
    toNumber(a.format.rate) - toNumber(b.format.rate) ||
    (nameOf(a.format) < nameOf(b.format) ? -1 : 1)
  )
}
