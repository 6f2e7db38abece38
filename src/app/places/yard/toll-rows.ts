import type { Payment } from '../../../core/choice/pay'
import type { Clip } from '../../../core/edit/project'
import type { ChargeKind } from '../../../core/toll/charge'

/** One clip in the table of tolls: what it pays at the candidate, and at the format beside it. */
export interface TollRow extends Payment {
  readonly clip: Clip
  readonly beside: Payment | null
}

/** Payments spread over their clips, in the order in which they are given. */
export function rowsOf(
  clips: Readonly<Record<string, Clip>>,
  payments: readonly Payment[],
  beside: readonly Payment[],
): TollRow[] {
  const besideOf = new Map(beside.flatMap((payment) => payment.ids.map((id) => [id, payment] as const)))
  return payments.flatMap((payment) =>
    payment.ids.map((id) => ({ ...payment, clip: clips[id], beside: besideOf.get(id) ?? null })),
  )
}

/** The kinds of charges that are paid at all, by name. */
export const kindsOf = (payments: readonly Payment[]): ChargeKind[] =>
  [...new Set(payments.flatMap(({ toll }) => toll.charges.map((charge) => charge.kind)))].sort()
