import { type Format } from '../format/format'
import { isTapeRaster, standardSizes } from '../format/standard'
import { equal, toNumber } from '../rational/rational'
import { type Picture } from '../picture/picture'
import { type FrameSize, displayAspect, isUpright, sizeKey, square, squareSize } from '../picture/size'
import { isQuarterTurn, turnedSize, uprightSize } from '../picture/turn'
import type { Ranking, Policy } from '../toll/policy'
import { type Held, gatherWeight, holds, mostHeld, totalWeight } from './weight'
import type { Bloc } from './bloc'

const plain = (width: number, height: number): FrameSize => ({ width, height, pixelAspect: square })
const hd = plain(1920, 1080)
const uhd = plain(3840, 2160)
/** Sizes that are set up where enough footage has them. */
const usual = [plain(1280, 720), plain(2048, 1080), plain(4096, 2160), plain(7680, 4320)]
const pixelsOf = ({ width, height }: { width: number; height: number }) => width * height
const isSquare = ({ pixelAspect }: FrameSize) => equal(pixelAspect, square)
/** Shapes that differ by no more than this are one. */
const sameShape = 0.02
const isOfShape = (size: FrameSize, other: FrameSize): boolean =>
  Math.abs(toNumber(displayAspect(size)) / toNumber(displayAspect(other)) - 1) <= sameShape

/** Sizes, each once, in the order in which they came. */
function sizeSet() {
  const sizes = new Map<string, FrameSize>()
  return {
    add: ({ width, height, pixelAspect }: FrameSize) => {
      const size = { width, height, pixelAspect }
      sizes.set(sizeKey(size), size)
    },
    sizes: () => [...sizes.values()],
  }
}

/** The orientations that count for a ballot: those that hold their share of the weight. */
export function orientations(blocs: readonly Bloc[], policy: Policy): boolean[] {
  const weight = totalWeight(blocs)
  const upright = totalWeight(blocs.filter((bloc) => isUpright(uprightSize(bloc.picture))))
  const share = policy.shares.orientation
  return [
    ...(holds(weight - upright, weight, share) ? [false] : []),
    ...(holds(upright, weight, share) ? [true] : []),
  ]
}

/** Sizes of the footage as they stand, with what of it has them. @param sizeOf as stored, or in square pixels */
const heldSizes = (blocs: readonly Bloc[], sizeOf: (picture: Picture) => FrameSize): Held<FrameSize>[] =>
  gatherWeight(
    blocs.map(({ picture, weight }) => ({ value: sizeOf(picture), weight })),
    sizeKey,
  )

/** Much more than HD: a drone of 2.7K or a desktop of 16:10 is no reason for UHD. */
const isMuchLarger = ({ picture }: Bloc) => pixelsOf(picture) > 2 * pixelsOf(hd)
const isOneOf = (size: FrameSize, sizes: readonly FrameSize[]) =>
  sizes.some((known) => [sizeKey(known), sizeKey(turnedSize(known))].includes(sizeKey(size)))

/** The frame sizes worth pricing for footage, and for what is delivered of it. */
export const candidateSizes = (
  blocs: readonly Bloc[],
  deliverables: readonly Format[],
  policy: Policy,
  lean: Ranking,
): FrameSize[] =>
  deliverables.length > 0 ? delivered(blocs, deliverables, policy) : ofFootage(blocs, policy, lean)

/**
 * Where nothing is delivered yet: HD always, UHD where much larger was filmed, other sizes of the trade that hold a tenth of the weight, any
 * other only where it holds nine tenths, since nobody sets up a tape's frame or a laptop's while a standard one is there.
 */
function ofFootage(blocs: readonly Bloc[], policy: Policy, lean: Ranking): FrameSize[] {
  const weight = totalWeight(blocs)
  const { proposes, oddSize, oddSizeMajority } = policy.shares
  const odd = lean === 'majority' ? oddSizeMajority : oddSize
  const ways = orientations(blocs, policy)
  const { add, sizes } = sizeSet()
  const inEachWay = (size: FrameSize) => ways.forEach((upright) => add(upright ? turnedSize(size) : size))
  inEachWay(hd)
  if (holds(totalWeight(blocs.filter(isMuchLarger)), weight, proposes)) inEachWay(uhd)
  const offered = ({ value }: Held<FrameSize>) => ways.includes(isUpright(value))
  for (const held of heldSizes(blocs, uprightSquare).filter(offered))
    if (holds(held.weight, weight, isOneOf(held.value, usual) ? proposes : odd)) add(held.value)
  for (const held of heldSizes(blocs, uprightSize).filter(offered)) {
    const isSqueezedTape = !isSquare(held.value) && isTapeRaster(held.value)
    if (!isSqueezedTape || !holds(held.weight, weight, odd)) continue
    add(held.value)
    add(squareSize(held.value))
  }
  return sizes()
}

/**
 * Where deliverables are known: theirs, larger masters of their shape, and the raster of nearly all footage where it is smaller. One cuts in
 * what is delivered, or in what the footage is and converts once at the end; never in a third thing.
 */
function delivered(blocs: readonly Bloc[], deliverables: readonly Format[], policy: Policy): FrameSize[] {
  const weight = totalWeight(blocs)
  const { proposes, oddSize } = policy.shares
  const kept = ofMostFootage(blocs, deliverables)
  const { add, sizes } = sizeSet()
  kept.forEach(add)
  const smallest = Math.min(...kept.map(pixelsOf))
  const largest = Math.max(...kept.map(pixelsOf))
  const isWanted = (size: FrameSize) => kept.some((deliverable) => isOfShape(size, deliverable))
  const held = heldSizes(blocs, uprightSquare)
  const holdsTenth = (size: FrameSize) =>
    holds(totalWeight(held.filter(({ value }) => isOneOf(value, [size]))), weight, proposes)
  const masters = [
    hd,
    ...(holds(totalWeight(blocs.filter(isMuchLarger)), weight, proposes) ? [uhd] : []),
    ...standardSizes.filter((size) => isSquare(size) && holdsTenth(size)),
  ]
  for (const master of masters.flatMap((size) => [size, turnedSize(size)]))
    if (pixelsOf(master) > smallest && isWanted(master)) add(master)
  for (const { value, weight: share } of heldSizes(blocs, uprightSize)) {
    const isRaster = isSquare(value) || isTapeRaster(value)
    if (isRaster && holds(share, weight, oddSize) && pixelsOf(value) < largest && isWanted(value)) add(value)
  }
  return sizes()
}

/** Of deliverables of several shapes those whose shape most of the footage has; all of them where none has any. */
function ofMostFootage(blocs: readonly Bloc[], deliverables: readonly Format[]): readonly Format[] {
  const shaped = deliverables.map((value) => ({
    value,
    weight: totalWeight(blocs.filter(({ picture }) => isOfShape(uprightSize(picture), value))),
  }))
  const most = mostHeld(shaped, sizeKey)
  const hasAny = shaped.some(({ weight }) => weight > 0)
  return most && hasAny ? deliverables.filter((deliverable) => isOfShape(deliverable, most)) : deliverables
}

/** The square size of a stored picture, then turned as it is shown. */
function uprightSquare(picture: Picture): FrameSize {
  const size = squareSize(picture)
  const { width, height, pixelAspect } = isQuarterTurn(picture.rotation) ? turnedSize(size) : size
  return { width, height, pixelAspect }
}
