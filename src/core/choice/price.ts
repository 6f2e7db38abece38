import { type Grade } from '../toll/grade'
import type { Format } from '../format/format'
import { type Toll, tollFrom } from '../toll/charge'
import { aspectOfCharge } from '../toll/sentence'
import { type Out, type Pricing, onwardLosses } from './outgoing'
import type { Bloc } from './bloc'

/** What all footage pays in a format. Shares are of weighted running time. */
export interface Price {
  readonly format: Format
  /** 0 = nothing lost, 1 = all. Footage, and what is lost after the timeline, together. */
  readonly loss: number
  readonly untouchedShare: number
  /** The same, with what only varies in its rate. */
  readonly steadyShare: number
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
  const outOf = onwardLosses(format, pricing)
  return blocs.map((bloc) => {
    const toll = isFrameForFrame(bloc) ? withoutMotion(row.of(bloc.picture)) : row.of(bloc.picture)
    const out = outOf(isFrameForFrame(bloc) ? null : bloc.picture, toll)
    return { bloc, toll, out, loss: 1 - (1 - toll.loss) * (1 - out.loss) }
  })
}

const isFrameForFrame = ({ frameForFrame }: Bloc) => frameForFrame !== undefined

/** A toll of what is shown frame for frame, whatever the rate. */
const withoutMotion = ({ charges, untouched }: Toll): Toll =>
  tollFrom(
    charges.filter(({ kind }) => aspectOfCharge(kind) !== 'motion'),
    untouched,
  )

/** Whether nothing is done to a clip but that its rate varies: of a steady one of its nominal rate it would be free. */
const isFree = ({ grade, charges }: Toll): boolean =>
  grade === 'free' || charges.every((charge) => charge.grade === 'free' || charge.kind === 'variable-rate')

/** What a timeline loses after it where no footage decides. */
export const emptyOut = (format: Format, pricing: Pricing): Out =>
  onwardLosses(format, pricing)(null, tollFrom([]))

/** The price of a format: Σ weight · loss / Σ weight; without footage, what is lost after the timeline. */
export function priceIn(format: Format, blocs: readonly Bloc[], pricing: Pricing): Price {
  const shares: Record<Grade, number> = { free: 0, light: 0, heavy: 0, severe: 0 }
  let [weight, lost, steady] = [0, 0, 0]
  for (const { bloc, toll, loss } of faresIn(format, blocs, pricing)) {
    weight += bloc.weight
    lost += bloc.weight * loss
    if (isFree(toll)) steady += bloc.weight
    shares[toll.grade] += bloc.weight
  }
  if (weight === 0)
    return {
      format,
      loss: emptyOut(format, pricing).loss,
      untouchedShare: 1,
      steadyShare: 1,
      shareByGrade: { ...shares, free: 1 },
    }
  const { free, light, heavy, severe } = shares
  return {
    format,
    loss: lost / weight,
    untouchedShare: free / weight,
    steadyShare: steady / weight,
    shareByGrade: {
      free: free / weight,
      light: light / weight,
      heavy: heavy / weight,
      severe: severe / weight,
    },
  }
}
