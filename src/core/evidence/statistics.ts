import quickselect from 'quickselect'

/** The value at a share of a sorted list; between two values their mean is not taken: the lower stands. */
export const quantile = (sorted: ArrayLike<number>, share: number): number =>
  sorted[Math.min(sorted.length - 1, Math.floor(sorted.length * share))] ?? 0

/** Puts the greatest of some values last, so many of them; the order within is left open. Much faster than sorting them all. */
export const greatestLast = (values: Float64Array, count: number): void =>
  quickselect(values as unknown as number[], values.length - count)

/** A list sorted upwards. */
export const sorted = (values: Iterable<number>): Float64Array => Float64Array.from(values).sort()

/** The middle value, of an even count the mean of both; 0 of nothing. */
export function median(values: Iterable<number>): number {
  const list = sorted(values)
  const half = list.length >> 1
  return list.length % 2 ? (list[half] ?? 0) : ((list[half - 1] ?? 0) + (list[half] ?? 0)) / 2
}

export const clamp = (value: number, least: number, most: number): number =>
  Math.max(least, Math.min(most, value))
