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

/** What a picture is made into. */
export interface Resampling {
  readonly width: number
  readonly height: number
  readonly filter: Filter
  readonly sharpen: Sharpening | null
}

/** The whole of one length on the whole of another. */
const mapTo = (from: number, to: number): AxisMap => ({ scale: rational(to, from), shift: rational(0) })

/** A whole picture of another size: every plane by the ratio of luma, luma sharpened at the end. */
export function resamplePicture(
  planes: Planes,
  siting: ChromaSiting,
  { width, height, filter, sharpen }: Resampling,
  kernel: PlaneKernel = resamplePlane,
): Planes {
  const { bitDepth, across, down } = planes
  const [mapX, mapY] = [mapTo(planes.width, width), mapTo(planes.height, height)]
  const part = (samples: Samples, x: Siting, y: Siting): Samples =>
    kernel(
      {
        width: Math.ceil(planes.width / x.every),
        height: Math.ceil(planes.height / y.every),
        samples,
      },
      tapsOf(filter, mapX, x, x, Math.ceil(width / x.every)),
      tapsOf(filter, mapY, y, y, Math.ceil(height / y.every)),
      bitDepth,
    ).samples
  const luma = part(planes.luma, whole, whole)
  const chroma = planes.chroma && {
    cb: part(planes.chroma.cb, siting.across, siting.down),
    cr: part(planes.chroma.cr, siting.across, siting.down),
  }
  return {
    width,
    height,
    bitDepth,
    across,
    down,
    luma: sharpen ? sharpened({ width, height, samples: luma }, bitDepth, sharpen).samples : luma,
    chroma,
    alpha: planes.alpha && part(planes.alpha, whole, whole),
  }
}
