import { type Format, type FormatColour, formatKey, makeFormat, rec709 } from '../format/format'
import type { Rate } from '../rate/rate'
import { isHdr } from '../picture/colour'
import { type FieldOrder } from '../picture/scan'
import { type FrameSize, sizeKey, square } from '../picture/size'
import { uprightSize } from '../picture/turn'
import type { Mains, Policy } from '../toll/policy'
import { candidateRates, heldRates, rateKey, regionRates } from './rates'
import { candidateSizes } from './sizes'
import type { Bloc } from './vote'
import { gatherWeight, holds, mostHeld, weightOf } from './weight'

/** What the candidates follow besides the footage. */
export interface Wanted {
  readonly deliverables: readonly Format[]
  readonly mains: Mains | null
  readonly policy: Policy
}

/**
 * The formats worth pricing: those that somebody would deliver, or that the footage holds in earnest. A trace of footage
 * decides nothing.
 * @param tried formats that the editor tries, priced along with the others whatever they are
 */
export function candidateFormats(
  blocs: readonly Bloc[],
  { deliverables, mains, policy }: Wanted,
  tried: readonly Format[] = [],
): Format[] {
  const colour = commonColour(blocs, deliverables)
  const formats = new Map<string, Format>()
  const add = (format: Format) => {
    if (!formats.has(formatKey(format))) formats.set(formatKey(format), format)
  }
  if (blocs.length > 0) {
    const sizes = candidateSizes(blocs, deliverables, policy)
    const rates = candidateRates(blocs, deliverables, policy)
    const fields = fieldsOffered(blocs, deliverables, policy)
    const fieldOrder = commonFieldOrder(blocs)
    for (const size of sizes) {
      for (const rate of rates) {
        add(makeFormat(size, rate, 'progressive', colour))
        if (fields(size, rate)) add({ ...makeFormat(size, rate, 'interlaced', colour), fieldOrder })
      }
    }
  } else if (deliverables.length > 0) deliverables.forEach((format) => add({ ...format, colour }))
  else {
    for (const [width, height] of [[1920, 1080] as const, [3840, 2160] as const])
      for (const rate of regionRates(mains)) add(makeFormat({ width, height }, rate, 'progressive', colour))
  }
  tried.forEach(add)
  return [...formats.values()]
}

/**
 * Where an interlaced format is offered: at the frame rates of interlaced deliverables, and of interlaced footage that holds
 * half of the weight; at HD and at the sizes that these have.
 */
function fieldsOffered(
  blocs: readonly Bloc[],
  deliverables: readonly Format[],
  policy: Policy,
): (size: FrameSize, rate: Rate) => boolean {
  const footage = blocs.filter((bloc) => bloc.picture.scan === 'interlaced')
  const delivered = deliverables.filter((format) => format.scan === 'interlaced')
  const half = holds(weightOf(footage), weightOf(blocs), policy.shares.interlaced)
  if (!half && delivered.length === 0) return () => false
  const inEarnest = new Set(heldRates(blocs, policy).map(rateKey))
  const ofFootage = half ? footage.flatMap(({ picture }) => picture.rate ?? []).map(rateKey) : []
  const rates = new Set([
    ...ofFootage.filter((key) => inEarnest.has(key)),
    ...delivered.map(({ rate }) => rateKey(rate)),
  ])
  const sizes = new Set([
    sizeKey(hd),
    ...footage.map(({ picture }) => sizeKey(uprightSize(picture))),
    ...delivered.map(sizeKey),
  ])
  return (size, rate) => rates.has(rateKey(rate)) && sizes.has(sizeKey(size))
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
