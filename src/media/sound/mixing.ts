import { LRUCache } from 'lru-cache'
import { type Channels, type SoundLayout, addTo, channelsOf, downmix, peaksOf } from '../../core/sound/mix'
import { atMoments, soundMargin } from '../../core/sound/resample'
import { type SoundPiece, joinedSound } from '../decode/joined-sound'
import type { OpenSound } from '../decode/sound-engine'
import { openAccesses } from '../open'
import { type Stretched, aheadOf, stretched } from './stretched'

/** A stream of sound of a clip, in the one or the several files that it lies in. */
export interface SoundFile {
  /** Of what the files hold, and of the stream. */
  readonly key: string
  readonly channels: number
  readonly pieces: readonly SoundPiece[]
}

/** A stretch of sound on a timeline. */
export interface MixPart {
  readonly file: SoundFile
  /** Samples of the timeline from which to which it is heard. */
  readonly from: number
  readonly to: number
  /** The moment of the source at `from`, in seconds from its first frame. */
  readonly sourceSeconds: number
  /** Seconds of the source for one of the timeline. */
  readonly speed: number
  /** Whether another speed leaves the pitch as it is. */
  readonly keepPitch: boolean
  readonly gain: number
  /** Which channels of the stream are heard; null for all. */
  readonly channels: readonly number[] | null
}

/** A stretch of a timeline that is mixed. */
export interface MixOrder {
  readonly sampleRate: number
  readonly layout: SoundLayout
  readonly from: number
  readonly count: number
  readonly parts: readonly MixPart[]
}

/** Peaks a second of the shape that is drawn of a sound. */
export const peaksPerSecond = 50
/** Sound is decoded in stretches of so many seconds while its shape is made. */
const stretch = 10

/** Mixes sound, and finds the shape of it; streams stay open for the next wish. */
export function mixer(mostOpen = 8) {
  const open = openAccesses<OpenSound>(mostOpen)
  const opened = ({ key, pieces }: SoundFile) => open.get(key, () => joinedSound(pieces))

  /** Sound that is being stretched, and the sample of the timeline with which each goes on. */
  const stretches = new LRUCache<string, { readonly sound: Stretched; next: number }>({ max: mostOpen })

  /** Samples of a source at the rate of a timeline, from a moment on. */
  async function resampledFrom(
    sound: OpenSound,
    seconds: number,
    count: number,
    rate: number,
    wish: AbortSignal,
  ) {
    const step = sound.sampleRate / rate
    const begin = seconds * sound.sampleRate
    const whole = Math.floor(begin + 1e-6)
    const needed = Math.ceil(count * step) + 2 * soundMargin + 1
    const samples = await sound.samples(whole - soundMargin, whole - soundMargin + needed, wish)
    return samples.map((channel) => atMoments(channel, Math.max(0, begin - whole), step, count))
  }

  /** A stretch at another speed and the same pitch; it goes on where the one before it ended. */
  async function inPitch(
    sound: OpenSound,
    { file, from, sourceSeconds, speed, channels }: MixPart,
    rate: number,
    { first, count }: { readonly first: number; readonly count: number },
    wish: AbortSignal,
  ): Promise<Channels> {
    const key = `${file.key} ${from} ${sourceSeconds} ${speed} ${channels?.join()}`
    let known = stretches.get(key)
    if (known?.next !== first) {
      // What the stretcher brings is ahead of its place by so much: it begins so much earlier.
      let seconds = sourceSeconds + ((first - from) / rate) * speed - aheadOf(speed, rate) / rate
      const take = async (wanted: number) => {
        const resampled = await resampledFrom(sound, seconds, wanted, rate, wish)
        seconds += wanted / rate
        return channels ? channels.flatMap((channel) => resampled[channel] ?? []) : resampled
      }
      known = { sound: stretched(speed, rate, take), next: first }
      stretches.set(key, known)
    }
    known.next += count
    return known.sound.next(count)
  }

  async function add(into: Channels, order: MixOrder, part: MixPart, signal: AbortSignal): Promise<void> {
    const { sampleRate, layout, from, count } = order
    const [first, last] = [Math.max(from, part.from), Math.min(from + count, part.to)]
    if (last <= first) return
    const sound = await opened(part.file)
    if (part.keepPitch && Math.abs(part.speed - 1) > 1e-9) {
      const channels = await inPitch(sound, part, sampleRate, { first, count: last - first }, signal)
      return addTo(into, channels, downmix(channels.length, layout), part.gain, first - from)
    }
    const step = (part.speed * sound.sampleRate) / sampleRate
    const begin = part.sourceSeconds * sound.sampleRate + (first - part.from) * step
    const whole = Math.floor(begin + 1e-6)
    const needed = Math.ceil((last - first) * step) + 2 * soundMargin + 1
    const samples = await sound.samples(whole - soundMargin, whole - soundMargin + needed, signal)
    const heard = part.channels ? part.channels.flatMap((channel) => samples[channel] ?? []) : samples
    const offset = Math.max(0, begin - whole)
    const shifted = heard.map((channel) => atMoments(channel, offset < 1e-6 ? 0 : offset, step, last - first))
    addTo(into, shifted, downmix(shifted.length, layout), part.gain, first - from)
  }

  return {
    /** A stretch of a timeline; what cannot be had is silent and told. */
    async mix(order: MixOrder, signal: AbortSignal): Promise<{ channels: Channels; trouble: string | null }> {
      const channels = Array.from({ length: channelsOf[order.layout] }, () => new Float32Array(order.count))
      let trouble: string | null = null
      for (const part of order.parts) {
        try {
          await add(channels, order, part, signal)
        } catch (error) {
          signal.throwIfAborted()
          open.drop(part.file.key)
          trouble = error instanceof Error ? error.message : String(error)
        }
      }
      return { channels, trouble }
    },
    /** The loudest of each fiftieth of a second of all streams of a clip. */
    async peaks(files: readonly SoundFile[], seconds: number, signal: AbortSignal): Promise<Float32Array> {
      const peaks = new Float32Array(Math.max(1, Math.ceil(seconds * peaksPerSecond)))
      for (const file of files) {
        const sound = await opened(file)
        const every = sound.sampleRate / peaksPerSecond
        for (let at = 0; at < seconds; at += stretch) {
          const [from, to] = [at, Math.min(seconds, at + stretch)].map((s) =>
            Math.round(s * sound.sampleRate),
          ) as [number, number]
          peaksOf(await sound.samples(from, to, signal), every, peaks, Math.round(at * peaksPerSecond))
          signal.throwIfAborted()
        }
      }
      return peaks
    },
  }
}
