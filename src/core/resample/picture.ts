import type { Planes, Samples } from '../planes/planes'
import { rational } from '../rational/rational'
import type { Filter } from '../treatment/treatment'
import { type PlaneKernel, resamplePlane } from './plane'
import { type Sharpening, sharpened } from './sharpen'
import { type AxisMap, type Siting, tapsOf } from './taps'

/** Where the chroma of a picture lies beside its luma. */
export interface ChromaSiting {
  readonly across: Siting
  readonly down: Siting
}

/** Luma, and whatever has as many samples. */
const whole: Siting = { every: 1, halves: 1 }

/**
 * Where chroma lies: on the first luma sample of those it stands for, except between two rows in 4:2:0 (but in DV of 625 lines),
 * and between two columns where it is meant as JPEG has it.
 * @param name of the layout as YUV4MPEG2 writes it: `420jpeg`, `420paldv`, `422`
 */
export function chromaSiting({ across, down }: Pick<Planes, 'across' | 'down'>, name: string): ChromaSiting {
  const isBetween = across === 2 && down === 2
  return {
    across: { every: across, halves: isBetween && (name === '420' || name.endsWith('jpeg')) ? 2 : 1 },
    down: { every: down, halves: isBetween && !name.endsWith('paldv') ? 2 : 1 },
  }
}

/** Chroma of which there is as much as luma. */
export const wholeChroma: ChromaSiting = { across: whole, down: whole }

/** What a picture is made into. */
export interface Resampling {
  readonly width: number
  readonly height: number
  readonly filter: Filter
  readonly sharpen: Sharpening | null
}

/** The whole of one length on the whole of another. */
const mapTo = (from: number, to: number): AxisMap => ({ scale: rational(to, from), shift: rational(0) })

/**
 * Makes whole pictures of one size into another: every plane by the ratio of luma, luma sharpened at the end. What weighs in each
 * sample is found once. What is made takes the place of a picture that is done with, where one is given.
 */
export function resampling(
  from: { readonly width: number; readonly height: number },
  siting: ChromaSiting,
  { width, height, filter, sharpen }: Resampling,
  kernel: PlaneKernel = resamplePlane,
): (planes: Planes, into?: Planes) => Planes {
  const [mapX, mapY] = [mapTo(from.width, width), mapTo(from.height, height)]
  const planeMaker = (x: Siting, y: Siting) => {
    const size = { width: Math.ceil(from.width / x.every), height: Math.ceil(from.height / y.every) }
    const across = tapsOf(filter, mapX, x, x, Math.ceil(width / x.every))
    const down = tapsOf(filter, mapY, y, y, Math.ceil(height / y.every))
    return (samples: Samples, bitDepth: number, into?: Samples | null): Samples =>
      kernel({ ...size, samples }, across, down, bitDepth, into).samples
  }
  const large = planeMaker(whole, whole)
  const small = planeMaker(siting.across, siting.down)
  return ({ bitDepth, across, down, luma, chroma, alpha }, into) => {
    const finished = large(luma, bitDepth, into?.luma)
    return {
      width,
      height,
      bitDepth,
      across,
      down,
      luma: sharpen ? sharpened({ width, height, samples: finished }, bitDepth, sharpen).samples : finished,
      chroma: chroma && {
        cb: small(chroma.cb, bitDepth, into?.chroma?.cb),
        cr: small(chroma.cr, bitDepth, into?.chroma?.cr),
      },
      alpha: alpha && large(alpha, bitDepth, into?.alpha),
    }
  }
}
