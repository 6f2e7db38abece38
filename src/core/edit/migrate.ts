import { z } from 'zod'
import { defaultPolicy } from '../toll/policy'

/**
 * The shape of what is stored has a version; older rows and files become new ones here, one step a version, for the
 * database and the project file alike. A row that is no object is given back as it is: its schema will say so.
 */
export const storedVersion = 2

type Row = Record<string, unknown>
const isRow = (value: unknown): value is Row => typeof value === 'object' && value !== null

/** A project of version 1: one weight a charge, and leans that were not its own. */
export function projectFrom1(row: unknown): unknown {
  if (!isRow(row)) return row
  const { policy, ...rest } = row
  return isRow(policy) ? { ...rest, policy: policyFrom1(policy) } : rest
}

/** Own weights of version 1 are kept where their charge still is. */
function policyFrom1(old: Row): Row {
  const { unusedDetail, barsOrCrop, evenHold, evenSkip, ...kept } = old
  const { balanced, sharp, detail } = defaultPolicy.leans
  const own = <T>(value: unknown, usual: T, carried = (known: number) => known) =>
    z.number().min(0).max(1).safeParse(value).success ? carried(value as number) : usual
  // One weight was for bars and crop, under every lean; half of it under detail, as bars lose no pixel.
  const changedBars = own(barsOrCrop, 0.5) !== 0.5
  const bars = (lean: { bars: number }, share = 1) =>
    changedBars ? own(barsOrCrop, lean.bars) * share : lean.bars
  return {
    ...kept,
    leans: {
      balanced: { ...balanced, unused: own(unusedDetail, balanced.unused), bars: bars(balanced) },
      sharp: { ...sharp, bars: bars(sharp) },
      detail: { ...detail, bars: bars(detail, 0.5) },
    },
    crop: own(barsOrCrop, defaultPolicy.crop),
    // Holding was one price; it follows the share of repeated frames now, and 25 in 50 costs what it did.
    repeat: own(evenHold, defaultPolicy.repeat, (known) => Math.min(1, known * 2)),
    skip: own(evenSkip, defaultPolicy.skip),
  }
}
