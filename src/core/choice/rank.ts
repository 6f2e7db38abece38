import { toNumber } from '../rational/rational'
import { type Format, formatText } from '../format/format'
import { type Lean, type Policy, leaning } from '../toll/policy'
import { candidateFormats } from './candidates'
import { type Price, pricing } from './price'
import { reasonFor } from './reason'
import type { Bloc } from './vote'

/** A format with its price for all footage, and why it stands where it stands. */
export interface Candidate extends Price {
  readonly reason: string
}

export interface RankOptions {
  readonly deliverables?: readonly Format[]
  readonly lean?: Lean
  readonly policy: Policy
  /** Formats that the editor tries, priced along with the others. */
  readonly tried?: readonly Format[]
  /** Sentences are only made for so many of the best; the rest have none. */
  readonly explained?: number
}

/** Prices every candidate for the footage and puts the best first. Does not depend on the order of the blocs. */
export function rank(blocs: readonly Bloc[], options: RankOptions): Candidate[] {
  const { deliverables = [], lean = 'balanced', tried = [], explained = Infinity } = options
  const policy = leaning(options.policy, lean)
  const priced = candidateFormats(blocs, deliverables, tried).map(pricing(blocs, deliverables, policy))
  priced.sort((a, b) => comparePrices(a, b, lean))
  return priced.map((price, i) => ({
    ...price,
    reason: i < explained ? reasonFor(price.format, blocs, deliverables, policy) : '',
  }))
}

/** The price of one format, sentence included. */
export function priceOf(format: Format, blocs: readonly Bloc[], options: RankOptions): Candidate {
  const { deliverables = [], lean = 'balanced' } = options
  const policy = leaning(options.policy, lean)
  return {
    ...pricing(blocs, deliverables, policy)(format),
    reason: reasonFor(format, blocs, deliverables, policy),
  }
}

/** Differences of rounding are none. */
const beyondDust = (x: number) => (Math.abs(x) < 1e-9 ? 0 : x)

/** Better first. What ties is settled by progressive before interlaced, fewer pixels, a lower rate, and last by name. */
function comparePrices(a: Price, b: Price, lean: Lean): number {
  return (
    (lean === 'majority' ? beyondDust(b.untouchedShare - a.untouchedShare) : 0) ||
    beyondDust(a.score - b.score) ||
    Number(a.format.scan === 'interlaced') - Number(b.format.scan === 'interlaced') ||
    a.format.width * a.format.height - b.format.width * b.format.height ||
    toNumber(a.format.rate) - toNumber(b.format.rate) ||
    (formatText(a.format) < formatText(b.format) ? -1 : 1)
  )
}
