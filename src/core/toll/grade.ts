/** From nothing to pay to what one does only when there is no other way. */
export type Grade = 'free' | 'light' | 'heavy' | 'severe'

export const grades: readonly Grade[] = ['free', 'light', 'heavy', 'severe']
export const worse = (a: Grade, b: Grade): Grade => (grades.indexOf(a) >= grades.indexOf(b) ? a : b)

/** What raises a price: `loss` in [0, 1]. */
export interface Priced {
  readonly grade: Grade
  readonly loss: number
}

/** Light up to the first limit, heavy up to the second, then severe; the limits themselves belong to the better grade. */
export function gradeBy(value: number, lightTo: number, heavyTo: number): Grade {
  // Shares come out of divisions: a limit that is met must not be missed by rounding.
  const rounding = 1e-9
  return value <= lightTo + rounding ? 'light' : value <= heavyTo + rounding ? 'heavy' : 'severe'
}
