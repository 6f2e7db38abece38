/** Weight gathered under keys, to be asked for what holds a share of the whole. */
export interface Held<T> {
  readonly value: T
  readonly weight: number
}

/** What some footage weighs together. */
export const totalWeight = (weighed: readonly { readonly weight: number }[]): number =>
  weighed.reduce((sum, { weight }) => sum + weight, 0)

/** Shares come out of sums: one that is met must not be missed by rounding. */
const rounding = 1e-9

/** Whether a part holds a share of the whole; nothing is held where there is nothing. */
export const holds = (part: number, whole: number, share: number): boolean =>
  whole > 0 && part / whole >= share - rounding

/** Adds up weight by key, in the order in which the keys came. */
export function gatherWeight<T>(
  items: Iterable<{ readonly value: T; readonly weight: number }>,
  keyOf: (value: T) => string,
): Held<T>[] {
  const held = new Map<string, { value: T; weight: number }>()
  for (const { value, weight } of items) {
    const key = keyOf(value)
    const entry = held.get(key)
    if (entry) entry.weight += weight
    else held.set(key, { value, weight })
  }
  return [...held.values()]
}

/** What holds most; the first of equals by its key, so that the order of the clips decides nothing. */
export const mostHeld = <T>(held: readonly Held<T>[], keyOf: (value: T) => string): T | null =>
  [...held].sort((a, b) => b.weight - a.weight || (keyOf(a.value) < keyOf(b.value) ? -1 : 1))[0]?.value ??
  null
