import { type Grade } from '../toll/grade'
import type { Format } from '../format/format'
import { type Toll, tollFrom } from '../toll/charge'
import { type Out, type Pricing, outgoing } from './outgoing'
import type { Bloc } from './vote'

/** What all footage pays in a format. Shares are of weighted running time. */
export interface Price {
  readonly format: Format
  /** 0 = nothing lost, 1 = all. Footage, and what is lost after the timeline, together. */
  readonly score: number
  readonly untouchedShare: number
  readonly shareByGrade: Readonly<Record<Grade, number>>
}

/** One bloc in a format: what it pays there, what is lost after, and both together. */
export interface Fare {
  readonly bloc: Bloc
  readonly toll: Toll
  readonly out: Out
  /** 1 − (1 − toll)(1 − out). */
  readonly loss: number
}

/** What every bloc pays in a format and after it. */
export function faresIn(format: Format, blocs: readonly Bloc[], pricing: Pricing): Fare[] {
  const row = pricing.table.at(format)
  const outOf = outgoing(format, pricing)
  return blocs.map((bloc) => {
    const toll = row.of(bloc.picture)
    const out = outOf(bloc.picture, toll)
    return { bloc, toll, out, loss: 1 - (1 - toll.loss) * (1 - out.loss) }
  })
}

/** What a timeline loses after it where no footage decides. */
export const emptyOut = (format: Format, pricing: Pricing): Out =>
  outgoing(format, pricing)(null, tollFrom([]))

/** The price of a format: Σ weight · loss / Σ weight; without footage, what is lost after the timeline. */
export function priceIn(format: Format, blocs: readonly Bloc[], pricing: Pricing): Price {
  const shares: Record<Grade, number> = { free: 0, light: 0, heavy: 0, severe: 0 }
  let [weight, lost] = [0, 0]
  for (const { bloc, toll, loss } of faresIn(format, blocs, pricing)) {
    weight += bloc.weight
    lost += bloc.weight * loss
    shares[toll.grade] += bloc.weight
  }
  if (weight === 0)
    return {
      format,
      score: emptyOut(format, pricing).loss,
      untouchedShare: 1,
      shareByGrade: { ...shares, free: 1 },
    }
  const { free, light, heavy, severe } = shares
  return {
    format,
    score: lost / weight,
    untouchedShare: free / weight,
    shareByGrade: {
      free: free / weight,
      light: light / weight,
      heavy: heavy / weight,
      severe: severe / weight,
    },
  }
}
