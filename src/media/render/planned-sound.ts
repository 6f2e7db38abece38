import type { Rate } from '../../core/rate/rate'
import type { Deliverable } from '../../core/model/deliverable'
import { type Loudness, gainTo, raised } from '../../core/sound/loudness'
import { type Channels, type SoundLayout, addTo, channelsOf, downmix, samplesAt } from '../../core/sound/mix'
import { loudnessOf } from '../sound/loudness'
import type { MixPart, mixer } from '../sound/mixing'

/** Sound that goes out: that of a timeline, in the channels that are wanted, raised or lowered as a whole. */
export interface PlannedSound {
  readonly sampleRate: number
  /** As the timeline mixes it, and as it goes out. */
  readonly layout: SoundLayout
  readonly outLayout: SoundLayout
  /** Decibels. */
  readonly gain: number
  readonly parts: readonly MixPart[]
}

/** Frames that go out, from the first to before the last. */
interface Range {
  readonly from: number
  readonly to: number
}

/** A stretch of it. @throws Error in a sentence where a source cannot be had */
export async function plannedSamples(
  mix: ReturnType<typeof mixer>['mix'],
  { sampleRate, layout, outLayout, gain, parts }: PlannedSound,
  from: number,
  count: number,
  signal: AbortSignal,
): Promise<Channels> {
  const { channels, trouble } = await mix({ sampleRate, layout, from, count, parts }, signal)
  if (trouble) throw new Error(trouble)
  if (outLayout === layout && gain === 0) return channels
  const out = Array.from({ length: channelsOf[outLayout] }, () => new Float32Array(count))
  addTo(out, channels, downmix(channels.length, outLayout), gain, 0)
  return out
}

/** Samples of several channels, one of each after the other. */
export function woven(channels: Channels): Float32Array {
  const count = channels[0]?.length ?? 0
  const interleaved = new Float32Array(count * channels.length)
  channels.forEach((samples, channel) => {
    for (let i = 0; i < count; i++) interleaved[i * channels.length + channel] = samples[i] as number
  })
  return interleaved
}

/** How loud it is, over the frames that go out. */
export async function plannedLoudness(
  mix: ReturnType<typeof mixer>['mix'],
  sound: PlannedSound,
  range: Range,
  rate: Rate,
  signal: AbortSignal,
): Promise<Loudness> {
  const { sampleRate, outLayout } = sound
  const [first, last] = [samplesAt(range.from, sampleRate, rate), samplesAt(range.to, sampleRate, rate)]
  const take = (from: number, count: number) => plannedSamples(mix, sound, from, count, signal)
  return loudnessOf(take, channelsOf[outLayout], sampleRate, { from: first, to: last }, signal)
}

/** What brought sound to the loudness that was asked, in decibels; null where none was asked. */
export type Evened = ReturnType<typeof gainTo>

/**
 * The sound of a plan at the loudness that is asked: it is measured first, as a whole. How loud it is then comes with it; null where
 * nothing had to be measured.
 */
export async function evenedSound(
  {
    sound,
    deliverable,
    range,
  }: {
    readonly sound: PlannedSound | null
    readonly deliverable: Deliverable
    readonly range: Range
  },
  mix: ReturnType<typeof mixer>['mix'],
  signal: AbortSignal,
): Promise<{
  readonly sound: PlannedSound | null
  readonly evened: Evened
  readonly loudness: Loudness | null
}> {
  const wanted = deliverable.sound?.loudnessLufs ?? null
  if (!sound || wanted === null) return { sound, evened: null, loudness: null }
  const measured = await plannedLoudness(mix, sound, range, deliverable.format.rate, signal)
  const evened = gainTo(measured, wanted)
  const gain = evened?.gain ?? 0
  return { sound: { ...sound, gain: sound.gain + gain }, evened, loudness: raised(measured, gain) }
}
