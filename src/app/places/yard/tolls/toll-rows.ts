import type { Payment } from '../../../../core/choice/pay'
import { type Clip } from '../../../../core/model/clip'
import type { ChargeKind, Toll } from '../../../../core/toll/charge'

/** One clip in the table of tolls: what it pays at the candidate, and at the format beside it. */
export interface TollRow {
  readonly clip: Clip
  readonly toll: Toll
  readonly beside: Payment | null
}

/** Payments spread over their clips, in the order in which they are given. */
export function rowsOf(
  clips: Readonly<Record<string, Clip>>,
  payments: readonly Payment[],
  beside: readonly Payment[],
): TollRow[] {
  const besideOf = new Map(beside.flatMap((payment) => payment.ids.map((id) => [id, payment] as const)))
  const rows: TollRow[] = []
  for (const { ids, toll } of payments)
    for (const id of ids) {
      const clip = clips[id]
      if (clip) rows.push({ clip, toll, beside: besideOf.get(id) ?? null })
    }
  return rows
}

/** The kinds of charges that are paid at all, by name. */
export const kindsOf = (payments: readonly Payment[]): ChargeKind[] =>
  [...new Set(payments.flatMap(({ toll }) => toll.charges.map((charge) => charge.kind)))].sort()
