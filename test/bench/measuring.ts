/** What measuring pictures costs: the kernels beside the media toolkit's own interlace filter, one core each, in one run. */
import { simdCombs, simdKernels } from '../../src/core/evidence/simd'
import type { Luma } from '../../src/core/planes/luma'
import { besideNative, leastInTurn } from './native'
import { sized } from './size'

const [width, height, count] = [1920, 1080, sized(60, 6)]

/** Frames of moving texture: neither flat nor pure noise. */
function drawn(n: number): Luma {
  const data = new Uint8Array(width * height)
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++)
      data[y * width + x] = (((x + 3 * n) ^ y) & 0x3f) * 3 + (((x * 7 + y * 13 + n * 29) >> 2) & 0x1f)
  return { width, height, data }
}

/** Megapixels a second. */
const speed = (frames: number, milliseconds: number) => (frames * width * height) / 1000 / milliseconds

/** Megapixels a second of the full pass, of the combing counts alone, and of the native filter, by turns; null where the toolkit is not here. */
export async function measureKernels(): Promise<{ full: number; combs: number; native: number | null }> {
  const frames = Array.from({ length: count }, (_, n) => drawn(n))
  const kernels = simdKernels()
  const counts = simdCombs()
  counts.place(frames[0] as Luma)
  // As video is: a quarter as much of each chroma beside the luma, which the filter looks at too.
  const chroma = new Uint8Array((width * height) / 2).fill(128)
  const fullPass = () => {
    const means = kernels.gather()
    frames.forEach((frame, i) => {
      if (i > 0) kernels.pair(frames[i - 1] as Luma, frame)
      // A clip of ten seconds gives a frame in five to the bars.
      if (i % 5 === 0) means.add(frame)
    })
  }
  const beside = await besideNative(
    fullPass,
    frames.map(({ data }) => [data, chroma]),
    { width, height },
    'idet',
    8,
  )
  // As the native filter's time is what it adds to passing frames through, here the frame lies in memory already.
  const { combs } = await leastInTurn({ combs: () => frames.forEach(() => counts.count()) })
  return {
    full: speed(count - 1, beside.own),
    combs: speed(count, combs),
    native: beside.native && speed(1, beside.native),
  }
}
