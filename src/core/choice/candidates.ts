import { type Format, type FormatColour, formatKey, makeFormat, rec709 } from '../format/format'
import { isHdr } from '../picture/colour'
import { type FieldOrder } from '../picture/scan'
import { type FrameSize, sizeKey, square } from '../picture/size'
import { uprightSize } from '../picture/turn'
import { isTapeRaster } from '../format/standard'
import type { Ranking, Mains, Policy } from '../toll/policy'
import { candidateRates, interlacedRates, regionRates } from './rates'
import { candidateSizes } from './sizes'
import { gatherWeight, mostHeld } from './weight'
import type { Bloc } from './bloc'

/** What the candidates follow besides the footage. */
export interface RankingWishes {
  readonly deliverables: readonly Format[]
  readonly mains: Mains | null
  readonly policy: Policy
  readonly lean?: Ranking
}

/**
 * The formats worth pricing: those that somebody would deliver, or that the footage holds in earnest. A trace of footage
 * decides nothing.
 * @param tried formats that the editor tries, priced along with the others whatever they are
 */
export function candidateFormats(
  blocs: readonly Bloc[],
  wanted: RankingWishes,
  tried: readonly Format[] = [],
): Format[] {
  const { deliverables, mains, policy } = wanted
  const colour = commonColour(blocs, deliverables)
  const lean = wanted.lean ?? 'balanced'
  const formats = new Map<string, Format>()
  const add = (format: Format) => {
    if (!formats.has(formatKey(format))) formats.set(formatKey(format), format)
  }
  if (blocs.length > 0) {
    const rates = candidateRates(blocs, deliverables, mains, policy)
    const fields = interlacedRates(blocs, deliverables, policy)
    const fieldOrder = commonFieldOrder(blocs)
    const isInterlacedToo = interlacedSizes(blocs, deliverables)
    const isProgressiveToo = progressiveSizes(blocs, deliverables)
    for (const size of candidateSizes(blocs, deliverables, policy, lean)) {
      if (isProgressiveToo(size)) for (const rate of rates) add(makeFormat(size, rate, 'progressive', colour))
      if (isInterlacedToo(size))
        for (const rate of fields) add({ ...makeFormat(size, rate, 'interlaced', colour), fieldOrder })
    }
  } else if (deliverables.length > 0) deliverables.forEach((format) => add({ ...format, colour }))
  else {
    for (const [width, height] of [[1920, 1080] as const, [3840, 2160] as const])
      for (const rate of regionRates(mains)) add(makeFormat({ width, height }, rate, 'progressive', colour))
  }
  tried.forEach(add)
  return [...formats.values()]
}

/** Sizes that are offered interlaced: HD, and those of interlaced footage and deliverables. */
function interlacedSizes(
  blocs: readonly Bloc[],
  deliverables: readonly Format[],
): (size: FrameSize) => boolean {
  const sizes = new Set([
    sizeKey(hd),
    ...blocs.flatMap(({ picture }) => (picture.scan === 'interlaced' ? [sizeKey(uprightSize(picture))] : [])),
    ...deliverables.flatMap((format) => (format.scan === 'interlaced' ? [sizeKey(format)] : [])),
  ])
  return (size) => sizes.has(sizeKey(size))
}

/** Sizes that are offered progressive: the raster of a tape beside deliverables only where one of them has it, or no clip is interlaced. */
function progressiveSizes(
  blocs: readonly Bloc[],
  deliverables: readonly Format[],
): (size: FrameSize) => boolean {
  const hasFields = blocs.some(({ picture }) => picture.scan === 'interlaced')
  return (size) =>
    deliverables.length === 0 ||
    !hasFields ||
    !isTapeRaster(size) ||
    deliverables.some(
      (deliverable) => deliverable.scan === 'progressive' && sizeKey(deliverable) === sizeKey(size),
    )
}

const hd: FrameSize = { width: 1920, height: 1080, pixelAspect: square }

/** The field order that most of the interlaced footage has; top first where none says. */
export function commonFieldOrder(blocs: readonly Bloc[]): FieldOrder {
  const orders = blocs.flatMap(({ picture: { scan, fieldOrder }, weight }) =>
    scan === 'interlaced' && fieldOrder && fieldOrder !== 'unknown' ? [{ value: fieldOrder, weight }] : [],
  )
  const name = (order: FieldOrder) => (order === 'top-first' ? '0' : '1')
  return mostHeld(gatherWeight(orders, name), name) ?? 'top-first'
}

/** The colour that most of the footage is in; what is delivered decides before what was shot. */
export function commonColour(blocs: readonly Bloc[], deliverables: readonly Format[]): FormatColour {
  const [first] = deliverables
  if (first) return first.colour
  const colours = blocs.map(({ picture: { primaries, transfer, bitDepth }, weight }) => ({
    value: {
      // BT.601's primaries are not chosen for a project: BT.709 holds them all but a hair.
      primaries: primaries === null || primaries.startsWith('bt601') ? rec709.primaries : primaries,
      transfer: transfer !== null && isHdr(transfer) ? transfer : rec709.transfer,
      bitDepth: Math.max(rec709.bitDepth, bitDepth ?? 0),
    },
    weight,
  }))
  return mostHeld(gatherWeight(colours, JSON.stringify), JSON.stringify) ?? rec709
}
