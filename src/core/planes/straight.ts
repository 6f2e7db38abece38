import type { Planes, Samples } from './planes'
import type { Meaning } from './screen'

/**
 * A picture whose colours were multiplied by its alpha, divided by it again: luma from black on, chroma from the middle on, which is the
 * same as dividing red, green and blue. Where nothing is left of a pixel it stays as it is, since nothing of it is seen.
 */
export function straightened(planes: Planes, { range }: Pick<Meaning, 'range'>): Planes {
  const { alpha, luma, chroma, width, bitDepth, across, down } = planes
  if (!alpha) return planes
  const all = 2 ** bitDepth - 1
  const unit = 2 ** (bitDepth - 8)
  const black = range === 'full' ? 0 : 16 * unit
  const divided = (samples: Samples, from: number, alphaAt: (index: number) => number): Samples => {
    const straight = samples.slice()
    for (let i = 0; i < straight.length; i++) {
      const share = alphaAt(i)
      if (share === 0 || share === all) continue
      const value = from + (((samples[i] ?? 0) - from) * all) / share
      straight[i] = value < 0 ? 0 : value > all ? all : Math.floor(value + 0.5)
    }
    return straight
  }
  const chromaWidth = Math.ceil(width / across)
  const beside = (index: number) =>
    alpha[Math.floor(index / chromaWidth) * down * width + (index % chromaWidth) * across] ?? all
  const middle = 128 * unit
  return {
    ...planes,
    luma: divided(luma, black, (index) => alpha[index] ?? all),
    chroma: chroma && {
      cb: divided(chroma.cb, middle, beside),
      cr: divided(chroma.cr, middle, beside),
    },
  }
}
