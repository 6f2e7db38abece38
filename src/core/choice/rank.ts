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
  const priceIn = pricing(blocs, deliverables, policy)
  const candidates = candidateFormats(blocs, deliverables, tried).map((format) => ({
    ...priceIn(format),
    text: formatText(format),
  }))
  candidates.sort((a, b) => compareCandidates(a, b, lean))
  return candidates.map(({ text: _, ...price }, i) => ({
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

type Ranked = Price & { readonly text: string }

/** Better first. What ties is settled by progressive before interlaced, fewer pixels, a lower rate, and last by name. */
function compareCandidates(a: Ranked, b: Ranked, lean: Lean): number {
  const close = (x: number) => (Math.abs(x) < 1e-9 ? 0 : x)
  return (
    (lean === 'majority' ? close(b.untouchedShare - a.untouchedShare) : 0) ||
    close(a.score - b.score) ||
    Number(a.format.scan === 'interlaced') - Number(b.format.scan === 'interlaced') ||
    a.format.width * a.format.height - b.format.width * b.format.height ||
    toNumber(a.format.rate) - toNumber(b.format.rate) ||
    (a.text < b.text ? -1 : 1)
  )
}
