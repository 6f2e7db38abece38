import { type Loudness, loudnessMeter } from '../../core/sound/loudness'
import { type Channels, type SoundLayout, channelsOf } from '../../core/sound/mix'
import type { MixPart, mixer } from './mixing'

/** Sound that is measured: a stretch of a timeline, or a clip by itself. */
export interface SoundSpan {
  readonly sampleRate: number
  readonly layout: SoundLayout
  /** In samples, from the first to before the last. */
  readonly from: number
  readonly to: number
  readonly parts: readonly MixPart[]
}

/** Seconds that are measured at once. */
const stretch = 5

/** How loud sound is, a stretch of it taken after the other. @param take gives so many samples from one on */
export async function loudnessOf(
  take: (from: number, count: number) => Promise<Channels>,
  channels: number,
  sampleRate: number,
  { from, to }: { readonly from: number; readonly to: number },
  signal: AbortSignal,
): Promise<Loudness> {
  const meter = loudnessMeter(channels, sampleRate)
  const atOnce = stretch * sampleRate
  for (let at = from; at < to; at += atOnce) {
    meter.add(await take(at, Math.min(atOnce, to - at)))
    signal.throwIfAborted()
  }
  return meter.measured()
}

/** How loud a stretch of sound is, mixed as it is heard. @throws Error in a sentence where something of it cannot be had */
export async function spanLoudness(
  mix: ReturnType<typeof mixer>['mix'],
  { from, to, ...span }: SoundSpan,
  signal: AbortSignal,
): Promise<Loudness> {
  const take = async (at: number, count: number) => {
    const { channels, trouble } = await mix({ ...span, from: at, count }, signal)
    if (trouble) throw new Error(trouble)
    return channels
  }
  return loudnessOf(take, channelsOf[span.layout], span.sampleRate, { from, to }, signal)
}
