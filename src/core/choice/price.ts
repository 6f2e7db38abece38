import { type Format, sizeText } from '../format/format'
import { type Grade, grades, tollFrom } from '../toll/charge'
import { motionCharges } from '../toll/motion-charges'
import { colourCharges, framingCharges } from '../toll/picture-charges'
import type { Policy } from '../toll/policy'
import { pictureOfFormat, tollOf } from '../toll/toll'
import { plainTreatment } from '../toll/treatment'
import type { Bloc } from './vote'

/** What all footage pays in a format. Shares are of weighted running time. */
export interface Price {
  readonly format: Format
  /** 0 = nothing lost, 1 = all. Footage and delivery together. */
  readonly score: number
  readonly footageLoss: number
  readonly deliveryLoss: number
  readonly untouchedShare: number
  readonly shareByGrade: Readonly<Record<Grade, number>>
}

/** What one bloc keeps in one respect, and how bad it is (index in `grades`). */
interface Part {
  readonly kept: number
  readonly grade: number
}

/** Remembers what was made under a key. */
function remembering<T>(): (key: string, make: () => T) => T {
  const known = new Map<string, T>()
  return (key, make) => {
    let value = known.get(key)
    if (value === undefined) known.set(key, (value = make()))
    return value
  }
}

/**
 * Prices formats for a ballot. What a frame size, a rate with its scan, and a colour cost each bloc is worked out once,
 * however many formats share them: many sizes times many rates stay quick.
 */
export function pricing(
  blocs: readonly Bloc[],
  deliverables: readonly Format[],
  policy: Policy,
): (format: Format) => Price {
  const partOf = (charges: Parameters<typeof tollFrom>[0]): Part => {
    const { loss, grade } = tollFrom(charges)
    return { kept: 1 - loss, grade: grades.indexOf(grade) }
  }
  const sizes = remembering<{ parts: Part[]; fits: ReturnType<typeof framingCharges>['fit'][] }>()
  const motions = remembering<Record<'scaled' | 'unscaled', Part[]>>()
  const colours = remembering<Part[]>()
  const weight = blocs.reduce((sum, bloc) => sum + bloc.weight, 0)

  return (format) => {
    const size = sizes(sizeText(format), () => {
      const framed = blocs.map((bloc) => framingCharges(bloc.picture, format, plainTreatment, policy))
      return { parts: framed.map((f) => partOf(f.charges)), fits: framed.map((f) => f.fit) }
    })
    const colour = colours(JSON.stringify(format.colour), () =>
      blocs.map((bloc) => partOf(colourCharges(bloc.picture, format, policy))),
    )
    // Of the size, fields only mind whether their lines are scaled.
    const motion = motions(
      `${format.rate.num}/${format.rate.den} ${format.scan} ${format.fieldOrder}`,
      () => ({
        scaled: [],
        unscaled: [],
      }),
    )
    const shares = [0, 0, 0, 0]
    let lost = 0
    for (let i = 0; i < blocs.length; i++) {
      const fit = size.fits[i]
      const parts = fit.scaleY === 1 ? motion.unscaled : motion.scaled
      const moved = (parts[i] ??= partOf(
        motionCharges(blocs[i].picture, format, fit, plainTreatment, policy),
      ))
      lost += blocs[i].weight * (1 - size.parts[i].kept * moved.kept * colour[i].kept)
      shares[Math.max(size.parts[i].grade, moved.grade, colour[i].grade)] += blocs[i].weight
    }
    const [free, light, heavy, severe] = weight > 0 ? shares.map((share) => share / weight) : shares
    const footageLoss = weight > 0 ? lost / weight : 0
    const deliveryLoss = lossOnDelivery(format, deliverables, policy)
    return {
      format,
      score: 1 - (1 - footageLoss) * (1 - deliveryLoss),
      footageLoss,
      deliveryLoss,
      untouchedShare: free,
      shareByGrade: { free, light, heavy, severe },
    }
  }
}

/** What a timeline in a format loses on its way to everything that is delivered. */
export function lossOnDelivery(format: Format, deliverables: readonly Format[], policy: Policy): number {
  const asClip = pictureOfFormat(format)
  return 1 - deliverables.reduce((kept, d) => kept * (1 - tollOf(asClip, d, plainTreatment, policy).loss), 1)
}
