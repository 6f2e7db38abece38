import type { Format } from '../format/format'
import type { Picture } from '../picture/picture'
import { type FrameSize, displayAspect, displaySize } from '../picture/size'
import { uprightSize } from '../picture/turn'
import { type Rate, doubledRate, filmRate } from '../rate/rate'
import { equal, rational, toNumber } from '../rational/rational'
import type { Sides } from '../treatment/treatment'
import type { Untreated } from './untreated'

/** What is done to a clip, one after the other, so that it runs in a timeline. */
export type TreatmentStep =
  | 'remove-pulldown'
  | 'remove-repeats'
  | 'weave'
  | 'keep-fields'
  | 'shift-order'
  | 'deinterlace-same'
  | 'deinterlace-double'
  | 'fields-from-frames'
  | 'pulldown'
  | 'every-frame'
  | 'nearest'

/** What an editor does as a matter of course with a clip that nobody has treated. */
export interface Proposal {
  readonly steps: readonly TreatmentStep[]
  readonly framing: 'same' | 'fit' | 'fill' | 'one-to-one'
  /** Baked bars that are cropped away; null where none are. */
  readonly crop: Sides | null
}

const film = [rational(24000, 1001), rational(24)]
const [r25, ntsc] = [rational(25), rational(30000, 1001)]
const isOneOf = (rate: Rate, rates: readonly Rate[]) => rates.some((known) => equal(known, rate))
/** A rate and its like with 1000 and 1001; the rates of film and of 25, which are run in each other everywhere. */
const isNear = (a: Rate, b: Rate): boolean =>
  Math.abs(toNumber(a) / toNumber(b) - 1) <= 0.0011 || [a, b].every((rate) => isOneOf(rate, [...film, r25]))

/**
 * What is offered for a clip that nobody has treated: what is done as a matter of course, not what loses least. Nothing is ever mixed or
 * stretched unasked, and no speed changes but that of what is meant to be slowed, of near twins, and of 23.976, 24 and 25 in each other.
 */
export function proposal(clip: Untreated, format: Format): Proposal {
  return { steps: stepsFor(clip, format), ...framingFor(clip, format) }
}

function stepsFor(clip: Untreated, format: Format): readonly TreatmentStep[] {
  const { picture, pulldown, repeats, isOfOneMoment } = clip
  const { rate, scan, pulldownOut } = picture
  if (!rate) return []
  const runsAtOwn = equal(rate, format.rate)
  // What was put in is taken out first, unless the timeline holds it as it is; what is left goes on as film of its own rate.
  if ((pulldown || pulldownOut) && !(format.scan === 'interlaced' && runsAtOwn)) {
    const film = progressive(clip, filmRate(rate), format)
    return pulldownOut ? film : ['remove-pulldown', ...film]
  }
  if (repeats && !runsAtOwn) return ['remove-repeats', ...progressive(clip, repeats.trueRate, format)]
  if (scan !== 'interlaced') return progressive(clip, rate, format)
  if (isOfOneMoment) return ['weave', ...progressive(clip, rate, format)]
  return format.scan === 'interlaced' ? fieldsIn(picture, rate, format) : deinterlaced(rate, format.rate)
}

function progressive(
  { captureRate, picture }: Untreated,
  rate: Rate,
  format: Format,
): readonly TreatmentStep[] {
  const { rate: timeline, scan } = format
  if (equal(rate, timeline)) return []
  if (scan === 'interlaced') {
    if (equal(rate, doubledRate(timeline))) return ['fields-from-frames']
    if (isOneOf(rate, film) && equal(timeline, ntsc)) return ['pulldown']
  }
  if (captureRate && toNumber(captureRate) > toNumber(rate)) return ['every-frame']
  if (picture.offNominalShare !== null) return ['nearest']
  return isNear(rate, timeline) ? ['every-frame'] : ['nearest']
}

function deinterlaced(rate: Rate, timeline: Rate): readonly TreatmentStep[] {
  if (equal(rate, timeline)) return ['deinterlace-same']
  if (equal(doubledRate(rate), timeline)) return ['deinterlace-double']
  return equal(rate, r25) && isOneOf(timeline, film)
    ? ['deinterlace-same', 'every-frame']
    : ['deinterlace-double', 'nearest']
}

function fieldsIn({ fieldOrder }: Picture, rate: Rate, format: Format): readonly TreatmentStep[] {
  if (!equal(rate, format.rate)) return ['deinterlace-double', 'nearest']
  const isOther = fieldOrder !== null && fieldOrder !== 'unknown' && fieldOrder !== format.fieldOrder
  return isOther ? ['keep-fields', 'shift-order'] : ['keep-fields']
}

/** Shapes that differ by no more than this are one. */
const sameShape = 0.02
const isOfShape = (size: FrameSize, frame: FrameSize): boolean =>
  Math.abs(toNumber(displayAspect(size)) / toNumber(displayAspect(frame)) - 1) <= sameShape

function framingFor(
  { picture, isOverlay, bars }: Untreated,
  format: Format,
): Pick<Proposal, 'framing' | 'crop'> {
  const size = uprightSize(picture)
  const [shown, frame] = [displaySize(size), displaySize(format)]
  if (isOverlay && shown.width <= frame.width && shown.height <= frame.height)
    return { framing: 'one-to-one', crop: null }
  if (shown.width === frame.width && shown.height === frame.height) return { framing: 'same', crop: null }
  if (isOfShape(size, format)) return { framing: 'fill', crop: null }
  if (bars) {
    const within = {
      ...picture,
      width: Math.max(1, picture.width - bars.left - bars.right),
      height: Math.max(1, picture.height - bars.top - bars.bottom),
    }
    if (isOfShape(uprightSize(within), format)) return { framing: 'fill', crop: bars }
  }
  return { framing: 'fit', crop: null }
}
