import { type Grade, type Priced, worse } from './grade'
import type { ColourFigures } from './kinds/colour'
import type { FieldFigures } from './kinds/fields'
import type { MotionFigures } from './kinds/motion'
import type { SizeFigures } from './kinds/size'

/** What a clip pays, by kind, with the figures that its sentence needs. */
export type ChargeFigures = SizeFigures | MotionFigures | FieldFigures | ColourFigures

export type ChargeKind = ChargeFigures['kind']

/** One charge of a toll. One of grade free is told and costs nothing. */
export type Charge = ChargeFigures & Priced

/** All that one clip pays in one format under one treatment. */
export interface Toll {
  readonly grade: Grade
  /** 1 − Π(1 − loss) over the charges. */
  readonly loss: number
  /** Nothing at all is done to its picture: no charge, and nothing told. */
  readonly untouched: boolean
  readonly charges: readonly Charge[]
}

/** @param alike whether nothing is done to the picture that no charge tells (another matrix alone) */
export function tollFrom(charges: readonly Charge[], alike = true): Toll {
  let kept = 1
  let grade: Grade = 'free'
  for (const charge of charges) {
    kept *= 1 - charge.loss
    grade = worse(grade, charge.grade)
  }
  return { grade, loss: 1 - kept, untouched: alike && charges.length === 0, charges }
}
