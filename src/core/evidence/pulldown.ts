import type { PairSums } from './pair'
import { blockPixels } from './pair'
import { mostDiffering } from './repeats'
import type { Series } from './series'

/** Film in video: of four frames five are made, and in two of these the fields are of different frames. */
export interface Pulldown {
  /** By how many fields each film frame lasts, in turn. */
  readonly pattern: '2:3' | '2:3:3:2'
  /** The place of the clip's frame 0 in AA BB BC CD DD (0 … 4; for 2:3:3:2 in AA BB BC CC DD). */
  readonly phase: 0 | 1 | 2 | 3 | 4
  readonly fieldOrder: 'top-first' | 'bottom-first'
  /** Pairs that follow it, of those that are known. */
  readonly agreeing: number
  readonly known: number
}

const round = 5
/** Natural logarithm of how much more one field differs than the other. */
const apart = 0.5
const half = blockPixels / 2
const topOf = (pair: PairSums, k: number) => (pair.sadTop[k] ?? 0) / half
const bottomOf = (pair: PairSums, k: number) => (pair.sadBottom[k] ?? 0) / half

/** By how much the even lines of each pair differ more than the odd ones; null where too little moves. */
function balances({ pairs, cuts, noise }: Series): (number | null)[] {
  return pairs.map((pair, i) => {
    const [top, bottom] = [mostDiffering(pair, topOf), mostDiffering(pair, bottomOf)]
    if (cuts[i] || Math.max(top, bottom) < 3 + 2 * noise) return null
    const above = (d: number) => Math.max(0.3, d - 0.8 * noise + 0.3)
    return Math.log(above(top) / above(bottom))
  })
}

/**
 * Finds pulldown in a run: once in five frames the top field alone repeats, and some frames later the bottom field alone.
 * With the top field first, the bottom one repeats two frames later (one in 2:3:3:2); with the bottom field first, before.
 */
export function pulldownIn(series: Series): Pulldown | null {
  const rho = balances(series)
  let best: Pulldown | null = null
  for (const gap of [2, -2, 1, -1])
    for (let place = 0; place < round; place++) {
      const found = follows(rho, place, gap)
      if (!found || (best && found.agreeing <= best.agreeing)) continue
      const topFirst = gap > 0
      // The first field repeats at place 1 of five; the second |gap| later.
      const at = topFirst ? 1 : 1 + Math.abs(gap)
      best = {
        pattern: Math.abs(gap) === 2 ? '2:3' : '2:3:3:2',
        phase: ((((at - series.first - place) % round) + round) % round) as Pulldown['phase'],
        fieldOrder: topFirst ? 'top-first' : 'bottom-first',
        ...found,
      }
    }
  return best
}

/** Whether the balances follow a place of the top field and a gap to the bottom one's. */
function follows(rho: readonly (number | null)[], place: number, gap: number) {
  const kinds = [0, 0, 0].map(() => ({ known: 0, agreeing: 0 }))
  rho.forEach((value, i) => {
    if (value === null) return
    const offset = (((i - place) % round) + round) % round
    const which = offset === 0 ? 0 : offset === (gap + round) % round ? 1 : 2
    const kind = kinds[which]
    if (!kind) return
    kind.known++
    const agrees = which === 0 ? value < -apart : which === 1 ? value > apart : Math.abs(value) < apart
    if (agrees) kind.agreeing++
  })
  const enough = kinds.every(({ known, agreeing }) => known >= 2 && agreeing >= 0.85 * known)
  const [known, agreeing] = [
    kinds.reduce((sum, kind) => sum + kind.known, 0),
    kinds.reduce((sum, kind) => sum + kind.agreeing, 0),
  ]
  return enough && known >= round ? { known, agreeing } : null
}
