import type { Format } from '../format/format'
import { type Rate, doubled, halved, isStandardRate } from '../rate/rate'
import { rational, toNumber } from '../rational/rational'
import type { Mains, Policy } from '../toll/policy'
import type { Bloc } from './vote'
import { gatherWeight, holds, weightOf } from './weight'

/** Rates that a project is set up in, in frames a second. */
const [slowest, fastest] = [20, 60]
/** Above this, half of a rate is proposed too. */
const halvedAbove = 30

export const rateKey = ({ num, den }: Rate): string => `${num}/${den}`

/** Halved until it is at most the fastest that a project is set up in. */
function broughtDown(rate: Rate): Rate {
  while (toNumber(rate) > fastest) rate = halved(rate)
  return rate
}

/** What a rate that was filmed proposes: itself, halves of a fast one, the double of a slow one. */
function proposals(rate: Rate): Rate[] {
  const own = broughtDown(rate)
  if (toNumber(own) < slowest) return [doubled(own)]
  return toNumber(own) > halvedAbove ? [own, halved(own)] : [own]
}

/** The rates that footage holds in earnest: frames of all clips, and fields of interlaced ones. */
export function heldRates(blocs: readonly Bloc[], policy: Policy): Rate[] {
  const whole = weightOf(blocs)
  const held = gatherWeight(
    blocs.flatMap(({ picture: { rate, scan }, weight }) =>
      rate
        ? (scan === 'interlaced' ? [rate, doubled(rate)] : [rate]).map((value) => ({ value, weight }))
        : [],
    ),
    rateKey,
  )
  return held.filter((one) => holds(one.weight, whole, policy.shares.proposes)).map((one) => one.value)
}

/**
 * The rates worth pricing: standard ones from 20 to 60 that enough footage proposes, and every one that is delivered.
 * Where none is left, what the footage holds, halved to at most 60.
 */
export function candidateRates(
  blocs: readonly Bloc[],
  deliverables: readonly Format[],
  policy: Policy,
): Rate[] {
  const rates = new Map<string, Rate>()
  const add = (rate: Rate) => rates.set(rateKey(rate), rate)
  const held = heldRates(blocs, policy)
  held
    .flatMap(proposals)
    .filter((rate) => isStandardRate(rate) && toNumber(rate) >= slowest && toNumber(rate) <= fastest)
    .forEach(add)
  for (const { rate } of deliverables) add(rate)
  if (rates.size === 0) {
    const all = blocs.flatMap(({ picture }) => picture.rate ?? [])
    for (const rate of held.length ? held : all) add(broughtDown(rate))
  }
  return [...rates.values()]
}

const [r25, r50] = [rational(25), rational(50)]
const [r29, r59] = [rational(30000, 1001), rational(60000, 1001)]

/** Rates, the usual one first. */
export type RegionRates = readonly [Rate, ...Rate[]]

/** The rates of a mains region, where no footage says another: the region's frames and twice as many. */
export const regionRates = (mains: Mains | null): RegionRates =>
  mains === 50 ? [r25, r50] : mains === 60 ? [r29, r59] : [r25, r29]

const foreign: Record<Mains, readonly Rate[]> = { 50: [r29, rational(30), r59, rational(60)], 60: [r25, r50] }

/** Whether lamps and screens of a mains region beat with a rate; those of cinema are at home everywhere. */
export const isForeignRate = (rate: Rate, mains: Mains | null): boolean =>
  mains !== null && foreign[mains].some((other) => rateKey(other) === rateKey(rate))
