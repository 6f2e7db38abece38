import type { Format } from '../format/format'
import type { ChargeKind } from '../toll/charge'
import { leaning } from '../toll/policy'
import { tollOf } from '../toll/toll'
import { plainTreatment } from '../toll/treatment'
import { lossOnDelivery } from './price'
import type { RankOptions } from './rank'
import type { Bloc } from './vote'

/** How much of a score comes from one kind of charge, or from what delivery adds. */
export interface ScorePart {
  readonly kind: ChargeKind | 'delivery'
  readonly value: number
}

/**
 * Takes a score apart, the largest part first; the parts add up to it. The loss of a clip is shared among its charges
 * in proportion to their own losses, and delivery has what it adds to the footage.
 */
export function scoreParts(format: Format, blocs: readonly Bloc[], options: RankOptions): ScorePart[] {
  const policy = leaning(options.policy, options.lean ?? 'balanced')
  const weight = blocs.reduce((sum, bloc) => sum + bloc.weight, 0)
  const values = new Map<ScorePart['kind'], number>()
  const add = (kind: ScorePart['kind'], value: number) => values.set(kind, (values.get(kind) ?? 0) + value)
  let footage = 0
  for (const bloc of blocs) {
    const { loss, charges } = tollOf(bloc.picture, format, plainTreatment, policy)
    const charged = charges.reduce((sum, charge) => sum + charge.loss, 0)
    if (charged === 0 || weight === 0) continue
    const lost = (bloc.weight * loss) / weight
    footage += lost
    for (const charge of charges) add(charge.kind, (lost * charge.loss) / charged)
  }
  add('delivery', (1 - footage) * lossOnDelivery(format, options.deliverables ?? [], policy))
  return [...values]
    .map(([kind, value]) => ({ kind, value }))
    .filter((part) => part.value > 0)
    .sort((a, b) => b.value - a.value)
}
