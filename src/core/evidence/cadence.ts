import { type Rate, snapToStandard, standardRates } from '../rate/rate'
import { multiply, rational, toNumber } from '../rational/rational'
import type { Pattern } from './pattern'
import type { Flag } from './repeats'

/** How many of so many frames a second a pattern shows anew: a standard rate where one is near, else what it comes to. */
export function rateBehind(rate: Rate, { holds }: Pick<Pattern, 'holds'>): { rate: Rate; standard: boolean } {
  const period = holds.reduce((sum, hold) => sum + hold, 0)
  const exact = multiply(rate, rational(holds.length, period))
  const near = snapToStandard(toNumber(exact))
  return { rate: near ?? exact, standard: near !== null }
}

/** How far the places of new frames may spread from an even row, in frames. */
const mostSpread = 1.05

/**
 * The standard rate at which the new frames of a run come evenly; null where none does.
 * @param rate of the wrapper: among near ones its family, over 1001 or whole, goes first
 */
export function evenCadence(flags: readonly Flag[], rate: Rate): Rate | null {
  // The k-th new frame stands behind the pair that brought it; unknown pairs break the counting.
  const stretches = knownStretches(flags)
  const candidates = standardRates
    .filter((known) => toNumber(known) < toNumber(rate) * 0.99)
    .map((known) => ({ known, spread: spreadOf(stretches, toNumber(rate) / toNumber(known)) }))
    .filter(({ spread }) => spread <= mostSpread)
  const family = (rational: Rate) => (rational.den % 1001 === 0) === (rate.den % 1001 === 0)
  candidates.sort((a, b) => a.spread - b.spread)
  const [best] = candidates
  if (!best) return null
  const near = candidates.filter(
    ({ known }) => Math.abs(toNumber(known) / toNumber(best.known) - 1) < 0.002 && family(known),
  )
  return (near[0] ?? best).known
}

/** Places of new frames, in stretches without anything unknown. */
function knownStretches(flags: readonly Flag[]): number[][] {
  const stretches: number[][] = []
  let current: number[] = []
  flags.forEach((flag, i) => {
    if (flag === null) {
      if (current.length) stretches.push(current)
      current = []
    } else if (!flag) current.push(i + 1)
  })
  if (current.length) stretches.push(current)
  return stretches
}

/** How far new frames stray from an even row of a step, in frames; infinite where too few are there. */
function spreadOf(stretches: readonly number[][], step: number): number {
  const longest = stretches.reduce<readonly number[]>((a, b) => (b.length > a.length ? b : a), [])
  const span = (longest.at(-1) ?? 0) - (longest[0] ?? 0)
  if (longest.length < 6 || span < 16) return Infinity
  const strays = longest.map((place, k) => place - k * step)
  return Math.max(...strays) - Math.min(...strays)
}

/** The lengths of holds between new frames, each with how often it is seen. */
export function countHolds(flags: readonly Flag[]): Map<number, number> {
  const lengths = new Map<number, number>()
  for (const stretch of knownStretches(flags))
    for (let k = 1; k < stretch.length; k++) {
      const length = (stretch[k] ?? 0) - (stretch[k - 1] ?? 0)
      lengths.set(length, (lengths.get(length) ?? 0) + 1)
    }
  return lengths
}
