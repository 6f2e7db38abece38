import type { Planes, Samples } from '../planes/planes'
import type { FieldMethod } from '../treatment/treatment'
import { type Moving, blockSide, movingBetween } from './moving'
import { type FieldPlane, type Parity, blended, doubled, firstLine, interpolated, otherParity } from './plane'

/** A frame of woven fields with those before and after it; null at the ends of the clip. */
export interface Around {
  readonly before: Planes | null
  readonly now: Planes
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
  make: (plane: FieldPlane, across: number, down: number, of: (other: Planes) => Samples) => Samples,
): Planes {
  const { width, height, across, down, luma, chroma, alpha } = planes
  const [columns, rows] = [Math.ceil(width / across), Math.ceil(height / down)]
  const large = (samples: Samples, of: (other: Planes) => Samples) =>
    make({ width, height, samples }, 1, 1, of)
  const small = (samples: Samples, of: (other: Planes) => Samples) =>
    make({ width: columns, height: rows, samples }, across, down, of)
  return {
    ...planes,
    luma: large(luma, (other) => other.luma),
    chroma: chroma && {
      cb: small(chroma.cb, (other) => other.chroma?.cb ?? chroma.cb),
      cr: small(chroma.cr, (other) => other.chroma?.cr ?? chroma.cr),
    },
    alpha: alpha && large(alpha, (other) => other.alpha ?? alpha),
  }
}

/** Both fields of a frame averaged: every line with its neighbours. */
export const blend = (planes: Planes, kernels: FieldKernels = plainFields): Planes =>
  eachPlane(planes, (plane) => kernels.blended(plane))

/** One field of a frame made whole. */
export function fieldMadeWhole(
  around: Around,
  kept: Kept,
  method: FieldMethod,
  kernels: FieldKernels = plainFields,
): Planes {
  const { now } = around
  if (method === 'single') return eachPlane(now, (plane) => doubled(plane, kept.parity))
  if (method === 'interpolate')
    return eachPlane(now, (plane) => kernels.interpolated(plane, kept.parity, now.bitDepth))
  const moving = movingAround(around, kept, kernels)
  return eachPlane(now, (plane, across, down) => {
    const made = kernels.interpolated(plane, kept.parity, now.bitDepth)
    if (moving) weaveStill(plane, made, kept.parity, moving, across, down)
    return made
  })
}

/** The other field just before the kept one's moment and just after it tell what moves; null where there is but one frame. */
function movingAround({ before, now, after }: Around, kept: Kept, kernels: FieldKernels): Moving | null {
  const [from, to] = kept.isFirst ? [before ?? after, now] : [now, after ?? before]
  if (!from || !to) return null
  const plane = ({ width, height, luma }: Planes): FieldPlane => ({ width, height, samples: luma })
  return kernels.movingBetween(plane(from), plane(to), otherParity(kept.parity), now.bitDepth)
}

/** Where a block stands still, the lines of the other field are taken as they are. */
function weaveStill(
  { width, height, samples }: FieldPlane,
  made: Samples,
  parity: Parity,
  { across: blocksAcross, blocks }: Moving,
  across: number,
  down: number,
): void {
  const columns = blockSide / across
  for (let y = 1 - firstLine(parity); y < height; y += 2) {
    const row = Math.floor((y * down) / blockSide) * blocksAcross
    for (let block = 0, x = 0; x < width; block++, x += columns)
      if (blocks[row + block] === 0) {
        const [from, to] = [y * width + x, y * width + Math.min(width, x + columns)]
        made.set(samples.subarray(from, to), from)
      }
  }
}
