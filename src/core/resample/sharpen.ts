import type { Samples } from '../planes/planes'
import type { Plane } from './plane'

/** How much stronger what is finer than a radius becomes; the radius in pixels of the finished picture. */
export interface Sharpening {
  readonly amount: number
  readonly radius: number
}

const clamp = (value: number, most: number): number => (value < 0 ? 0 : value > most ? most : value)

/** A Gaussian of a deviation, three of it to each side, normalised. */
function gaussian(deviation: number): Float64Array {
  const side = Math.ceil(3 * deviation)
  const weights = Float64Array.from({ length: 2 * side + 1 }, (_, i) =>
    Math.exp(-((i - side) ** 2) / (2 * deviation ** 2)),
  )
  const sum = weights.reduce((total, weight) => total + weight, 0)
  return weights.map((weight) => weight / sum)
}

/** v + A·(v − G(v)) of finished luma, G a Gaussian over both axes with clamped edges; rounded half up, clamped. */
export function sharpened({ width, height, samples }: Plane, bitDepth: number, by: Sharpening): Plane {
  const weights = gaussian(by.radius)
  const side = (weights.length - 1) / 2
  const most = 2 ** bitDepth - 1
  const sharpenedSamples: Samples =
    bitDepth > 8 ? new Uint16Array(width * height) : new Uint8Array(width * height)
  const row = new Float64Array(width)
  for (let y = 0; y < height; y++) {
    row.fill(0)
    for (let k = -side; k <= side; k++) {
      const from = clamp(y + k, height - 1) * width
      const weight = weights[k + side] as number
      for (let x = 0; x < width; x++) row[x] = (row[x] as number) + weight * (samples[from + x] as number)
    }
    for (let x = 0; x < width; x++) {
      let soft = 0
      for (let k = -side; k <= side; k++)
        soft += (weights[k + side] as number) * (row[clamp(x + k, width - 1)] as number)
      const value = samples[y * width + x] as number
      sharpenedSamples[y * width + x] = clamp(Math.floor(value + by.amount * (value - soft) + 0.5), most)
    }
  }
  return { width, height, samples: sharpenedSamples }
}
