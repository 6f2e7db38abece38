import { type Rational, divide, nearestRational, rational } from '../rational/rational'
import type { Format } from '../format/format'
import { type FormatColour, makeFormat } from '../format/format'
import { uprightSize } from '../choice/sizes'
import { pictureOf } from '../toll/picture'
import { plainTreatment } from '../toll/treatment'
import { framesOf } from './carry'
import type { Clip, Placement } from './project'

/** A still stays for five seconds unless told otherwise. */
export const stillSeconds = rational(5)

/** How long a clip lasts, exact where its frames are counted. */
export function exactDuration(clip: Clip): Rational {
  const { reading } = clip
  const video = reading?.video
  if (!reading || reading.kind === 'still') return stillSeconds
  if (video?.rate && video.frameCount && video.rateMode === 'constant')
    return divide(rational(video.frameCount), video.rate)
  return nearestRational(reading.durationSec ?? 0, 1e-6)
}

/** A placement of the whole clip in a format, without its start. */
export function placementOf(clip: Clip, format: Format, id: string): Omit<Placement, 'start'> {
  return {
    id,
    clipId: clip.id,
    length: framesOf(exactDuration(clip), format.rate),
    sourceIn: rational(0),
    treatment: plainTreatment,
  }
}

/** The format that a video clip itself has; null for stills, sound and clips without a known rate. */
export function formatOfClip(clip: Clip, colour: FormatColour): Format | null {
  const video = clip.reading?.kind === 'video' ? clip.reading.video : null
  if (!video?.rate) return null
  const size = uprightSize(pictureOf(video))
  const format = makeFormat(
    size,
    video.rate,
    video.scan === 'interlaced' ? 'interlaced' : 'progressive',
    colour,
  )
  return video.scan === 'interlaced' && video.fieldOrder !== 'unknown'
    ? { ...format, fieldOrder: video.fieldOrder }
    : format
}
