/** Figures of five dots across and seven down, a row in each number, the left dot the highest bit. */
const dots: readonly (readonly number[])[] = [
  [14, 17, 19, 21, 25, 17, 14],
  [4, 12, 4, 4, 4, 4, 14],
  [14, 17, 1, 2, 4, 8, 31],
  [31, 2, 4, 2, 1, 17, 14],
  [2, 6, 10, 18, 31, 2, 2],
  [31, 16, 30, 1, 1, 17, 14],
  [6, 8, 16, 30, 17, 17, 14],
  [31, 1, 2, 4, 8, 8, 8],
  [14, 17, 17, 14, 17, 17, 14],
  [14, 17, 17, 15, 1, 2, 12],
]
/** Dots from the left of one figure to the left of the next. */
export const [dotsAcross, dotsDown] = [6, 7] as const

/** Whether a dot of a number is lit, counted from its top left. */
export function isLit(text: string, x: number, y: number): boolean {
  const digit = Number(text[Math.floor(x / dotsAcross)])
  const row = dots[digit]?.[y] ?? 0
  return (row & (1 << (4 - (x % dotsAcross)))) !== 0
}
