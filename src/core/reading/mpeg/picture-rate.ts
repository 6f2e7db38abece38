import { exactRate } from '../../rate/rate'
import { type Rational, equal, toNumber } from '../../rational/rational'
import { type StreamFacts, statedRateOf } from '../bitstream/frame-claims'
import type { Note } from '../reading'
import {
  type DurationRun,
  type RateFacts,
  filmNote,
  filmRateFrom,
  rateFromDurations,
  runsFromTimes,
} from '../timing'
import { type StretchTimes, clock } from './picture-times'

/** What the times of a picture come to. */
export interface Timing {
  readonly rate: RateFacts
  readonly origin: string
  readonly frames: number | null
  readonly durationSec: number | null
  /** The first time, in ticks. */
  readonly first: number | null
  readonly notes: readonly Note[]
}

/**
 * The rate, the frames and the length of a picture, by the times of stretches of it. The times decide; what the stream states, only where
 * they are too few to.
 * @param stretches from the first to the last
 * @param isWhole whether one stretch is all of it; else whether the last one holds its end
 */
export function pictureTimingOf(
  stretches: readonly StretchTimes[],
  stream: StreamFacts,
  { isWhole, hasEnd }: { readonly isWhole: boolean; readonly hasEnd: boolean },
): Timing {
  const stated = statedRateOf(stream)
  const [head, last] = [stretches[0], stretches.at(-1)]
  const first = head?.times[0] ?? null
  const end = hasEnd ? (last?.times.at(-1) ?? null) : null
  const span = first === null || end === null ? null : (end - first) / clock
  const film = filmRate(stretches, stated)
  const each = surelyFollowing(stretches, isWhole)
  const runs = each.flat()
  const fixed = stream.statedIsFixed === true ? stated : null
  const measured = film || (fixed !== null && agrees(runs, fixed)) ? null : rateOfStretches(each)
  const rate: RateFacts = film
    ? { rate: film, rateMode: 'constant' }
    : (measured ??
      (stated === null
        ? { rate: null, rateMode: 'unknown' }
        : { rate: exactRate(stated), rateMode: stream.statedIsFixed ? 'constant' : 'unknown' }))
  const perSecond = rate.rate && (rate.meanRate ?? toNumber(rate.rate))
  const frames = isWhole
    ? (head?.frames ?? 0)
    : span !== null && perSecond
      ? Math.round(span * perSecond) + 1
      : null
  const durationSec =
    frames !== null && perSecond && rate.rateMode !== 'variable'
      ? frames / perSecond
      : span === null
        ? null
        : span + (perSecond ? 1 / perSecond : 0)
  const notes: Note[] = []
  if (film && stated !== null) notes.push(filmNote(film, stated))
  if (!hasEnd)
    notes.push({
      code: 'end-not-found',
      message: `No picture is found near the end of the file: how long it lasts is not said.`,
    })
  if (!isWhole && rate.rateMode === 'variable' && frames !== null)
    notes.push({
      code: 'reckoned-count',
      message: `${frames} frames are reckoned from the times at ${stretches.length} places of the file: nothing in it lists them.`,
    })
  return {
    rate,
    origin: film ? 'repeat_first_field' : measured ? 'presentation times' : 'stream',
    frames,
    durationSec,
    first,
    notes,
  }
}

/** Film whose every other frame is shown for three fields (ISO/IEC 13818-2 §6.3.10): its own rate; null where it is none. */
function filmRate(stretches: readonly StretchTimes[], stated: number | null): Rational | null {
  const sum = (valueOf: (stretch: StretchTimes) => number) =>
    stretches.reduce((total, stretch) => total + valueOf(stretch), 0)
  const [frames, fields, repeats] = [
    sum(({ frames }) => frames),
    sum(({ fields }) => fields),
    sum(({ repeats }) => repeats),
  ]
  if (stated === null || frames < 4 || repeats < 0.4 * frames || repeats > 0.6 * frames) return null
  // Stretches end within a pattern: film is what four fifths of the stated rate are.
  if (Math.abs(fields / (2 * frames) - 1.25) > 0.05) return null
  return filmRateFrom(stated)
}

/** A rate is told by no fewer intervals than these. */
const fewestIntervals = 2

/** So few intervals may lack a picture in between, which is stored elsewhere. */
const few = 5

/** Whether times that are few are what a rate that the stream keeps makes them. */
function agrees(runs: readonly DurationRun[], fixed: number): boolean {
  const period = clock / fixed
  const isMultiple = ({ duration }: DurationRun) =>
    Math.abs(duration / period - Math.max(1, Math.round(duration / period))) < 0.05
  return runs.reduce((sum, { count }) => sum + count, 0) < few && runs.every(isMultiple)
}

/** The intervals between pictures that surely follow each other, by stretch. */
function surelyFollowing(stretches: readonly StretchTimes[], isWhole: boolean): DurationRun[][] {
  const runs: DurationRun[][] = []
  // A short stretch shows less of how far pictures are stored out of order than the others do.
  const [first, last] = [
    Math.max(...stretches.map(({ unsettled }) => unsettled.first)),
    Math.max(...stretches.map(({ unsettled }) => unsettled.last)),
  ]
  for (const [i, { times, frames }] of stretches.entries()) {
    if (times.length < frames) continue
    const isEnd = isWhole || i === stretches.length - 1
    runs.push(runsFromTimes(times.slice(i === 0 ? 0 : first, isEnd ? times.length : times.length - last)))
  }
  return runs
}

/**
 * The rate that stretches mean; null where there are too few intervals. Stretches that each keep the same rate keep it together: a period
 * that is no whole number of ticks trembles by one in each, and by more where one follows on the other.
 */
function rateOfStretches(each: readonly (readonly DurationRun[])[]): RateFacts | null {
  const rates = each.map((runs) => ({ runs, facts: rateOfRuns(runs) }))
  const first = rates.find(({ facts }) => facts?.rateMode === 'constant')?.facts
  const period = first?.rate && (clock * first.rate.den) / first.rate.num
  const keeps = ({ runs, facts }: (typeof rates)[number]) =>
    facts
      ? facts.rateMode === 'constant' && facts.rate && first?.rate && equal(facts.rate, first.rate)
      : runs.every(({ duration }) => period && Math.abs(duration - period) <= 1)
  return first && rates.every(keeps) ? first : rateOfRuns(each.flat())
}

/** The rate that intervals mean; null where there are too few. */
function rateOfRuns(runs: readonly DurationRun[]): RateFacts | null {
  if (runs.reduce((sum, { count }) => sum + count, 0) < fewestIntervals) return null
  // Times that were milliseconds once count by ninety ticks, and tremble by as much.
  const unit = runs.reduce((all, { duration }) => divisor(all, duration), 0)
  const coarse = unit >= clock / 1000 && unit % (clock / 1000) === 0 ? clock / 1000 : 1
  const scaled = runs.map(({ count, duration }) => ({ count, duration: duration / coarse }))
  const longest = scaled.at(-1)?.duration ?? 0
  // Its last frame is none that a writer made up: one more takes its place.
  return rateFromDurations([...scaled, { count: 1, duration: longest }], clock / coarse)
}

const divisor = (a: number, b: number): number => (b === 0 ? a : divisor(b, a % b))
