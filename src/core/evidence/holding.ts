import { type Rate, filmRate } from '../rate/rate'
import { evenCadence, countHolds, rateBehind } from './cadence'
import { type Pattern, loose, nearly, patternIn, patternName } from './pattern'
import { type Pulldown, pulldownIn } from './pulldown'
import { type Differences, type Flag, differencesIn } from './repeats'
import type { Series } from './series'
import { quantile, sorted } from './statistics'

/** Whether frames are shown more than once, and what rate that hides. */
export interface RepeatsVerdict {
  readonly verdict: 'none' | 'pattern' | 'irregular' | 'cannot-tell'
  /** `2:3`, `2:2`, `1 in 5`; null where an even rate shows no short pattern. */
  readonly pattern: string | null
  /** How many frames each picture is held for, in turn, with the place of the clip's frame 0. */
  readonly holds: readonly number[] | null
  readonly phase: number | null
  /** New frames a second; null where the clip's own rate is not known. */
  readonly trueRate: Rate | null
  readonly confidence: number
}

/** What a run says of repeats, and of pulldown. */
export interface Holding {
  readonly repeats: RepeatsVerdict
  readonly pulldown: Pulldown | null
  /** A frame of the clip that repeats the one before it; null where none is seen to. */
  readonly repeatedAt: number | null
}

const nothing = { pattern: null, holds: null, phase: null, trueRate: null } as const

/** @param rate of the clip as its wrapper says; null where it does not */
export function holdingIn(series: Series, rate: Rate | null): Holding {
  const pulldown = pulldownIn(series)
  if (pulldown) return { pulldown, repeats: pulledDown(pulldown, rate), repeatedAt: null }
  const differences = differencesIn(series)
  const repeats = repeatsIn(series, differences, rate)
  const repeated = repeats.verdict === 'none' ? -1 : differences.flags.indexOf(true)
  return { pulldown: null, repeats, repeatedAt: repeated < 0 ? null : series.first + repeated + 1 }
}

function pulledDown({ pattern, phase, agreeing, known }: Pulldown, rate: Rate | null): RepeatsVerdict {
  return {
    verdict: 'pattern',
    pattern,
    holds: null,
    phase,
    trueRate: rate && filmRate(rate),
    confidence: (agreeing / known) * Math.min(1, known / 20),
  }
}

function repeatsIn(series: Series, differences: Differences, rate: Rate | null): RepeatsVerdict {
  const { flags, d } = differences
  const known = flags.filter((flag) => flag !== null).length
  const unknown: RepeatsVerdict = { verdict: 'cannot-tell', ...nothing, confidence: 0 }
  if (known < 8) return unknown
  const repeats = flags.filter((flag) => flag === true).length

  const found = patternIn(flags, series.first)
  if (found) {
    const period = found.holds.reduce((sum, hold) => sum + hold, 0)
    const behind = rate && rateBehind(rate, found)
    // A pattern that comes to no known rate, seen a few times, may be an even row of another.
    if (behind && !behind.standard && known < 4 * period) return evenly(flags, rate, known, 0.7) ?? unknown
    return patterned(found, behind?.rate ?? null, Math.min(1, known / Math.max(24, 3 * period)))
  }
  const softer = looseFlags(differences, series)
  const likely = patternIn(softer, series.first, loose)
  if (likely) {
    const behind = rate && rateBehind(rate, likely)
    return patterned(likely, behind?.rate ?? null, 0.7 * Math.min(1, known / 24))
  }
  if (repeats > 0) {
    const even = rate && (evenly(flags, rate, known, 0.7) ?? evenlyLoose(softer, rate, known))
    if (even) return even
  }
  if (repeats === 0) {
    if (quantile(sorted(d), 0.75) < 7) return unknown
    return { verdict: 'none', ...nothing, trueRate: rate, confidence: Math.min(1, known / 64) }
  }
  if (repeats <= known / 12) return { verdict: 'none', ...nothing, trueRate: rate, confidence: 0.4 }
  if (patternIn(flags, series.first, nearly) ?? patternIn(softer, series.first, nearly)) return unknown
  return { verdict: 'irregular', ...nothing, confidence: 0.5 * Math.min(1, known / 48) }
}

const patterned = (pattern: Pattern, trueRate: Rate | null, confidence: number): RepeatsVerdict => ({
  verdict: 'pattern',
  pattern: patternName(pattern),
  ...pattern,
  trueRate,
  confidence,
})

/** Lossy codecs blur repeats: what differs by less than half of a new frame may be one. */
const looseFlags = ({ z, flags }: Differences, { cuts }: Series): Flag[] =>
  z.map((value, i) => (cuts[i] ? false : Number.isNaN(value) || flags[i] === undefined ? null : value < 0.45))

function evenly(flags: readonly Flag[], rate: Rate, known: number, sure: number): RepeatsVerdict | null {
  const trueRate = evenCadence(flags, rate)
  return trueRate && { verdict: 'pattern', ...nothing, trueRate, confidence: sure * Math.min(1, known / 48) }
}

/** With softened flags an even row has two hold lengths, each seen twice. */
function evenlyLoose(flags: readonly Flag[], rate: Rate, known: number): RepeatsVerdict | null {
  const lengths = [...countHolds(flags).values()]
  return lengths.length === 2 && lengths.every((seen) => seen >= 2) ? evenly(flags, rate, known, 0.5) : null
}
