import { toNumber } from '../rational/rational'
import { type Format, formatText } from '../format/format'
import type { Grade } from '../toll/charge'
import { type Lean, type Policy, leaning } from '../toll/policy'
import { pictureOfFormat, tollOf } from '../toll/toll'
import { plainTreatment } from '../toll/treatment'
import { candidateFormats } from './candidates'
import { type Priced, reasonFor } from './reason'
import type { Bloc } from './vote'

/** A format with its price for all footage. Shares are of weighted running time. */
export interface Candidate {
  readonly format: Format
  /** 0 = nothing lost, 1 = all. Footage and delivery together. */
  readonly score: number
  readonly footageLoss: number
  readonly deliveryLoss: number
  readonly untouchedShare: number
  readonly shareByGrade: Readonly<Record<Grade, number>>
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
  const candidates = candidateFormats(blocs, deliverables, tried).map((format) => ({
    ...price(format, blocs, deliverables, policy),
    text: formatText(format),
  }))
  candidates.sort((a, b) => compareCandidates(a, b, lean))
  return candidates.map(({ priced, text: _, ...candidate }, i) => ({
    ...candidate,
    reason: i < explained ? reasonFor(candidate.format, priced, deliverables, policy) : '',
  }))
}

/** The price of one format, sentence included. */
export function priceOf(format: Format, blocs: readonly Bloc[], options: RankOptions): Candidate {
  const policy = leaning(options.policy, options.lean ?? 'balanced')
  const { priced, ...candidate } = price(format, blocs, options.deliverables ?? [], policy)
  return { ...candidate, reason: reasonFor(format, priced, options.deliverables ?? [], policy) }
}

function price(format: Format, blocs: readonly Bloc[], deliverables: readonly Format[], policy: Policy) {
  const priced: Priced[] = []
  const shareByGrade: Record<Grade, number> = { free: 0, light: 0, heavy: 0, severe: 0 }
  let [weight, lost] = [0, 0]
  for (const bloc of blocs) {
    const toll = tollOf(bloc.picture, format, plainTreatment, policy)
    priced.push({ bloc, toll })
    weight += bloc.weight
    lost += bloc.weight * toll.loss
    shareByGrade[toll.grade] += bloc.weight
  }
  for (const grade of Object.keys(shareByGrade) as Grade[])
    shareByGrade[grade] = weight > 0 ? shareByGrade[grade] / weight : 0
  const footageLoss = weight > 0 ? lost / weight : 0
  const asClip = pictureOfFormat(format)
  const deliveryLoss =
    1 - deliverables.reduce((kept, d) => kept * (1 - tollOf(asClip, d, plainTreatment, policy).loss), 1)
  return {
    format,
    score: 1 - (1 - footageLoss) * (1 - deliveryLoss),
    footageLoss,
    deliveryLoss,
    untouchedShare: shareByGrade.free,
    shareByGrade,
    priced,
  }
}

type Ranked = Omit<Candidate, 'reason'> & { readonly text: string }

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
