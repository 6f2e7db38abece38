import type { Deliverable } from '../model/deliverable'
import { toNumber } from '../rational/rational'
import { type SoundCodec, type VideoCodec, soundCodecs, videoCodecNamed } from './codecs'

/** Sound of a codec as it usually is. */
export const usualSound = (codec: SoundCodec): NonNullable<Deliverable['sound']> => ({
  codec: codec.name,
  sampleRate: codec.sampleRates[0] ?? 48_000,
  channels: 2,
  loudnessLufs: null,
})

/** Sound in another codec: what was said of its channels and its loudness stays; none stays none. */
export const soundLike = (before: Deliverable['sound'], usual: Deliverable['sound']): Deliverable['sound'] =>
  before && usual && { ...usual, channels: before.channels, loudnessLufs: before.loudnessLufs }

/** What a codec is set to where nobody says otherwise: its usual profile, and the middle of its range. */
export function usualVideo(codec: VideoCodec, { format }: Deliverable): NonNullable<Deliverable['video']> {
  const [profile] = codec.profiles
  return {
    codec: codec.name,
    profile: profile?.name ?? null,
    rateControl:
      codec.amount === 'bit-rate'
        ? { kind: 'bit-rate', bitsPerSecond: usualBitRate(codec, profile?.name ?? '', format) }
        : null,
    passes: 1,
  }
}

/** A whole number of half megabits a second, in the middle of what a codec needs for a format. */
function usualBitRate(codec: VideoCodec, profile: string, format: Deliverable['format']): number {
  const [least, most] = bitRateRange(codec, profile, format)
  const half = 500_000
  return Math.max(half, Math.round((least + most) / 2 / half) * half)
}

/** Bits a second that a codec needs for a format, from the least to the most that makes sense. */
export function bitRateRange(
  codec: VideoCodec,
  profile: string,
  { width, height, rate }: Deliverable['format'],
): readonly [least: number, most: number] {
  const [least, most] = codec.bitsPerPixel(profile)
  const pixels = width * height * toNumber(rate)
  return [least * pixels, most * pixels]
}

/** The usual sound of a wrapper beside a codec of pictures: beside one that is meant to be worked on, samples as they are. */
export function soundIn(wrapper: string | null, codec: string | null | undefined): Deliverable['sound'] {
  const carried = soundCodecs.filter(({ wrappers }) => wrappers.some((name) => name === wrapper))
  const amount = videoCodecNamed(codec)?.amount
  const plain = carried.find(({ name }) => name.startsWith('PCM'))
  const usual = amount === 'profile' || amount === 'lossless' ? (plain ?? carried[0]) : carried[0]
  return usual ? usualSound(usual) : null
}

/**
 * How a deliverable goes out where nothing is said of its wrapping: H.264 in MP4; with fields, MPEG-2 in MXF. Of one whose picture is
 * said, no sound means none.
 */
export function wrapped(deliverable: Deliverable): Deliverable {
  const isInterlaced = deliverable.format.scan === 'interlaced'
  const codec = videoCodecNamed(deliverable.video?.codec ?? (isInterlaced ? 'MPEG-2' : 'H.264'))
  if (!codec) return deliverable
  const wrapper = deliverable.wrapper ?? codec.wrappers[0] ?? null
  return {
    ...deliverable,
    wrapper,
    video: deliverable.video ?? usualVideo(codec, deliverable),
    sound: deliverable.sound ?? (deliverable.video === null ? soundIn(wrapper, codec.name) : null),
  }
}
