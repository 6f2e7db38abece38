import type { Sides } from '../framing/framing'

/** From nothing to pay to what one does only when there is no other way. */
export type Grade = 'free' | 'light' | 'heavy' | 'severe'

export const grades: readonly Grade[] = ['free', 'light', 'heavy', 'severe']
export const worse = (a: Grade, b: Grade): Grade => (grades.indexOf(a) >= grades.indexOf(b) ? a : b)

/** What of the colour is converted: between standard and high dynamic range, from PQ to HLG or back, or primaries alone. */
export type ColourStep = 'dynamic-range' | 'transfer' | 'primaries'

/** What a clip pays, by kind, with the figures that its sentence needs. */
export type ChargeFigures =
  | { readonly kind: 'enlarge'; readonly scaleX: number; readonly scaleY: number }
  | { readonly kind: 'reduce'; readonly scaleX: number; readonly scaleY: number; readonly headroom: number }
  | { readonly kind: 'bars'; readonly share: number; readonly bars: Sides }
  | { readonly kind: 'crop'; readonly share: number; readonly crop: Sides }
  | { readonly kind: 'distort'; readonly ratio: number }
  | { readonly kind: 'even-hold'; readonly times: number }
  | { readonly kind: 'even-skip'; readonly every: number }
  | { readonly kind: 'slip'; readonly seconds: number; readonly drops: boolean }
  | {
      readonly kind: 'uneven'
      readonly periodTimeline: number
      readonly periodSource: number
      readonly judderMs: number
    }
  | { readonly kind: 'pulldown' }
  | { readonly kind: 'blend'; readonly share: number }
  | { readonly kind: 'speed'; readonly speed: number }
  | { readonly kind: 'deinterlace'; readonly doubleRate: boolean }
  | { readonly kind: 'weave' }
  | { readonly kind: 'fields-from-frames' }
  | { readonly kind: 'field-order' }
  | { readonly kind: 'field-rescale' }
  | {
      readonly kind: 'variable-rate'
      readonly share: number
      readonly minRate: number | null
      readonly maxRate: number | null
    }
  | { readonly kind: 'colour'; readonly from: string; readonly to: string; readonly of: ColourStep }
  | { readonly kind: 'depth'; readonly from: number; readonly to: number }

export type ChargeKind = ChargeFigures['kind']

/** One charge of a toll. `loss` in [0, 1]. */
export type Charge = ChargeFigures & { readonly grade: Grade; readonly loss: number }

/** All that one clip pays in one format under one treatment. */
export interface Toll {
  readonly grade: Grade
  /** 1 − Π(1 − loss) over the charges. */
  readonly loss: number
  readonly charges: readonly Charge[]
}

export function tollFrom(charges: readonly Charge[]): Toll {
  let kept = 1
  let grade: Grade = 'free'
  for (const charge of charges) {
    kept *= 1 - charge.loss
    grade = worse(grade, charge.grade)
  }
  return { grade, loss: 1 - kept, charges }
}

/** Light up to the first limit, heavy up to the second, then severe; the limits themselves belong to the better grade. */
export function gradeBy(value: number, lightTo: number, heavyTo: number): Grade {
  // Shares come out of divisions: a limit that is met must not be missed by rounding.
  const rounding = 1e-9
  return value <= lightTo + rounding ? 'light' : value <= heavyTo + rounding ? 'heavy' : 'severe'
}
