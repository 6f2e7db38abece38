import type { Planes, Samples } from '../planes/planes'
import type { FieldMethod } from '../treatment/treatment'
import { movingBetween } from './moving'
import { type FieldPlane, type Moving, blended, interpolated, linesDoubled } from './plane'
import { type Parity, otherParity } from '../picture/scan'

/** A frame of woven fields with those before and after it; null at the ends of the clip. */
export interface Around {
  readonly before: Planes | null
  readonly current: Planes
  readonly after: Planes | null
}

/** Which field is made whole. */
export interface Kept {
  readonly parity: Parity
  /** Whether it is the first of its frame in time. */
  readonly isFirst: boolean
}

/** What of it the kernels do; others are measured by these. */
export interface FieldKernels {
  readonly interpolated: typeof interpolated
  readonly blended: typeof blended
  readonly movingBetween: typeof movingBetween
}
export const plainFields: FieldKernels = { interpolated, blended, movingBetween }

/** Every plane of a picture by itself, with how many samples of luma stand for one of its own. */
function eachPlane(
  planes: Planes,
  into: Planes | undefined,
  make: (plane: FieldPlane, into: Samples | null | undefined, across: number, down: number) => Samples,
): Planes {
  const { width, height, across, down, luma, chroma, alpha } = planes
  const [columns, rows] = [Math.ceil(width / across), Math.ceil(height / down)]
  const large = (samples: Samples, place?: Samples | null) => make({ width, height, samples }, place, 1, 1)
  const small = (samples: Samples, place?: Samples) =>
    make({ width: columns, height: rows, samples }, place, across, down)
  return {
    ...planes,
    luma: large(luma, into?.luma),
    chroma: chroma && { cb: small(chroma.cb, into?.chroma?.cb), cr: small(chroma.cr, into?.chroma?.cr) },
    alpha: alpha && large(alpha, into?.alpha),
  }
}

/** Both fields of a frame averaged: every line with its neighbours. */
export const blend = (planes: Planes, kernels: FieldKernels = plainFields, into?: Planes): Planes =>
  eachPlane(planes, into, (plane, place) => kernels.blended(plane, place))

/**
 * One field of a frame made whole. Adaptive: where the picture stands still, the lines of the other field are taken as they are.
 * @param into a picture that is done with, whose place it takes
 */
export function fieldMadeWhole(
  around: Around,
  kept: Kept,
  method: FieldMethod,
  kernels: FieldKernels = plainFields,
  into?: Planes,
): Planes {
  const { current: planes } = around
  if (method === 'single')
    return eachPlane(planes, into, (plane, place) => linesDoubled(plane, kept.parity, place))
  const moving = method === 'adaptive' ? movingAround(around, kept, kernels) : null
  return eachPlane(planes, into, (plane, place, across, down) =>
    kernels.interpolated(plane, kept.parity, planes.bitDepth, moving && { moving, across, down }, place),
  )
}

/** The other field just before the kept one's moment and just after it tell what moves; null where there is but one frame. */
function movingAround(
  { before, current: planes, after }: Around,
  kept: Kept,
  kernels: FieldKernels,
): Moving | null {
  const [from, to] = kept.isFirst ? [before ?? after, planes] : [planes, after ?? before]
  if (!from || !to) return null
  const plane = ({ width, height, luma }: Planes): FieldPlane => ({ width, height, samples: luma })
  return kernels.movingBetween(plane(from), plane(to), otherParity(kept.parity), planes.bitDepth)
}
