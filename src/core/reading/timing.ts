import { nearestRational, rational, toNumber } from '../rational/rational'
import { type Rate, exactRate, halvedRate, snapToStandard, standardRates } from '../rate/rate'

/** Frames that last equally long, one after the other: how wrappers keep durations short. */
export interface DurationRun {
  readonly count: number
  /** In units of the wrapper's clock. */
  readonly duration: number
}

/** What frame times say of the rate. Rates in frames a second. */
export interface RateFacts {
  readonly rate: Rate | null
  readonly rateMode: 'constant' | 'variable' | 'unknown'
  readonly minRate?: number
  readonly maxRate?: number
  readonly meanRate?: number
  readonly medianRate?: number
  readonly offNominalShare?: number
}

const unknownRate: RateFacts = { rate: null, rateMode: 'unknown' }

/**
 * The rate that frame durations mean: exact where all last equally long, snapped to a standard rate within 3·10⁻⁴.
 * Durations that only tremble by the clock's own unit (33, 33, 34 ms) lie on a lattice and are constant too.
 * @param runs durations in presentation order; the last frame's is often made up by the writer and never decides.
 * @param clock units a second.
 */
export function rateFromDurations(runs: readonly DurationRun[], clock: number): RateFacts {
  const counted = runs.filter((run) => run.count > 0)
  const used = withoutLast(counted)
  const frames = used.reduce((sum, run) => sum + run.count, 0)
  const total = used.reduce((sum, run) => sum + run.count * run.duration, 0)
  if (frames === 0 || !(total > 0) || !(clock > 0)) return unknownRate
  const rate = constantRate(used, clock)
  if (rate) return { rate, rateMode: 'constant' }
  // Reordered pictures without an edit list begin a part of a frame apart: one odd interval makes nothing variable.
  const rest = oddFirst(used) ? used.slice(1) : []
  const steady =
    rest.reduce((sum, { count }) => sum + count, 0) + 1 >= fewestSteady ? constantRate(rest, clock) : null
  if (steady) return { rate: steady, rateMode: 'constant' }
  // A last frame that stands alone may be anything; one that is like those before counts among them.
  return variableRate(counted.at(-1)?.count === 1 ? used : counted, clock)
}

/** The rate of frames that all last equally long, or tremble by the clock's own unit; null where they do not. */
function constantRate(runs: readonly DurationRun[], clock: number): Rate | null {
  const [first] = runs
  if (!first) return null
  return runs.every((run) => run.duration === first.duration)
    ? fromPeriod(clock, first.duration)
    : latticeRate(runs, clock)
}

/** A rate is told by no fewer frames than these beside one that is odd. */
const fewestSteady = 8

/** Whether the first frame alone lasts otherwise than all that follow. */
const oddFirst = (runs: readonly DurationRun[]): boolean => runs[0]?.count === 1 && runs.length > 1

/**
 * That the first frame of a constant clip is on for another time than the others, in a sentence; null where it is not.
 * @param runs in presentation order
 */
export function oddIntervalNote(
  runs: readonly DurationRun[],
  clock: number,
  { rate, rateMode }: RateFacts,
): string | null {
  const [first] = runs
  if (rateMode !== 'constant' || !rate || !first || first.count !== 1 || runs.length < 2) return null
  const period = (clock * rate.den) / rate.num
  if (Math.abs(first.duration / period - 1) <= 0.1) return null
  const ms = (duration: number) => ((1000 * duration) / clock).toFixed(1)
  return `The first frame is on for ${ms(first.duration)} ms, all others for ${ms(period)} ms: the rate is constant.`
}

/** All but the last frame. */
function withoutLast(runs: readonly DurationRun[]): readonly DurationRun[] {
  const last = runs.at(-1)
  if (runs.length < 2 || !last) return runs
  const rest = runs.slice(0, -1)
  return last.count === 1 ? rest : [...rest, { ...last, count: last.count - 1 }]
}

function fromPeriod(clock: number, duration: number): Rate {
  const standard = snapToStandard(clock / duration)
  if (standard) return standard
  return Number.isInteger(clock) && Number.isInteger(duration)
    ? rational(clock, duration)
    : exactRate(clock / duration)
}

/**
 * Fits a straight line through the frame times: a standard rate if one passes within a unit of every time, else the
 * line through both ends. Times bend only where runs meet, so only those are looked at.
 */
function latticeRate(runs: readonly DurationRun[], clock: number): Rate | null {
  const shortest = runs.reduce((least, run) => Math.min(least, run.duration), Infinity)
  const longest = runs.reduce((most, run) => Math.max(most, run.duration), 0)
  if (longest - shortest > 2) return null
  const frames = runs.reduce((sum, run) => sum + run.count, 0)
  const total = runs.reduce((sum, run) => sum + run.count * run.duration, 0)
  const passes = (period: number) => {
    let [time, frame, low, high] = [0, 0, 0, 0]
    for (const run of runs) {
      time += run.count * run.duration
      frame += run.count
      const off = time - frame * period
      low = Math.min(low, off)
      high = Math.max(high, off)
      if (high - low > 1.5) return false
    }
    return true
  }
  const mean = (clock * frames) / total
  const fits = (rate: Rate) => passes(clock / toNumber(rate))
  const nearest = (rates: readonly Rate[]) =>
    [...rates].sort((a, b) => Math.abs(toNumber(a) - mean) - Math.abs(toNumber(b) - mean)).slice(0, 3)
  const standard = nearest(standardRates).find(fits)
  if (standard) return standard
  // Rates that no standard has (15, 12.5): the simplest number that both ends of the line allow; of one whose every other frame is left
  // out (14.985) the half is meant, not a fraction near it.
  const simple = nearestRational(mean, mean / Math.max(2, total))
  if (simple.den <= 2 && fits(simple)) return simple
  const half = nearest(standardRates.map(halvedRate)).find(fits)
  if (half) return half
  if (fits(simple)) return simple
  return passes(total / frames) ? exactRate(mean) : null
}

function variableRate(runs: readonly DurationRun[], clock: number): RateFacts {
  const frames = runs.reduce((sum, run) => sum + run.count, 0)
  const total = runs.reduce((sum, run) => sum + run.count * run.duration, 0)
  const sorted = [...runs].filter((run) => run.duration > 0).sort((a, b) => a.duration - b.duration)
  const [shortest, longest] = [sorted[0], sorted.at(-1)]
  if (!shortest || !longest) return unknownRate
  let passed = 0
  const half = sorted.reduce((sum, run) => sum + run.count, 0) / 2
  const median = (sorted.find((run) => (passed += run.count) >= half) ?? shortest).duration
  // Nominal is the standard rate that most frames mean; the clock's trembling moves the median by a few per mille.
  const rate = nominal(clock / median)
  const period = clock / toNumber(rate)
  const off = runs.reduce((sum, run) => sum + (Math.abs(run.duration / period - 1) > 0.1 ? run.count : 0), 0)
  return {
    rate,
    rateMode: 'variable',
    minRate: clock / longest.duration,
    maxRate: clock / shortest.duration,
    meanRate: (clock * frames) / total,
    medianRate: clock / median,
    offNominalShare: off / frames,
  }
}

/** A variable clip's nominal rate: the nearest standard rate within 5 %, else the number itself. Whole rates are preferred over their 1000/1001 twins only when nearer. */
function nominal(perSecond: number): Rate {
  const best = standardRates.reduce((a, b) =>
    Math.abs(toNumber(b) - perSecond) < Math.abs(toNumber(a) - perSecond) ? b : a,
  )
  return Math.abs(toNumber(best) / perSecond - 1) <= 0.05 ? best : exactRate(perSecond)
}

/**
 * The rate of film whose every other frame is shown for three fields instead of two (repeat_first_field), by the times at which its frames
 * come on; null where they are otherwise.
 * @param stated frames a second at which it is shown, as its stream has it
 */
export function filmRateOfTimes(
  runs: readonly DurationRun[],
  clock: number,
  stated: number | null,
): Rate | null {
  if (stated === null || runs.length < 4) return null
  const fields = clock / (2 * stated)
  const lasts = (run: DurationRun, count: number) => Math.abs(run.duration - count * fields) <= 2
  const durationOf = (count: number) =>
    runs.reduce((sum, run) => sum + (lasts(run, count) ? run.count : 0), 0)
  const [two, three] = [durationOf(2), durationOf(3)]
  const all = runs.reduce((sum, run) => sum + run.count, 0)
  const isFilm = two + three === all && Math.abs(two - three) <= 1 + all * 0.1
  return isFilm ? filmRateFrom(stated) : null
}

/** Film has four frames where five are shown. */
export const filmRateFrom = (shown: number): Rate => snapToStandard(shown * 0.8) ?? exactRate(shown * 0.8)

/** That film was taken out of pulldown by flag, in a sentence. */
export const filmNote = (film: Rate, shown: number) => ({
  code: 'pulldown-by-flag',
  message: `Every other frame is flagged to be shown for three fields: film of ${toNumber(film).toFixed(3)} frames a second, shown at ${shown.toFixed(2)}. Its own frames are taken, none twice.`,
})

/** Runs from a list of times, in presentation order. */
export function runsFromTimes(times: ArrayLike<number>): DurationRun[] {
  const runs: { count: number; duration: number }[] = []
  for (let i = 1; i < times.length; i++) {
    const duration = (times[i] ?? 0) - (times[i - 1] ?? 0)
    const last = runs.at(-1)
    if (last && last.duration === duration) last.count++
    else runs.push({ count: 1, duration })
  }
  return runs
}
