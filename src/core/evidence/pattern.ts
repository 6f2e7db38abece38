import type { Flag } from './repeats'

/** A pattern of repeats: how many frames each picture is held for, over and over, and where in it frame 0 stands. */
export interface Pattern {
  readonly holds: readonly number[]
  /** The place of the clip's frame 0 in one round of holds. */
  readonly phase: number
}

/** How strictly flags must follow a pattern. */
interface Strictness {
  readonly periods: readonly [number, number]
  /** At most this share of the known flags disagrees. */
  readonly mostDisagreeing: number
  readonly leastRepeats: (period: number) => number
  /** At least this share of the repeats is foretold, and of what is foretold repeats. */
  readonly leastForetold: number
  /** Whether frames that are each shown twice may be a pattern. */
  readonly alternation: boolean
}

export const strict: Strictness = {
  periods: [2, 32],
  mostDisagreeing: 1 / 40,
  leastRepeats: (period) => (period >= 13 ? 2 : 3),
  leastForetold: 0.9,
  alternation: true,
}
export const loose: Strictness = {
  periods: [3, 12],
  mostDisagreeing: 0.03,
  leastRepeats: () => 4,
  leastForetold: 0.9,
  alternation: false,
}
/** A pattern that a codec has smeared: none to be named, and none that is irregular. */
export const nearly: Strictness = {
  periods: [2, 12],
  mostDisagreeing: 0.15,
  leastRepeats: () => 4,
  leastForetold: 0.75,
  alternation: true,
}

/**
 * The smallest pattern that the flags of a run follow; null where there is none.
 * @param first the clip's number of the run's first frame
 */
export function patternIn(
  flags: readonly Flag[],
  first: number,
  strictness: Strictness = strict,
): Pattern | null {
  const known = flags.filter((flag) => flag !== null).length
  const [least, most] = strictness.periods
  for (let period = least; period <= most; period++) {
    if (known < Math.max(8, 1.8 * period)) return null
    const round = roundOf(flags, period, strictness)
    if (!round) continue
    const pattern = holdsOf(round, first)
    if (pattern.holds.length === 1 && !strictness.alternation) continue
    return pattern
  }
  return null
}

/** What each place of a period is by the majority of its flags; null where they do not follow it. */
function roundOf(
  flags: readonly Flag[],
  period: number,
  { mostDisagreeing, leastRepeats, leastForetold }: Strictness,
) {
  const seen = Array.from({ length: period }, () => ({ repeats: 0, fresh: 0 }))
  flags.forEach((flag, i) => {
    const place = seen[i % period]
    if (!place || flag === null) return
    if (flag) place.repeats++
    else place.fresh++
  })
  if (seen.some(({ repeats, fresh }) => repeats + fresh < 2)) return null
  const round = seen.map(({ repeats, fresh }) => repeats > fresh)
  let [known, repeats, foretold, hits, disagreeing] = [0, 0, 0, 0, 0]
  seen.forEach((place, k) => {
    const all = place.repeats + place.fresh
    known += all
    repeats += place.repeats
    disagreeing += Math.min(place.repeats, place.fresh)
    if (!round[k]) return
    foretold += all
    hits += place.repeats
  })
  if (disagreeing > mostDisagreeing * known) return null
  if (hits < leastRepeats(period) || hits < leastForetold * Math.max(repeats, foretold)) return null
  return round.every(Boolean) ? null : round
}

/**
 * A round of flags as holds, begun where the list of them is smallest: 2:3, never 3:2.
 * @param round whether the frame after each place repeats the one at it
 */
function holdsOf(round: readonly boolean[], first: number): Pattern {
  const period = round.length
  // A hold begins at each frame that the pair before it brought anew.
  const begins = [...round.keys()].filter((k) => !round[(k + period - 1) % period])
  const lengths = begins.map((begin, i) => {
    const next = begins[(i + 1) % begins.length] ?? begin
    return ((next - begin + period - 1) % period) + 1
  })
  const turns = begins.map((begin, i) => ({
    begin,
    holds: [...lengths.slice(i), ...lengths.slice(0, i)],
  }))
  turns.sort((a, b) => comparedHolds(a.holds, b.holds) || a.begin - b.begin)
  const { begin, holds } = turns[0] ?? { begin: 0, holds: [] }
  // Frame `first + begin` stands at place 0.
  return { holds, phase: (((-first - begin) % period) + period) % period }
}

function comparedHolds(a: readonly number[], b: readonly number[]): number {
  const i = a.findIndex((hold, k) => hold !== b[k])
  return i < 0 ? 0 : (a[i] ?? 0) - (b[i] ?? 0)
}

/** A pattern as it is called: `2:3` by its holds, `2:2` where each is shown twice, `1 in 5` for one repeat in five. */
export function patternName({ holds }: Pick<Pattern, 'holds'>): string {
  const period = holds.reduce((sum, hold) => sum + hold, 0)
  const [only] = holds
  if (holds.length === 1) return `${only}:${only}`
  return period - holds.length === 1 ? `1 in ${period}` : holds.join(':')
}
