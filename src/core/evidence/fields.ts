import { type PairSums, blockPixels } from './pair'
import { type Series, coversArea, moves } from './series'
import { median } from './statistics'

/** Which field of a frame is first in time, or that there are none. */
export interface FieldOrderVerdict {
  readonly verdict: 'top-first' | 'bottom-first' | 'progressive' | 'cannot-tell'
  readonly confidence: number
}

/** Whether frames show two moments at once, line by line. */
export interface CombingVerdict {
  readonly verdict: 'combed' | 'clean' | 'cannot-tell'
  /** Combed frames among those that were seen. */
  readonly share: number
  readonly confidence: number
}

/** What one usable pair says of the order. */
interface PairView {
  /** ln(ΣeB / ΣeA) over what moves: positive where the top field is first. */
  readonly r: number
  /** Σe0 / min(ΣeA, ΣeB): how much better than a weave of two moments a frame is in itself. */
  readonly p: number
  /** r over blocks that comb; null where they cover too little. */
  readonly rCombed: number | null
}

const [votes, leastVotes, agreed] = [Math.log(1.1), 3, 0.85]
const sureOf = (count: number) => 1 - 2 ** (-count / 3)

/** The order of fields and the combing of one run. */
export function fieldVerdictsOf(series: Series): {
  readonly fieldOrder: FieldOrderVerdict
  readonly combing: CombingVerdict
  /** The frame in which most blocks comb; null where none is combed. */
  readonly combsMost: { readonly frame: number; readonly blocks: number } | null
} {
  const views: PairView[] = []
  let combedFrames = 0
  let combsMost: { frame: number; blocks: number } | null = null
  series.pairs.forEach((pair, i) => {
    const combs = combingBlocks(series, i)
    if (coversArea(combs.length, pair)) {
      combedFrames++
      if (combs.length > (combsMost?.blocks ?? 0))
        combsMost = { frame: series.first + i, blocks: combs.length }
    }
    if (series.cuts[i]) return
    const moving = [...pair.sadTop.keys()].filter((k) => moves(pair, k, series.noise))
    if (!coversArea(moving.length, pair)) return
    const { eA, eB, e0 } = summed(pair, moving)
    const both = combs.filter((k) => moves(pair, k, series.noise))
    const sums = summed(pair, both)
    views.push({
      r: Math.log(Math.max(1, eB) / Math.max(1, eA)),
      p: e0 / Math.max(1, Math.min(eA, eB)),
      rCombed: coversArea(both.length, pair) ? Math.log(Math.max(1, sums.eB) / Math.max(1, sums.eA)) : null,
    })
  })
  const share = series.pairs.length ? combedFrames / series.pairs.length : 0
  const fieldOrder = orderOf(views)
  return { fieldOrder, combing: combingOf(fieldOrder, share), combsMost }
}

/** The blocks of a frame of a run that comb, counted row by row: lines that stand out from their neighbours and not from those two away, in what moves. */
export function combingBlocks({ pairs, cuts, noise }: Series, i: number): number[] {
  const pair = pairs[i]
  if (!pair) return []
  const [next, before] = [cuts[i] ? undefined : pair, cuts[i - 1] ? undefined : pairs[i - 1]]
  const found: number[] = []
  for (let k = 0; k < pair.n1.length; k++) {
    const [n1, n2] = [pair.n1[k] ?? 0, pair.n2[k] ?? 0]
    if (n1 < 0.12 * blockPixels || n2 >= n1 / 3) continue
    const moving = (next && moves(next, k, noise)) || (before && moves(before, k, noise))
    if (!moving) continue
    const weaves = [next, before].flatMap((pairSums) =>
      pairSums ? [pairSums.eA[k] ?? 0, pairSums.eB[k] ?? 0] : [],
    )
    if ((pair.e0[k] ?? 0) > 0.6 * Math.min(...weaves)) found.push(k)
  }
  return found
}

function summed(pair: PairSums, blocks: readonly number[]) {
  const sum = (sums: Uint16Array) => blocks.reduce((total, k) => total + (sums[k] ?? 0), 0)
  return { e0: sum(pair.e0), eA: sum(pair.eA), eB: sum(pair.eB) }
}

function orderOf(views: readonly PairView[]): FieldOrderVerdict {
  const unknown: FieldOrderVerdict = { verdict: 'cannot-tell', confidence: 0 }
  if (views.length < leastVotes) return unknown
  const combed = views.flatMap(({ rCombed }) => rCombed ?? [])
  if (combed.length >= leastVotes && combed.length >= views.length / 10) {
    const voted = vote(combed, 0.5)
    if (voted) return voted
  }
  const all = vote(
    views.map(({ r }) => r),
    0.3,
  )
  const p = median(views.map((view) => view.p))
  const r = Math.abs(median(views.map((view) => view.r)))
  if (all && (p > 0.75 || r > Math.log(1.6))) return { ...all, confidence: all.confidence * 0.9 }
  if (p < 0.7)
    return { verdict: 'progressive', confidence: Math.min(1, 1.5 * (1 - p)) * sureOf(views.length) }
  return unknown
}

/** What enough pairs vote for, if they agree. */
function vote(rs: readonly number[], leastShare: number): FieldOrderVerdict | null {
  const voting = rs.filter((r) => Math.abs(r) > votes)
  if (voting.length < Math.max(leastVotes, leastShare * rs.length)) return null
  const top = voting.filter((r) => r > 0).length
  const agreement = Math.max(top, voting.length - top) / voting.length
  if (agreement < agreed) return null
  return {
    verdict: 2 * top > voting.length ? 'top-first' : 'bottom-first',
    confidence: agreement * sureOf(voting.length),
  }
}

function combingOf({ verdict, confidence }: FieldOrderVerdict, share: number): CombingVerdict {
  if (verdict === 'top-first' || verdict === 'bottom-first') return { verdict: 'combed', share, confidence }
  if (verdict === 'progressive' && share < 0.1) return { verdict: 'clean', share, confidence }
  return { verdict: 'cannot-tell', share, confidence: 0 }
}
