/** The value at a share of a sorted list; between two values their mean is not taken: the lower stands. */
export const quantile = (sorted: ArrayLike<number>, share: number): number =>
  sorted[Math.min(sorted.length - 1, Math.floor(sorted.length * share))] ?? 0

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
