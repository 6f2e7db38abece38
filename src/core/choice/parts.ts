import type { Format } from '../format/format'
import type { ChargeKind } from '../toll/charge'
import type { OutTerm } from './outgoing'
import { emptyOut, faresIn } from './price'
import { type RankOptions, pricingOf } from './rank'
import { countedBlocs } from './vote'
import { totalWeight } from './weight'
import type { Bloc } from './bloc'

/** How much of a loss comes from one kind of charge, or from one reason after the timeline. */
export interface LossPart {
  readonly kind: ChargeKind | OutTerm['kind']
  readonly value: number
}

/**
 * Takes a loss apart, the largest part first; the parts add up to it. The loss of a clip is shared among its charges in
 * proportion to their own losses; what is lost after the timeline has what it adds to that, shared in the same way.
 */
export function lossParts(format: Format, all: readonly Bloc[], options: RankOptions): LossPart[] {
  const pricing = pricingOf(options)
  const blocs = countedBlocs(all, options.policy)
  const values = new Map<LossPart['kind'], number>()
  const share = (lost: number, among: readonly { kind: LossPart['kind']; loss: number }[]) => {
    const sum = among.reduce((total, part) => total + part.loss, 0)
    if (sum > 0)
      for (const { kind, loss } of among) values.set(kind, (values.get(kind) ?? 0) + (lost * loss) / sum)
  }
  const weight = totalWeight(blocs)
  if (weight === 0) {
    const { loss, terms } = emptyOut(format, pricing)
    share(loss, terms)
  } else {
    for (const { bloc, toll, out, loss } of faresIn(format, blocs, pricing)) {
      share((bloc.weight * toll.loss) / weight, toll.charges)
      share((bloc.weight * (loss - toll.loss)) / weight, out.terms)
    }
  }
  return [...values]
    .map(([kind, value]) => ({ kind, value }))
    .filter((part) => part.value > 0)
    .sort((a, b) => b.value - a.value)
}
