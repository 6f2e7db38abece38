import type { Deliverable } from '../model/deliverable'
import { toNumber } from '../rational/rational'
import { counted, kilohertz } from '../words/figures'
import {
  type Profile,
  type VideoCodec,
  levelFor,
  perChroma,
  profileNamed,
  soundCodecNamed,
  soundCodecs,
  videoCodecNamed,
  videoCodecs,
  wrapperNamed,
} from './codecs'
import { channelsOf, layoutOf } from '../sound/mix'
import { bitRateRange, soundIn, soundLike, usualSound, usualVideo, wrapped } from './usual'

/** What of a deliverable cannot be, in a sentence, and the nearest that can. */
export interface Breach {
  readonly says: string
  /** What the nearest valid choice is called, and the deliverable with it; null where there is none. */
  readonly instead: { readonly name: string; readonly deliverable: Deliverable } | null
}

/** What the standards, and what can be made here, do not let be; the wrapper first. */
export function breachesOf(deliverable: Deliverable): Breach[] {
  return [...wrapperBreaches(deliverable), ...pictureBreaches(deliverable), ...soundBreaches(deliverable)]
}

const instead = (name: string, deliverable: Deliverable): Breach['instead'] => ({ name, deliverable })

/** A deliverable in another codec, in the wrapper that usually carries it. */
function inWrapperOf(codec: VideoCodec, deliverable: Deliverable): Deliverable {
  const [wrapper = null] = codec.wrappers
  const { sound } = deliverable
  return {
    ...deliverable,
    wrapper,
    video: usualVideo(codec, deliverable),
    sound: soundLike(sound, soundIn(wrapper, codec.name)),
  }
}

function wrapperBreaches(deliverable: Deliverable): Breach[] {
  const { wrapper, video, sound } = deliverable
  const holder = wrapperNamed(wrapper)
  if (!holder)
    return [
      {
        says: `${wrapper ?? 'No wrapper'} is no wrapper that can be written here.`,
        instead: instead('MP4', { ...deliverable, wrapper: 'MP4' }),
      },
    ]
  const breaches: Breach[] = []
  const codec = videoCodecNamed(video?.codec)
  if (codec && !codec.wrappers.includes(holder)) {
    const [other] = codec.wrappers
    breaches.push({
      says: `${holder} does not carry ${codec.name}.`,
      instead: other
        ? instead(other, {
            ...deliverable,
            wrapper: other,
            sound: soundLike(sound, soundIn(other, codec.name)),
          })
        : null,
    })
  }
  const heard = soundCodecNamed(sound?.codec)
  if (heard && sound && !heard.wrappers.includes(holder)) {
    const other = soundCodecs.find((soundCodec) => soundCodec.wrappers.includes(holder))
    breaches.push({
      says: `${holder} does not carry ${heard.name}.`,
      instead: other
        ? instead(other.name, { ...deliverable, sound: soundLike(sound, usualSound(other)) })
        : null,
    })
  }
  return breaches
}

function pictureBreaches(deliverable: Deliverable): Breach[] {
  const { format, video } = deliverable
  if (!video) return []
  const codec = videoCodecNamed(video.codec)
  if (!codec)
    return [
      {
        says: `${video.codec} cannot be made here.`,
        instead: instead('H.264', wrapped({ ...deliverable, video: null, wrapper: null })),
      },
    ]
  const profile = profileNamed(codec, video.profile)
  if (!profile) {
    const usual = usualVideo(codec, deliverable)
    return [
      {
        says: `${codec.name} has no profile ${video.profile ?? 'that is said'} here.`,
        instead: instead(`${codec.name} ${usual.profile}`, { ...deliverable, video: usual }),
      },
    ]
  }
  return [
    ...interlaceBreaches(deliverable, codec),
    ...sizeBreaches(deliverable, profile),
    ...depthBreaches(deliverable, codec, profile),
    ...(codec.amount === 'bit-rate' && video.rateControl?.kind !== 'bit-rate'
      ? [
          {
            says: `${codec.name} needs a bit rate.`,
            instead: instead('the middle of its range', {
              ...deliverable,
              video: { ...video, rateControl: usualVideo(codec, { ...deliverable, format }).rateControl },
            }),
          },
        ]
      : []),
    ...passesBreaches(deliverable, codec),
    ...levelBreaches(deliverable, codec),
  ]
}

function interlaceBreaches(deliverable: Deliverable, codec: VideoCodec): Breach[] {
  const { format } = deliverable
  if (format.scan !== 'interlaced' || codec.interlaced) return []
  const other = videoCodecs.find((videoCodec) => videoCodec.interlaced && videoCodec.name === 'MPEG-2')
  return [
    {
      says: `${codec.name} holds no fields: interlaced pictures would comb for good.`,
      instead: other ? instead(other.name, inWrapperOf(other, deliverable)) : null,
    },
  ]
}

function sizeBreaches(deliverable: Deliverable, { chroma, name }: Profile): Breach[] {
  const { format } = deliverable
  const [across, down] = perChroma[chroma]
  // A field is every second line, and has chroma of its own.
  const lines = down * (format.scan === 'interlaced' ? 2 : 1)
  const even = (length: number, by: number) => Math.max(by, Math.round(length / by) * by)
  const [width, height] = [even(format.width, across), even(format.height, lines)]
  if (width === format.width && height === format.height) return []
  const needs = [across > 1 && `a width of whole ${across}s`, lines > 1 && `a height of whole ${lines}s`]
  return [
    {
      says: `${name} in ${chroma} needs ${needs.filter(Boolean).join(' and ')}: ${format.width}×${format.height} has none.`,
      instead: instead(`${width}×${height}`, { ...deliverable, format: { ...format, width, height } }),
    },
  ]
}

function depthBreaches(deliverable: Deliverable, codec: VideoCodec, profile: Profile): Breach[] {
  const { format, video } = deliverable
  const isDeep = format.colour.transfer === 'pq' || format.colour.transfer === 'hlg'
  if (!isDeep || profile.bitDepth >= 10 || !video) return []
  const deeper = codec.profiles.find(({ bitDepth }) => bitDepth >= 10)
  return [
    {
      says: `${codec.name} ${profile.name} has 8 bits a sample: HDR shows bands in it.`,
      instead: deeper
        ? instead(`${codec.name} ${deeper.name}`, {
            ...deliverable,
            video: { ...video, profile: deeper.name },
          })
        : null,
    },
  ]
}

function passesBreaches(deliverable: Deliverable, codec: VideoCodec): Breach[] {
  const { video } = deliverable
  if (!video || video.passes === 1 || codec.twoPasses) return []
  return [
    {
      says: `${codec.name} is made in one pass here.`,
      instead: instead('one pass', { ...deliverable, video: { ...video, passes: 1 } }),
    },
  ]
}

function levelBreaches(deliverable: Deliverable, codec: VideoCodec): Breach[] {
  const { format, video } = deliverable
  if (codec.name !== 'H.264' || video?.rateControl?.kind !== 'bit-rate') return []
  const { bitsPerSecond } = video.rateControl
  if (levelFor(format, toNumber(format.rate), bitsPerSecond, video.profile)) return []
  const fewer = bitRateRange(codec, video.profile ?? '', format)[1]
  const fits = levelFor(format, toNumber(format.rate), fewer, video.profile)
  const control = { kind: 'bit-rate', bitsPerSecond: Math.floor(fewer) } as const
  return [
    {
      says: fits
        ? `No level of H.264 has ${Math.round(bitsPerSecond / 1e6)} Mbit/s for this picture.`
        : `No level of H.264 holds ${format.width}×${format.height} at this rate.`,
      instead: fits
        ? instead(`${Math.round(fewer / 1e6)} Mbit/s`, {
            ...deliverable,
            video: { ...video, rateControl: control },
          })
        : null,
    },
  ]
}

function soundBreaches(deliverable: Deliverable): Breach[] {
  const { sound } = deliverable
  if (!sound) return []
  const codec = soundCodecNamed(sound.codec)
  if (!codec)
    return [
      {
        says: `${sound.codec} cannot be made here.`,
        instead: instead('the usual one', {
          ...deliverable,
          sound: soundLike(sound, soundIn(deliverable.wrapper, deliverable.video?.codec)),
        }),
      },
    ]
  const breaches: Breach[] = []
  const nearest = [...codec.sampleRates].sort(
    (a, b) => Math.abs(a - sound.sampleRate) - Math.abs(b - sound.sampleRate),
  )[0]
  if (nearest !== undefined && nearest !== sound.sampleRate)
    breaches.push({
      says: `${codec.name} is not made at ${kilohertz(sound.sampleRate)} here.`,
      instead: instead(kilohertz(nearest), { ...deliverable, sound: { ...sound, sampleRate: nearest } }),
    })
  if (layoutOf(sound.channels) === null) {
    const channels = Math.max(...Object.values(channelsOf).filter((count) => count <= sound.channels))
    breaches.push({
      says: `${sound.channels} channels have no layout here: 1, 2 and 6 have.`,
      instead: instead(counted(channels, 'channel'), { ...deliverable, sound: { ...sound, channels } }),
    })
  }
  return breaches
}
