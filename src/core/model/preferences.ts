import * as z from 'zod'
import { Format } from '../format/format'
import { Deliverable } from './deliverable'
import { Mains } from '../toll/policy'
import { type RegionRates, regionRates } from '../choice/rates'
import { type Rate, standardRates } from '../rate/rate'
import { Rational, equal, rational, toNumber } from '../rational/rational'

/** A format that the editor keeps under a name. */
export const OwnFormat = z.object({ id: z.string(), name: z.string().min(1).max(80), format: Format })
export type OwnFormat = z.infer<typeof OwnFormat>

/** How files are wrapped and encoded, kept under a name: all of a deliverable that is not its picture's format or its timeline. */
export const OwnProfile = z
  .object({ id: z.string(), name: z.string().min(1).max(80) })
  .extend(Deliverable.unwrap().pick({ wrapper: true, video: true, sound: true, burnIn: true }).shape)
export type OwnProfile = z.infer<typeof OwnProfile>

/** What an editor sets once; every new project begins with it. */
export const Preferences = z.object({
  /** Null where the region is not known: films go everywhere. */
  mains: Mains.nullable().default(null),
  onMismatch: z.enum(['ask', 'keep']).default('ask'),
  /** The picture's shape that a new project begins with, as it is typed. */
  shape: z.string().default('16:9'),
  /** Null: the first rate of the mains region. */
  rate: Rational.nullable().default(null),
  ownFormats: z.array(OwnFormat).default([]),
  ownProfiles: z.array(OwnProfile).default([]),
  /** Keys of the editor's own, by what they do; empty where one is turned off. */
  keys: z.record(z.string().max(60), z.string().max(20)).default({}),
})
export type Preferences = z.infer<typeof Preferences>

export const defaultPreferences: Preferences = Preferences.parse({})

const byMains: Record<Mains, RegionRates> = {
  50: [rational(25), rational(50), rational(100)],
  60: [rational(30000, 1001), rational(60000, 1001), rational(24000, 1001), rational(120000, 1001)],
}

const inRegion = (mains: Mains | null): RegionRates => (mains ? byMains[mains] : regionRates(null))

/** The rate that a new project begins with. */
export const usualRate = ({ rate, mains }: Preferences): Rate => rate ?? inRegion(mains)[0]

/** The standard rates to choose from: the usual one, those of the mains region, then the rest, slowest first. */
export function ratesInOrder(habits: Preferences): Rate[] {
  const order = [usualRate(habits), ...inRegion(habits.mains), ...standardRates]
  return order.filter((rate, i) => order.findIndex((other) => equal(other, rate)) === i)
}

/** Whether lamps on the mains may flicker at a rate: their light pulses at twice the mains frequency. Unknown mains do not. */
export const mayFlicker = (rate: Rate, mains: Mains | null): boolean => {
  if (mains === null) return false
  const pulses = (2 * mains) / toNumber(rate)
  // 1/1001 off is a beat of many seconds, which nobody sees.
  return Math.abs(pulses - Math.round(pulses)) > 0.01
}
