import { type Aspect } from '../../../core/toll/words'
import { aspectOfCharge, isChargeKind } from '../../../core/toll/sentence'
import { uprightSize } from '../../../core/picture/turn'
import type { LossPart } from '../../../core/choice/parts'
import { pixelSizeName } from '../../../core/format/format'
import { rateWithScan } from '../../../core/rate/rate'
import { toNumber } from '../../../core/rational/rational'
import type { Bloc } from '../../../core/choice/bloc'

/** Seconds of footage by rate and, within it, by size. */
export interface TimeByRate {
  readonly rates: readonly string[]
  readonly sizes: readonly string[]
  /** `seconds[size][rate]`. */
  readonly seconds: readonly (readonly number[])[]
}

/** Running time by rate and size: rates slowest first, sizes by their whole running time. */
export function timeByRate(blocs: readonly Bloc[]): TimeByRate {
  const rates = new Map<string, number>()
  const sizes = new Map<string, number>()
  const cells = new Map<string, number>()
  for (const { picture, seconds } of blocs) {
    if (!picture.rate) continue
    const rate = rateWithScan(picture.rate, picture.scan)
    const size = pixelSizeName(uprightSize(picture))
    // Fields of a rate stand after its frames.
    rates.set(rate, toNumber(picture.rate) + (picture.scan === 'interlaced' ? 1e-6 : 0))
    sizes.set(size, (sizes.get(size) ?? 0) + seconds)
    cells.set(`${size} at ${rate}`, (cells.get(`${size} at ${rate}`) ?? 0) + seconds)
  }
  const byRate = [...rates].sort((a, b) => a[1] - b[1]).map(([name]) => name)
  const bySize = [...sizes].sort((a, b) => b[1] - a[1]).map(([name]) => name)
  return {
    rates: byRate,
    sizes: bySize,
    seconds: bySize.map((size) => byRate.map((rate) => cells.get(`${size} at ${rate}`) ?? 0)),
  }
}

/** The part of a loss that a line of it belongs to; what comes after the timeline is delivery. */
const aspectOf = (kind: LossPart['kind']): Aspect => (isChargeKind(kind) ? aspectOfCharge(kind) : 'delivery')

/** The parts of a loss gathered by aspect. */
export function byAspect(parts: readonly LossPart[]): Record<Aspect, number> {
  const sums = { size: 0, motion: 0, fields: 0, colour: 0, delivery: 0 }
  for (const { kind, value } of parts) sums[aspectOf(kind)] += value
  return sums
}
