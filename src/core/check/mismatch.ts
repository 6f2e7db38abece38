import { formatOfClip } from '../edit/place'
import { type Clip, type Doc, type Timeline, formatOf, weightsOf } from '../edit/project'
import type { Format } from '../format/format'
import { sameSize } from '../format/format'
import { equal } from '../rational/rational'
import type { Toll } from '../toll/charge'
import { pictureOf } from '../toll/picture'
import { tollOf } from '../toll/toll'
import { checkTimeline } from './check'

/** Both answers to a clip that does not match its timeline, priced. */
export interface Mismatch {
  readonly clip: Clip
  readonly timelineFormat: Format
  readonly clipFormat: Format
  readonly differsIn: readonly ('size' | 'pixel shape' | 'rate' | 'scan')[]
  /** Keeping the timeline's format: what the clip pays. */
  readonly kept: { readonly toll: Toll; readonly untouchedShare: number }
  /** Taking the clip's format: what the clip pays even there (a variable rate), and what the timeline comes to. */
  readonly taken: { readonly toll: Toll; readonly untouchedShare: number; readonly worsened: number }
}

/**
 * What placing a clip would mean where it differs in size, pixel shape, rate or scan.
 * @returns null where it matches, or where it has no format to offer: stills and sound never set one.
 */
export function mismatchOf(doc: Doc, timeline: Timeline, clip: Clip): Mismatch | null {
  const timelineFormat = formatOf(doc, timeline)
  if (!timelineFormat) return null
  const clipFormat = formatOfClip(clip, timelineFormat.colour)
  const video = clip.reading?.video
  if (!clipFormat || !video) return null
  const differsIn = differences(clipFormat, timelineFormat)
  if (differsIn.length === 0) return null

  const picture = pictureOf(video)
  const tollIn = (format: Format) => tollOf(picture, format, undefined, weightsOf(doc.project))
  const [kept, taken] = [tollIn(timelineFormat), tollIn(clipFormat)]
  const before = checkTimeline(doc, timeline)!
  const after = checkTimeline(doc, { ...timeline, ownFormat: clipFormat })!
  const seconds = clip.reading!.durationSec ?? 0
  const addedTo = (check: typeof before, { grade }: Toll) => {
    // In seconds, since the two formats count frames differently.
    const placed = (check.frames * timelineFormat.rate.den) / timelineFormat.rate.num
    const total = placed + seconds
    return total > 0 ? (placed * check.untouchedShare + (grade === 'free' ? seconds : 0)) / total : 1
  }
  const worsened = after.findings.filter((f, i) => f.toll.loss > before.findings[i].toll.loss + 1e-9).length
  return {
    clip,
    timelineFormat,
    clipFormat,
    differsIn,
    kept: { toll: kept, untouchedShare: addedTo(before, kept) },
    taken: { toll: taken, untouchedShare: addedTo(after, taken), worsened },
  }
}

/** What tells two formats apart, each alone. */
export function differences(a: Format, b: Format): Mismatch['differsIn'] {
  const sizesDiffer = a.width !== b.width || a.height !== b.height
  return [
    ...(sizesDiffer ? (['size'] as const) : []),
    ...(!equal(a.pixelAspect, b.pixelAspect) && !sameSize(a, b) ? (['pixel shape'] as const) : []),
    ...(!equal(a.rate, b.rate) ? (['rate'] as const) : []),
    ...(a.scan !== b.scan ? (['scan'] as const) : []),
  ]
}
