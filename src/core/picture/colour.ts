import * as z from 'zod'
import { isStandardDefinition } from './size'

/** Colour as ITU-T H.273 code points, named; null where the file does not say. */
export const Colour = z
  .object({
    primaries: z.string().nullable().default(null),
    transfer: z.string().nullable().default(null),
    matrix: z.string().nullable().default(null),
    range: z.enum(['full', 'limited']).nullable().default(null),
  })
  .readonly()
export type Colour = z.infer<typeof Colour>

export const unknownColour: Colour = { primaries: null, transfer: null, matrix: null, range: null }

/** Samples that are no picture for a display: light of a scene, a camera's logarithm, what a sensor gave. */
export type NotForDisplay = 'linear' | 'log' | 'raw'
export const isNotForDisplay = (transfer: string | null): transfer is NotForDisplay =>
  transfer === 'linear' || transfer === 'log' || transfer === 'raw'

/** Whether a transfer is of high dynamic range (ITU-R BT.2100). */
export const isHdr = (transfer: string | null): boolean => transfer === 'pq' || transfer === 'hlg'

/**
 * The matrix that a picture is coded with: as stated, else what its primaries or its size mean — BT.2020 for BT.2020, BT.601
 * for standard definition (625 lines where it has more than 486), BT.709 for all else.
 */
export function matrixOf(
  size: { readonly width: number; readonly height: number },
  { matrix, primaries }: { readonly matrix?: string | null; readonly primaries: string | null },
): string {
  if (matrix) return matrix
  if (primaries === 'bt2020') return 'bt2020'
  if (!isStandardDefinition(size)) return 'bt709'
  return Math.min(size.width, size.height) > 486 ? 'bt601-625' : 'bt601-525'
}

/** Matrices of one family compute alike: BT.601 has one set of coefficients for both line counts. */
const family = (matrix: string): string => (matrix.startsWith('bt601') ? 'bt601' : matrix)

export const matricesDiffer = (a: string, b: string): boolean => family(a) !== family(b)
