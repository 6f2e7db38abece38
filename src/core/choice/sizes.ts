import { type Format } from '../format/format'
import { isTapeRaster } from '../format/standard'
import { equal } from '../rational/rational'
import { type Picture } from '../picture/picture'
import { type FrameSize, isUpright, square, squareSize, sizeKey } from '../picture/size'
import { isQuarterTurn, turnedSize, uprightSize } from '../picture/turn'
import type { Policy } from '../toll/policy'
import type { Bloc } from './vote'
import { type Held, gatherWeight, holds, weightOf } from './weight'

const plain = (width: number, height: number): FrameSize => ({ width, height, pixelAspect: square })
const hd = plain(1920, 1080)
const uhd = plain(3840, 2160)
/** Sizes that are set up where enough footage has them. */
const usual = [plain(1280, 720), plain(2048, 1080), plain(4096, 2160), plain(7680, 4320)]

/** The orientations that count for a ballot: those that hold their share of the weight. */
export function orientations(blocs: readonly Bloc[], policy: Policy): boolean[] {
  const weight = weightOf(blocs)
  const upright = weightOf(blocs.filter((bloc) => isUpright(uprightSize(bloc.picture))))
  const share = policy.shares.orientation
  return [
    ...(holds(weight - upright, weight, share) ? [false] : []),
    ...(holds(upright, weight, share) ? [true] : []),
  ]
}

/**
 * The frame sizes worth pricing: HD always, UHD where larger was filmed, other sizes of the trade that hold a tenth of the
 * weight, any other only where it holds nine tenths, and what is delivered; in the orientations that count.
 */
export function candidateSizes(
  blocs: readonly Bloc[],
  deliverables: readonly Format[],
  policy: Policy,
): FrameSize[] {
  const weight = weightOf(blocs)
  const { proposes, oddSize } = policy.shares
  const ways = orientations(blocs, policy)
  const sizes = new Map<string, FrameSize>()
  const add = ({ width, height, pixelAspect }: FrameSize) => {
    const size = { width, height, pixelAspect }
    sizes.set(sizeKey(size), size)
  }
  const inEachWay = (size: FrameSize) => ways.forEach((upright) => add(upright ? turnedSize(size) : size))

  inEachWay(hd)
  const larger = blocs.filter(({ picture }) => picture.width * picture.height > hd.width * hd.height)
  if (holds(weightOf(larger), weight, proposes)) inEachWay(uhd)

  const offered = ({ value }: Held<FrameSize>) => ways.includes(isUpright(value))
  const squares = gatherWeight(
    blocs.map(({ picture, weight }) => ({ value: uprightSquare(picture), weight })),
    sizeKey,
  ).filter(offered)
  const isUsual = (size: FrameSize) =>
    usual.some((known) => [sizeKey(known), sizeKey(turnedSize(known))].includes(sizeKey(size)))
  for (const held of squares)
    if (holds(held.weight, weight, isUsual(held.value) ? proposes : oddSize)) add(held.value)

  // Squeezed as it lies on tape: nobody sets that up while anything else was filmed.
  const stored = gatherWeight(
    blocs.map(({ picture, weight }) => ({ value: uprightSize(picture), weight })),
    sizeKey,
  ).filter(offered)
  for (const { value, weight: held } of stored) {
    const squeezed = !equal(value.pixelAspect, square)
    if (squeezed && isTapeRaster(value) && holds(held, weight, oddSize)) {
      add(value)
      add(squareSize(value))
    }
  }

  const alongside = deliverables.filter((d) => weight === 0 || ways.includes(isUpright(d)))
  for (const deliverable of alongside.length ? alongside : deliverables) add(deliverable)
  return [...sizes.values()]
}

/** The square size of a stored picture, then turned as it is shown. */
function uprightSquare(picture: Picture): FrameSize {
  const size = squareSize(picture)
  const { width, height, pixelAspect } = isQuarterTurn(picture.rotation) ? turnedSize(size) : size
  return { width, height, pixelAspect }
}
