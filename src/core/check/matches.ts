import { uprightSize } from '../choice/sizes'
import { type Format, sizeName } from '../format/format'
import { rateName } from '../rate/rate'
import { equal } from '../rational/rational'
import { isHdr } from '../reading/colour'
import type { Reading } from '../reading/reading'
import { nativeCodecs, soundRate } from '../toll/noted'
import { pictureOf } from '../toll/picture'

/** One property of a clip beside a format's: both in words, and whether they match. Null: nothing is claimed. */
export interface Match {
  readonly about: 'size' | 'pixel shape' | 'rate' | 'scan' | 'colour' | 'depth' | 'codec' | 'sound'
  readonly clip: string
  readonly format: string
  readonly matches: boolean | null
}

/** A clip against a format, each property alone. @returns nothing for sound files */
export function matchesOf(reading: Reading, format: Format): Match[] {
  const { video, audio } = reading
  if (!video) return []
  const size = uprightSize(pictureOf(video))
  const aspect = (a: { num: number; den: number }) => `${a.num}:${a.den}`
  const colour = (c: { primaries: string | null; transfer: string | null }) =>
    [...new Set([c.primaries, c.transfer])].filter(Boolean).join(' / ') || 'not stated'
  const moving = reading.kind === 'video'
  const { primaries, transfer } = video.colour
  const rates = [...new Set(audio.flatMap((sound) => sound.sampleRate ?? []))]
  return [
    {
      about: 'size',
      clip: sizeName(size),
      format: sizeName(format),
      matches: size.width === format.width && size.height === format.height,
    },
    {
      about: 'pixel shape',
      clip: aspect(size.pixelAspect),
      format: aspect(format.pixelAspect),
      matches: equal(size.pixelAspect, format.pixelAspect),
    },
    ...(moving
      ? [
          {
            about: 'rate' as const,
            clip: video.rate ? rateName(video.rate) : 'not known',
            format: rateName(format.rate),
            matches: video.rate && equal(video.rate, format.rate),
          },
          {
            about: 'scan' as const,
            clip: video.scan,
            format: format.scan,
            matches: video.scan === 'unknown' ? null : video.scan === format.scan,
          },
        ]
      : []),
    {
      about: 'colour',
      clip: colour(video.colour),
      format: colour(format.colour),
      matches:
        primaries === null && transfer === null
          ? null
          : (primaries === null || primaries === format.colour.primaries) &&
            (transfer === null || isHdr(transfer) === isHdr(format.colour.transfer)),
    },
    {
      about: 'depth',
      clip: video.bitDepth ? `${video.bitDepth} bit` : 'not stated',
      format: `${format.colour.bitDepth} bit`,
      matches: video.bitDepth === null ? null : video.bitDepth <= format.colour.bitDepth,
    },
    ...(moving
      ? [
          {
            about: 'codec' as const,
            clip: video.codec,
            format: 'decoded here',
            matches: nativeCodecs.has(video.codec),
          },
        ]
      : []),
    ...(rates.length
      ? [
          {
            about: 'sound' as const,
            clip: rates.map((rate) => `${rate / 1000} kHz`).join(', '),
            format: `${soundRate / 1000} kHz`,
            matches: rates.every((rate) => rate === soundRate),
          },
        ]
      : []),
  ]
}
