/** What the kernels of pixels cost a frame, beside the media toolkit's own filters, one core each, in one run. */
import { fieldMadeWhole } from '../../src/core/fields/deinterlace'
import { simdFields } from '../../src/core/fields/simd'
import type { Planes } from '../../src/core/planes/planes'
import { bytesOfPlanes } from '../../src/core/planes/y4m'
import { chromaSiting, resampling } from '../../src/core/resample/picture'
import { simdResample } from '../../src/core/resample/simd'
import { besideNative } from './native'

/** A frame of moving texture in 4:2:0. */
function drawn(width: number, height: number, n: number): Planes {
  const plane = (w: number, h: number) => {
    const samples = new Uint8Array(w * h)
    for (let y = 0; y < h; y++)
      for (let x = 0; x < w; x++)
        samples[y * w + x] = (((x + 3 * n) ^ y) & 0x3f) * 3 + (((x * 7 + y * 13 + n * 29) >> 2) & 0x1f)
    return samples
  }
  const chroma = { cb: plane(width / 2, height / 2), cr: plane(width / 2, height / 2) }
  return { width, height, bitDepth: 8, across: 2, down: 2, luma: plane(width, height), chroma, alpha: null }
}

const beside = (own: () => unknown, frames: readonly Planes[], filter: string) =>
  besideNative(own, frames.map(bytesOfPlanes), frames[0] as Planes, filter, 8)

export interface PixelFigures {
  readonly name: string
  /** Milliseconds a frame. */
  readonly own: number
  readonly native: number | null
}

const large = [3832, 2156] as const
const small = [1916, 1078] as const

/** Scaling by Lanczos, at widths that favour no vector, and deinterlacing of HD. */
export async function measurePixels(): Promise<PixelFigures[]> {
  const figures: PixelFigures[] = []
  for (const [name, from, to] of [
    ['3832×2156 to 1916×1078, Lanczos', large, small],
    ['1916×1078 to 3832×2156, Lanczos', small, large],
  ] as const) {
    const frames = [0, 1, 2, 3].map((n) => drawn(from[0], from[1], n))
    const [planes] = frames as [Planes]
    const size = { width: to[0], height: to[1], filter: 'lanczos', sharpen: null } as const
    const make = resampling(planes, chromaSiting(planes, '420jpeg'), size, simdResample())
    const into = make(planes)
    const filter = `scale=${to.join(':')}:flags=lanczos`
    figures.push({ name, ...(await beside(() => make(planes, into), frames, filter)) })
  }
  const frames = [0, 1, 2, 3].map((n) => drawn(1920, 1080, n))
  const [before, nowPlanes, after] = frames as [Planes, Planes, Planes]
  const kernels = simdFields()
  const into = drawn(1920, 1080, 3)
  const kept = { parity: 'top', isFirst: true } as const
  for (const [method, filter] of [
    ['interpolate', 'yadif=mode=0'],
    ['adaptive', 'bwdif=mode=0'],
  ] as const)
    figures.push({
      name: `1920×1080, ${method}`,
      ...(await beside(
        () => fieldMadeWhole({ before, current: nowPlanes, after }, kept, method, kernels, into),
        frames,
        filter,
      )),
    })
  return figures
}
