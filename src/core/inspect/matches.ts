import { type Difference, type DifferenceAbout, differencesOf } from '../format/compare'
import { type Format, sizeName } from '../format/format'
import { pictureOf } from '../picture/picture'
import { uprightSize } from '../picture/turn'
import { rateName } from '../rate/rate'
import type { Reading } from '../reading/reading'
import { nativeCodecs, soundRate } from '../toll/noted'
import { kilohertz, ratio, spaced } from '../words/figures'

/** One property of a clip beside a format's: both in words, and whether they match. Null: nothing is claimed. */
export interface Match {
  readonly about: DifferenceAbout | 'codec' | 'sound'
  readonly clip: string
  readonly format: string
  readonly matches: boolean | null
}

/** A clip against a format, each property alone. @returns nothing for sound files */
export function matchesOf(reading: Reading, format: Format): Match[] {
  const { video, audio } = reading
  if (!video) return []
  const picture = pictureOf(video)
  const found = new Map(differencesOf(picture, format).map((difference) => [difference.about, difference]))
  const size = uprightSize(picture)
  const moving = reading.kind === 'video'
  const { primaries, transfer } = video.colour
  const line = (about: DifferenceAbout, clip: string, ofFormat: string, claimed = true): Match => ({
    about,
    clip,
    format: ofFormat,
    matches: claimed ? !counts(found.get(about)) : null,
  })
  const interlaced = video.scan === 'interlaced' && format.scan === 'interlaced'
  const rates = [...new Set(audio.flatMap((sound) => sound.sampleRate ?? []))]
  return [
    line('size', sizeName(size), sizeName(format)),
    line('pixel shape', ratio(size.pixelAspect), ratio(format.pixelAspect)),
    ...(moving
      ? [
          line(
            'rate',
            video.rate ? rateName(video.rate) : 'not known',
            rateName(format.rate),
            video.rate !== null,
          ),
          line('scan', video.scan, format.scan, video.scan !== 'unknown'),
        ]
      : []),
    ...(moving && interlaced && video.fieldOrder && format.fieldOrder
      ? [
          line(
            'field order',
            spaced(video.fieldOrder),
            spaced(format.fieldOrder),
            video.fieldOrder !== 'unknown',
          ),
        ]
      : []),
    line(
      'colour',
      colourText(video.colour),
      colourText(format.colour),
      primaries !== null || transfer !== null,
    ),
    line(
      'depth',
      video.bitDepth ? `${video.bitDepth} bit` : 'not stated',
      `${format.colour.bitDepth} bit`,
      video.bitDepth !== null,
    ),
    ...(moving
      ? [
          {
            about: 'codec' as const,
            clip: video.codec,
            format: 'decoded by browsers',
            matches: nativeCodecs.has(video.codec),
          },
        ]
      : []),
    ...(rates.length
      ? [
          {
            about: 'sound' as const,
            clip: rates.map(kilohertz).join(', '),
            format: kilohertz(soundRate),
            matches: rates.every((rate) => rate === soundRate),
          },
        ]
      : []),
  ]
}

/** Another matrix is computed exactly: it is no mismatch. */
const counts = (difference: Difference | undefined): boolean =>
  difference !== undefined && !(difference.about === 'colour' && difference.step === 'matrix')

const colourText = ({ primaries, transfer }: { primaries: string | null; transfer: string | null }) =>
  [...new Set([primaries, transfer])].filter(Boolean).join(' / ') || 'not stated'
