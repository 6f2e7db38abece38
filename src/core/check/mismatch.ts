import { present } from '../assert'
import { type Clip } from '../model/clip'
import { type Doc, formatOf, weightsOf } from '../model/project'
import { formatOfClip } from '../edit/placing'
import { reframed } from '../edit/reformat'
import { type Timeline } from '../model/timeline'
import { type DifferenceAbout, differencesOf } from '../format/compare'
import type { Format } from '../format/format'
import { type Picture, pictureOf } from '../picture/picture'
import type { Toll } from '../toll/charge'
import { tollOf } from '../toll/toll'
import { type Check, checkTimeline } from './check'

/** What a clip is asked about when it is placed: all that a format can take from it. */
const asked: readonly DifferenceAbout[] = ['size', 'pixel shape', 'rate', 'scan']

/** Both answers to a clip that does not match its timeline, priced. */
export interface Mismatch {
  readonly clip: Clip
  readonly timelineFormat: Format
  readonly clipFormat: Format
  readonly differsIn: readonly DifferenceAbout[]
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
  const { reading } = clip
  if (!timelineFormat || !reading?.video) return null
  const clipFormat = formatOfClip(clip, timelineFormat.colour)
  if (!clipFormat) return null
  const picture = pictureOf(reading.video)
  const differsIn = mismatches(picture, timelineFormat)
  if (differsIn.length === 0) return null

  const weights = weightsOf(doc.project)
  const [kept, taken] = [timelineFormat, clipFormat].map((format) =>
    tollOf(picture, format, undefined, weights),
  ) as [Toll, Toll]
  const { timeline: carried } = reframed(doc, doc, timeline, { ...timeline, ownFormat: clipFormat })
  const check = (timeline: Timeline) =>
    present(checkTimeline(doc, timeline), 'a timeline with a format can be checked')
  const [before, after] = [check(timeline), check(carried)]
  const seconds = reading.durationSec ?? 0
  return {
    clip,
    timelineFormat,
    clipFormat,
    differsIn,
    kept: { toll: kept, untouchedShare: shareWith(before, kept, seconds) },
    taken: {
      toll: taken,
      untouchedShare: shareWith(after, taken, seconds),
      worsened: worsened(before, after),
    },
  }
}

/** The properties in which a picture differs from a format and that are asked about. */
export const mismatches = (picture: Picture, format: Format): DifferenceAbout[] =>
  differencesOf(picture, format)
    .map(({ about }) => about)
    .filter((about) => asked.includes(about))

/** The share of running time that is untouched once a clip is added; in seconds, since formats count frames differently. */
function shareWith({ frames, format, untouchedShare }: Check, { untouched }: Toll, seconds: number): number {
  const placed = (frames * format.rate.den) / format.rate.num
  const total = placed + seconds
  return total > 0 ? (placed * untouchedShare + (untouched ? seconds : 0)) / total : 1
}

/** How many placed pictures pay more afterwards. */
const worsened = (before: Check, after: Check): number =>
  after.findings.filter(({ toll }, i) => toll.loss > (before.findings[i]?.toll.loss ?? 1) + 1e-9).length
