import type { Format } from '../format/format'
import { movingAs } from '../picture/picture'
import { type Rate, doubledRate, halvedRate } from '../rate/rate'
import { equal, rational, toNumber } from '../rational/rational'
import type { Mains, Policy } from '../toll/policy'
import { type Held, gatherWeight, holds, totalWeight } from './weight'
import type { Bloc } from './bloc'

export const rateKey = ({ num, den }: Rate): string => `${num}/${den}`

const [r25, r50] = [rational(25), rational(50)]
const [r29, r59] = [rational(30000, 1001), rational(60000, 1001)]

/** The rates in which programmes are shown. */
const homeRates: readonly Rate[] = [
  rational(24000, 1001),
  rational(24),
  r25,
  r29,
  rational(30),
  r50,
  r59,
  rational(60),
]
const isHome = (rate: Rate): boolean => homeRates.some((home) => equal(home, rate))
/** Above this a rate that is at home nowhere is halved. */
const halvedAbove = 30
/** No programme is shown in more. */
export const fastest = 60

/** The rate that a progressive clip speaks for: its own where programmes are shown in it; a fast one halved, a slow one doubled. Null for none. */
export function homeRate(rate: Rate): Rate | null {
  if (isHome(rate)) return rate
  if (toNumber(rate) < halvedAbove) return isHome(doubledRate(rate)) ? doubledRate(rate) : null
  let half = rate
  while (toNumber(half) > halvedAbove) half = halvedRate(half)
  return isHome(half) ? half : null
}

/** Whether a clip was filmed to be slowed or sped up: no programme is shown as fast, or as slowly. */
export const isFilmedOtherwise = (rate: Rate): boolean => toNumber(rate) < 20 || toNumber(rate) > fastest

/** What footage speaks for: progressive clips for one rate each, interlaced ones for their fields and frames where they hold enough. */
function spokenFor(blocs: readonly Bloc[], policy: Policy): Held<Rate>[] {
  const whole = totalWeight(blocs)
  const interlaced = totalWeight(blocs.filter(({ picture }) => movingAs(picture).scan === 'interlaced'))
  const hold = (share: number) => holds(interlaced, whole, share)
  const { fields, interlaced: half } = policy.shares
  return gatherWeight(
    blocs.flatMap(({ picture, weight }) => {
      const { rate, scan } = movingAs(picture)
      if (!rate) return []
      const own =
        scan === 'interlaced'
          ? [...(hold(fields) ? [doubledRate(rate)] : []), ...(hold(half) ? [rate] : [])].filter(isHome)
          : [homeRate(rate)]
      return own.flatMap((value) => (value ? [{ value, weight }] : []))
    }),
    rateKey,
  )
}

/** The rates at which a timeline is offered progressive. */
export function candidateRates(
  blocs: readonly Bloc[],
  deliverables: readonly Format[],
  mains: Mains | null,
  policy: Policy,
): Rate[] {
  const whole = totalWeight(blocs)
  const rates = new Map<string, Rate>()
  const add = (rate: Rate) => rates.set(rateKey(rate), rate)
  const { proposes, otherRate } = policy.shares
  if (deliverables.length > 0) {
    for (const { rate, scan } of deliverables) if (scan === 'progressive') add(rate)
    const progressive = blocs.filter(({ picture }) => movingAs(picture).scan !== 'interlaced')
    for (const { value, weight } of spokenFor(progressive, policy))
      if (holds(weight, whole, otherRate) && !deliverables.some((d) => isTwin(value, d))) add(value)
    return [...rates.values()]
  }
  const spoken = spokenFor(blocs, policy)
  for (const { value, weight } of spoken)
    if (holds(weight, whole, isForeignRate(value, mains) ? otherRate : proposes)) add(value)
  if (rates.size > 0) return [...rates.values()]
  const [most] = [...spoken].sort((a, b) => b.weight - a.weight || toNumber(a.value) - toNumber(b.value))
  if (most) return [most.value]
  for (const { picture } of blocs) if (picture.rate) add(broughtDown(picture.rate))
  return [...rates.values()]
}

/** The rates at which a timeline is offered interlaced: of interlaced deliverables, and of interlaced footage that holds half. */
export function interlacedRates(
  blocs: readonly Bloc[],
  deliverables: readonly Format[],
  policy: Policy,
): Rate[] {
  const whole = totalWeight(blocs)
  const footage = blocs.filter(({ picture }) => movingAs(picture).scan === 'interlaced')
  const held = gatherWeight(
    footage.flatMap(({ picture: { rate }, weight }) => (rate ? [{ value: rate, weight }] : [])),
    rateKey,
  )
  const ofFootage = holds(totalWeight(footage), whole, policy.shares.interlaced)
    ? held.filter(({ weight }) => holds(weight, whole, policy.shares.proposes)).map(({ value }) => value)
    : []
  const delivered = deliverables.filter(({ scan }) => scan === 'interlaced').map(({ rate }) => rate)
  return [...new Map([...delivered, ...ofFootage].map((rate) => [rateKey(rate), rate])).values()]
}

/** Whether a rate is all but that of a deliverable, of its frames or its fields: one conforms to what was ordered. */
function isTwin(rate: Rate, { rate: delivered, scan }: Format): boolean {
  const rates = scan === 'interlaced' ? [delivered, doubledRate(delivered)] : [delivered]
  return rates.some((other) => {
    const apart = Math.abs(toNumber(rate) / toNumber(other) - 1)
    return apart > 0 && apart < 0.0011
  })
}

/** Halved until it is at most the fastest in which programmes are shown. */
function broughtDown(rate: Rate): Rate {
  while (toNumber(rate) > fastest) rate = halvedRate(rate)
  return rate
}

/** Rates, the usual one first. */
export type RegionRates = readonly [Rate, ...Rate[]]

/** The rates of a mains region, where no footage says another: the region's frames and twice as many. */
export const regionRates = (mains: Mains | null): RegionRates =>
  mains === 50 ? [r25, r50] : mains === 60 ? [r29, r59] : [r25, r29]

const foreign: Record<Mains, readonly Rate[]> = { 50: [r29, rational(30), r59, rational(60)], 60: [r25, r50] }

/** Whether lamps and screens of a mains region beat with a rate; those of cinema are at home everywhere. */
export const isForeignRate = (rate: Rate, mains: Mains | null): boolean =>
  mains !== null && foreign[mains].some((other) => equal(other, rate))
