import type { Rational } from '../rational/rational'
import { type Rate, filmRate } from '../rate/rate'
import type { Colour } from './colour'
import type { FieldOrder, Scan } from './scan'
import type { Rotation } from './turn'

/** A stored picture: what of a clip decides how it stands in a format. Clips with equal pictures pay the same. */
export interface Picture {
  readonly width: number
  readonly height: number
  readonly pixelAspect: Rational
  readonly rotation: Rotation
  /** Null for a still, or where the rate is not known. */
  readonly rate: Rate | null
  readonly scan: Scan
  readonly fieldOrder: FieldOrder | null
  /** The line of the stored frame with which it begins, odd or even: 1 where an odd number of baked lines is cropped above it. */
  readonly firstLine: 0 | 1
  /** Share of frames off nominal; null when the rate is constant. */
  readonly offNominalShare: number | null
  readonly minRate: number | null
  readonly maxRate: number | null
  /** Share of frames of numbered pictures that show the one before, since their own is missing; 0 of all else. */
  readonly leftOutShare: number
  readonly primaries: string | null
  readonly transfer: string | null
  readonly matrix: string | null
  readonly bitDepth: number | null
  /** It combs although it counts as progressive. */
  readonly combs: boolean
  /** The place of its frame 0 in a pulldown that was measured; null where none was. */
  readonly pulldownPhase: number | null
  /** That pulldown is taken out wherever the timeline does not hold it: the editor takes the film frames for the clip's. */
  readonly pulldownOut: boolean
  /** No more than this is in it, in pixels of its raster, where it was enlarged before; null where it was not. */
  readonly detail: { readonly width: number; readonly height: number } | null
}

/** How a clip moves: as it is stored, or, where its pulldown is taken out, as the film that it holds. */
export const movingAs = ({
  rate,
  scan,
  pulldownOut,
}: Pick<Picture, 'rate' | 'scan' | 'pulldownOut'>): Pick<Picture, 'rate' | 'scan'> =>
  pulldownOut && rate ? { rate: filmRate(rate), scan: 'progressive' } : { rate, scan }

/** Facts of a file, as far as its picture needs them. */
export interface PictureFacts {
  readonly width: number
  readonly height: number
  readonly pixelAspect: Rational
  readonly rotation: Rotation
  readonly rate: Rate | null
  readonly rateMode: 'constant' | 'variable' | 'unknown'
  readonly minRate?: number | undefined
  readonly maxRate?: number | undefined
  readonly offNominalShare?: number | undefined
  readonly scan: Scan
  readonly fieldOrder: FieldOrder | null
  readonly firstLine?: 0 | 1 | undefined
  readonly numbered?: Numbered | undefined
  readonly bitDepth: number | null
  readonly colour: Colour
  readonly measured?:
    | (Pick<Picture, 'combs' | 'pulldownPhase' | 'detail'> & { readonly pulldownOut?: true | undefined })
    | undefined
}

/** Numbered pictures, as far as their picture needs it. */
interface Numbered {
  readonly first: number
  readonly last: number
  readonly leftOut: readonly { readonly from: number; readonly to: number }[]
}

const leftOutShareOf = (numbered: Numbered | undefined): number =>
  numbered
    ? numbered.leftOut.reduce((sum, { from, to }) => sum + to - from + 1, 0) /
      (numbered.last - numbered.first + 1)
    : 0

export function pictureOf(facts: PictureFacts): Picture {
  const variable = facts.rateMode === 'variable'
  return {
    width: facts.width,
    height: facts.height,
    pixelAspect: facts.pixelAspect,
    rotation: facts.rotation,
    rate: facts.rate,
    scan: facts.scan,
    fieldOrder: facts.fieldOrder,
    firstLine: facts.firstLine ?? 0,
    offNominalShare: variable ? (facts.offNominalShare ?? 0) : null,
    minRate: variable ? (facts.minRate ?? null) : null,
    maxRate: variable ? (facts.maxRate ?? null) : null,
    leftOutShare: leftOutShareOf(facts.numbered),
    primaries: facts.colour.primaries,
    transfer: facts.colour.transfer,
    matrix: facts.colour.matrix,
    bitDepth: facts.bitDepth,
    combs: facts.measured?.combs ?? false,
    pulldownPhase: facts.measured?.pulldownPhase ?? null,
    pulldownOut: facts.measured?.pulldownOut ?? false,
    detail: facts.measured?.detail ?? null,
  }
}

/** Keys once made: facts are values and do not change, and of thousands of clips every weighing asks for them. */
const keysOfFacts = new WeakMap<PictureFacts, string>()

/** Equal for facts that make equal pictures: as `pictureKey`, without the picture. */
export function factsKey(facts: PictureFacts): string {
  const known = keysOfFacts.get(facts)
  if (known !== undefined) return known
  const { rate, pixelAspect, colour } = facts
  const varies =
    facts.rateMode === 'variable' ? `${facts.offNominalShare} ${facts.minRate} ${facts.maxRate}` : ''
  const key =
    `${facts.width} ${facts.height} ${pixelAspect.num} ${pixelAspect.den} ${facts.rotation} ${rate?.num} ${rate?.den} ` +
    `${facts.scan} ${facts.fieldOrder} ${facts.firstLine ?? 0} ${varies} ${leftOutShareOf(facts.numbered)} ${colour.primaries} ${colour.transfer} ${colour.matrix} ${facts.bitDepth} ` +
    `${facts.measured?.combs ?? false} ${facts.measured?.pulldownPhase ?? null} ${facts.measured?.pulldownOut ?? false} ${facts.measured?.detail?.width ?? null} ${facts.measured?.detail?.height ?? null}`
  keysOfFacts.set(facts, key)
  return key
}

/** Gathers what has equal pictures: of thousands of clips, some dozens differ. Pictures are only made for those. */
export function gatherPictures<T, Group>(
  items: Iterable<T>,
  factsOf: (item: T) => PictureFacts | null,
  begin: (picture: Picture) => Group,
  add: (group: Group, item: T) => void,
): Group[] {
  const groups = new Map<string, Group>()
  for (const item of items) {
    const facts = factsOf(item)
    if (!facts) continue
    const key = factsKey(facts)
    let group = groups.get(key)
    if (group === undefined) groups.set(key, (group = begin(pictureOf(facts))))
    add(group, item)
  }
  return [...groups.values()]
}

/** Keys once made; pictures are values and do not change. */
const keys = new WeakMap<Picture, string>()

/** Equal for pictures that pay the same in every format. */
export function pictureKey(picture: Picture): string {
  let key = keys.get(picture)
  if (key === undefined) keys.set(picture, (key = keyOf(picture)))
  return key
}

const keyOf = (p: Picture): string =>
  `${p.width} ${p.height} ${p.pixelAspect.num} ${p.pixelAspect.den} ${p.rotation} ${p.rate?.num} ${p.rate?.den} ` +
  `${p.scan} ${p.fieldOrder} ${p.firstLine} ${p.offNominalShare} ${p.minRate} ${p.maxRate} ${p.leftOutShare} ${p.primaries} ${p.transfer} ${p.matrix} ${p.bitDepth} ` +
  `${p.combs} ${p.pulldownPhase} ${p.pulldownOut} ${p.detail?.width ?? null} ${p.detail?.height ?? null}`
