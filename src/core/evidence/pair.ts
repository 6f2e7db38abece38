import type { Luma } from '../planes/luma'

/** Pictures are looked at in blocks of so many pixels a side; what is left over at the right and below is not looked at. */
export const pairBlockSide = 16
export const blockPixels = pairBlockSide * pairBlockSide

/**
 * What one pass over a pair of successive frames sums up, for each block, row by row. Only lines with two lines above and below
 * count. `T` and `B` are even and odd lines; weave A has the even lines of the second frame and the odd ones of the first,
 * weave B the even lines of the first and the odd ones of the second.
 */
export interface PairSums {
  readonly across: number
  readonly down: number
  /** Σ |second − first| over even lines, and over odd ones. */
  readonly sadTop: Uint16Array
  readonly sadBottom: Uint16Array
  /** Pixels of the first frame that stand out from the lines next to theirs, and from those two away. */
  readonly n1: Uint16Array
  readonly n2: Uint16Array
  /** Σ |pixel − mean of the pixels above and below| in the first frame, in weave A and in weave B. */
  readonly e0: Uint16Array
  readonly eA: Uint16Array
  readonly eB: Uint16Array
}

/** How many sums there are of each block. */
export const sumsOfBlock = 7

/** Measures a pair of frames of one size. */
export type PairKernel = (first: Luma, second: Luma) => PairSums

/** By how much a pixel has to stand out on both sides. */
export const standsOut = 15

/** What one pass leaves room for: a sum for each block. */
export function emptySums(width: number, height: number): PairSums {
  const [across, down] = [Math.floor(width / pairBlockSide), Math.floor(height / pairBlockSide)]
  const sums = () => new Uint16Array(across * down)
  return {
    across,
    down,
    sadTop: sums(),
    sadBottom: sums(),
    n1: sums(),
    n2: sums(),
    e0: sums(),
    eA: sums(),
    eB: sums(),
  }
}

/** The pass over a pair, plainly: what faster kernels must equal, sum by sum. */
export const measurePair: PairKernel = (first, second) => {
  const { width, height } = first
  const sums = emptySums(width, height)
  const { across, down } = sums
  const [F, G] = [first.data, second.data]
  const lines = Math.min(down * pairBlockSide, height - 2)
  for (let y = 2; y < lines; y++) {
    const isTop = y % 2 === 0
    const sad = isTop ? sums.sadTop : sums.sadBottom
    // Weave A takes its even lines from the second frame: of an even line the middle, of an odd one the lines around.
    const [middleA, aroundA] = isTop ? [G, F] : [F, G]
    const blocks = (y >> 4) * across
    for (let bx = 0; bx < across; bx++) {
      let [d, n1, n2, e0, eA, eB] = [0, 0, 0, 0, 0, 0]
      const from = y * width + bx * pairBlockSide
      for (let i = from; i < from + pairBlockSide; i++) {
        const [above, below] = [i - width, i + width]
        const b = F[i] ?? 0
        const [a, c] = [F[above] ?? 0, F[below] ?? 0]
        d += Math.abs((G[i] ?? 0) - b)
        n1 += outstanding(a, b, c)
        n2 += outstanding(F[above - width] ?? 0, b, F[below + width] ?? 0)
        e0 += Math.abs(b - ((a + c + 1) >> 1))
        eA += Math.abs((middleA[i] ?? 0) - (((aroundA[above] ?? 0) + (aroundA[below] ?? 0) + 1) >> 1))
        eB += Math.abs((aroundA[i] ?? 0) - (((middleA[above] ?? 0) + (middleA[below] ?? 0) + 1) >> 1))
      }
      const k = blocks + bx
      add(sad, k, d)
      add(sums.n1, k, n1)
      add(sums.n2, k, n2)
      add(sums.e0, k, e0)
      add(sums.eA, k, eA)
      add(sums.eB, k, eB)
    }
  }
  return sums
}

const add = (sums: Uint16Array, k: number, more: number) => {
  sums[k] = (sums[k] ?? 0) + more
}

/** 1 where a line stands out on both sides: by max(0, min(a, c) − b, b − max(a, c)) over 15. */
const outstanding = (a: number, b: number, c: number): 0 | 1 =>
  Math.max(Math.min(a, c) - b, b - Math.max(a, c)) > standsOut ? 1 : 0

/** The mean difference of a pixel of each block, over even and odd lines together. */
export const sadOf = ({ sadTop, sadBottom }: PairSums, block: number): number =>
  ((sadTop[block] ?? 0) + (sadBottom[block] ?? 0)) / blockPixels
