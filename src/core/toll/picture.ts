import type { Rational } from '../rational/rational'
import type { Rate } from '../rate/rate'
import type { FieldOrder, Rotation, Scan, VideoFacts } from '../reading/reading'

/** What of a clip's reading decides its toll. Clips with equal pictures pay the same. */
export interface Picture {
  readonly width: number
  readonly height: number
  readonly pixelAspect: Rational
  readonly rotation: Rotation
  /** Null for a still, or where the rate is not known. */
  readonly rate: Rate | null
  readonly scan: Scan
  readonly fieldOrder: FieldOrder | null
  /** Share of frames off nominal; null when the rate is constant. */
  readonly offNominalShare: number | null
  readonly minRate: number | null
  readonly maxRate: number | null
  readonly primaries: string | null
  readonly transfer: string | null
  readonly bitDepth: number | null
}

export function pictureOf(video: VideoFacts): Picture {
  const variable = video.rateMode === 'variable'
  return {
    width: video.width,
    height: video.height,
    pixelAspect: video.pixelAspect,
    rotation: video.rotation,
    rate: video.rate,
    scan: video.scan,
    fieldOrder: video.fieldOrder,
    offNominalShare: variable ? (video.offNominalShare ?? 0) : null,
    minRate: variable ? (video.minRate ?? null) : null,
    maxRate: variable ? (video.maxRate ?? null) : null,
    primaries: video.colour.primaries,
    transfer: video.colour.transfer,
    bitDepth: video.bitDepth,
  }
}

/** Gathers what has equal pictures: of thousands of clips, some dozens differ. Pictures are only made for those. */
export function gatherPictures<T, Group>(
  items: Iterable<T>,
  videoOf: (item: T) => VideoFacts | null,
  begin: (picture: Picture) => Group,
  add: (group: Group, item: T) => void,
): Group[] {
  const groups = new Map<string, Group>()
  for (const item of items) {
    const video = videoOf(item)
    if (!video) continue
    const { rate, pixelAspect, colour } = video
    const varies =
      video.rateMode === 'variable' ? `${video.offNominalShare} ${video.minRate} ${video.maxRate}` : ''
    const key =
      `${video.width} ${video.height} ${pixelAspect.num} ${pixelAspect.den} ${video.rotation} ${rate?.num} ${rate?.den} ` +
      `${video.scan} ${video.fieldOrder} ${varies} ${colour.primaries} ${colour.transfer} ${video.bitDepth}`
    let group = groups.get(key)
    if (group === undefined) groups.set(key, (group = begin(pictureOf(video))))
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
  `${p.scan} ${p.fieldOrder} ${p.offNominalShare} ${p.minRate} ${p.maxRate} ${p.primaries} ${p.transfer} ${p.bitDepth}`
