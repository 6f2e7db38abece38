import { present } from '../../core/assert'
import { envelope, lagOf } from '../../core/dispatch/likeness'
import type { ComparedSound } from '../../core/dispatch/proof'
import { samplesAt } from '../../core/sound/mix'
import type { Reading } from '../../core/reading/reading'
import { openSound } from '../decode/sound'
import { loudnessOf } from '../sound/loudness'
import type { MediaLocator } from '../source'
import { openInput } from '../walk'
import { evenedSound, plannedLoudness, plannedSamples } from './planned-sound'
import type { Makers, RenderPlan } from './plan'

/** Wrappers that count every sample; others only say when blocks of them begin. */
const countsSamples: ReadonlySet<string> = new Set(['MP4', 'QuickTime'])

/** Samples of a file's sound as its wrapper tells them; null where it does not, or is not known. */
async function samplesStated(locator: MediaLocator, sampleRate: number): Promise<number | null> {
  const input = openInput(locator)
  try {
    const [track] = await input.getAudioTracks()
    if (!track) return null
    // What gets a decoder under way lies before the beginning, and is not heard.
    const seconds = (await track.computeDuration()) - Math.max(0, await track.getFirstTimestamp())
    return Math.round(seconds * sampleRate)
  } catch {
    return null
  } finally {
    input.dispose()
  }
}

/** Seconds of sound that are held against each other. */
const stretch = 20

/**
 * The sound of a rendered file beside what was planned: how loud both are, and by how much what is heard is late; null where the file
 * has none.
 */
export async function soundCompared(
  plan: RenderPlan,
  locator: MediaLocator,
  { audio, container }: Reading,
  mix: Makers['mix'],
  signal: AbortSignal,
): Promise<ComparedSound | null> {
  const { deliverable, range } = plan
  const [heard] = audio
  if (!heard) return null
  const { sound, loudness } = await evenedSound(plan, mix, signal)
  const planned = present(sound, 'sound is compared where some is planned')
  const { sampleRate } = planned
  const { rate } = deliverable.format
  const [first, last] = [samplesAt(range.from, sampleRate, rate), samplesAt(range.to, sampleRate, rate)]
  const kind = {
    stream: 0,
    sampleRate: heard.sampleRate ?? sampleRate,
    channels: heard.channels ?? 2,
    hasPicture: true,
    startSec: heard.startSec ?? 0,
  }
  const open = await openSound(locator, kind, signal)
  const inFile = (samples: number) => Math.round((samples * open.sampleRate) / sampleRate)

  /** By how many milliseconds it is late, in its first seconds that sound. */
  async function lag(): Promise<number | null> {
    const count = Math.min(stretch * sampleRate, last - first)
    for (let from = first; from < last; from += count) {
      const length = Math.min(count, last - from)
      const [wanted] = await plannedSamples(mix, planned, from, length, signal)
      const begins = inFile(from - first)
      const [found] = await open.samples(begins, begins + inFile(length), signal)
      const late = lagOf(
        envelope(wanted ?? new Float32Array(), sampleRate),
        envelope(found ?? new Float32Array(), open.sampleRate),
      )
      if (late !== null) return late
    }
    return null
  }

  try {
    const found = countsSamples.has(container) ? await samplesStated(locator, open.sampleRate) : null
    return {
      lag: await lag(),
      samples: { planned: inFile(last - first), found },
      planned: loudness ?? (await plannedLoudness(mix, planned, range, rate, signal)),
      found: await loudnessOf(
        (from, count) => open.samples(from, from + count, signal),
        open.channels,
        open.sampleRate,
        0,
        inFile(last - first),
        signal,
      ),
    }
  } finally {
    open.close()
  }
}
