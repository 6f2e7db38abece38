import type { Rate } from '../rate/rate'

/** Sound of several channels, a list of samples each, −1 … 1. */
export type Channels = readonly Float32Array[]

/** How many channels a layout has; of 5.1 in the order left, right, centre, low frequencies, left and right surround. */
export const channelsOf = { mono: 1, stereo: 2, '5.1': 6 } as const
export type SoundLayout = keyof typeof channelsOf

/** Samples of sound from the start of a timeline to the start of a frame: whole, so that nothing drifts. */
export const samplesAt = (frame: number, sampleRate: number, rate: Rate): number =>
  Math.round((frame * sampleRate * rate.den) / rate.num)

/** The layout of so many channels; null where none has that many. */
export const layoutOf = (channels: number): SoundLayout | null =>
  (Object.keys(channelsOf) as SoundLayout[]).find((layout) => channelsOf[layout] === channels) ?? null

const half = Math.SQRT1_2

/**
 * How much of each channel of a source is heard in each of a layout: by ITU-R BS.775 where both are known, one channel in the
 * middle, and what is not known in equal parts on the left and on the right.
 */
export function downmix(count: number, layout: SoundLayout): readonly (readonly number[])[] {
  const rows = (rowOf: (channel: number) => readonly number[]) =>
    Array.from({ length: count }, (_, i) => rowOf(i))
  if (layout === 'mono') {
    if (count === 6) {
      const [left = [], right = []] = transposed(downmix(6, 'stereo'))
      return rows((i) => [half * ((left[i] ?? 0) + (right[i] ?? 0))])
    }
    return rows(() => [count > 1 ? 1 / count : 1])
  }
  if (layout === '5.1') {
    if (count === 6) return rows((i) => Array.from({ length: 6 }, (_, k) => (k === i ? 1 : 0)))
    if (count === 1) return [[0, 0, 1, 0, 0, 0]]
    return rows((i) => [i % 2 === 0 ? 1 : 0, i % 2 === 0 ? 0 : 1, 0, 0, 0, 0])
  }
  if (count === 1) return [[1, 1]]
  if (count === 6)
    return [
      [1, 0],
      [0, 1],
      [half, half],
      [0, 0],
      [half, 0],
      [0, half],
    ]
  return rows((i) => (i % 2 === 0 ? [1, 0] : [0, 1]))
}

const transposed = (rows: readonly (readonly number[])[]): number[][] =>
  (rows[0] ?? []).map((_, k) => rows.map((row) => row[k] ?? 0))

/** Adds sound to what is there, channel by channel as a matrix says, by a gain in decibels. */
export function addTo(
  into: Channels,
  sound: Channels,
  matrix: readonly (readonly number[])[],
  gain: number,
  at: number,
): void {
  const factor = 10 ** (gain / 20)
  sound.forEach((samples, i) =>
    matrix[i]?.forEach((share, k) => {
      const target = into[k]
      if (!target || share === 0) return
      const [by, last] = [share * factor, Math.min(samples.length, target.length - at)]
      for (let n = Math.max(0, -at); n < last; n++)
        target[at + n] = (target[at + n] as number) + by * (samples[n] as number)
    }),
  )
}

/** The loudest of every so many samples, over all channels: the shape of a sound as it is drawn. */
export function peaksOf(sound: Channels, every: number, into: Float32Array, from: number): void {
  for (const samples of sound)
    for (let n = 0; n < samples.length; n++) {
      const at = from + Math.floor(n / every)
      const loud = Math.abs(samples[n] as number)
      if (loud > (into[at] ?? Infinity)) into[at] = loud
    }
}
