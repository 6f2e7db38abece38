import { present } from '../../core/assert'
import { type SoundVerdict, soundVerdict, stretchesToCompare } from '../../core/dispatch/sound-likeness'
import type { ComparedSound } from '../../core/dispatch/proof'
import { samplesAt } from '../../core/sound/mix'
import type { Reading } from '../../core/reading/reading'
import { openSound } from '../decode/sound'
import { loudnessOf } from '../sound/loudness'
import type { MediaLocator } from '../source'
import { openInput } from '../frame-times'
import { evenedSound, plannedLoudness, plannedSamples } from './planned-sound'
import type { Makers, RenderPlan } from './plan'

/** Wrappers that count every sample; others only say when blocks of them begin: theirs are decoded, and counted. */
const countsSamples: ReadonlySet<string> = new Set(['MP4', 'QuickTime'])

/** Samples of a file's sound as its wrapper tells them. */
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

/**
 * The sound of a rendered file beside what was planned: how loud both are, and whether what is heard is what was planned, when it was;
 * null where the file has none.
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

  /** What is heard beside what was planned, stretch by stretch. */
  async function verdicts(): Promise<SoundVerdict[]> {
    const soundVerdicts: SoundVerdict[] = []
    for (const { from, to } of stretchesToCompare((last - first) / sampleRate)) {
      const [begin, end] = [Math.round(from * sampleRate), Math.round(to * sampleRate)]
      const wanted = await plannedSamples(mix, planned, first + begin, end - begin, signal)
      const heardThere = await open.samples(inFile(begin), inFile(end), signal)
      soundVerdicts.push(soundVerdict(wanted, heardThere, sampleRate, open.sampleRate))
      signal.throwIfAborted()
    }
    return soundVerdicts
  }

  try {
    const found =
      (countsSamples.has(container) ? await samplesStated(locator, open.sampleRate) : null) ??
      (await open.end(signal)) - Math.round(Math.max(0, open.start) * open.sampleRate)
    return {
      verdicts: await verdicts(),
      samples: { planned: inFile(last - first), found },
      planned: loudness ?? (await plannedLoudness(mix, planned, range, rate, signal)),
      found: await loudnessOf(
        (from, count) => open.samples(from, from + count, signal),
        open.channels,
        open.sampleRate,
        { from: 0, to: inFile(last - first) },
        signal,
      ),
    }
  } finally {
    open.close()
  }
}
