import { expose, transfer } from 'comlink'
import type { Loudness } from '../core/sound/loudness'
import type { Channels } from '../core/sound/mix'
import { type SoundSpan, spanLoudness } from '../media/sound/loudness'
import { type MixOrder, type SoundFile, mixer } from '../media/sound/mixing'
import { job } from './job'

export interface Mixed {
  readonly channels: Channels
  /** Why something is silent; null where nothing is. */
  readonly trouble: string | null
}

const { mix, peaks } = mixer()
/** What is measured goes on while something is played. */
const measuring = mixer()

const service = {
  /** A stretch of a timeline's sound. */
  mix: (order: MixOrder, until?: AbortSignal): Promise<Mixed> =>
    job(until, async (signal) => {
      const mixed = await mix(order, signal)
      return transfer(
        mixed,
        mixed.channels.map(({ buffer }) => buffer),
      )
    }),
  /** The shape of a clip's sound. */
  peaks: (files: readonly SoundFile[], seconds: number, until?: AbortSignal): Promise<Float32Array> =>
    job(until, async (signal) => {
      const shape = await peaks(files, seconds, signal)
      return transfer(shape, [shape.buffer])
    }),
  /** How loud a stretch of sound is. */
  loudness: (span: SoundSpan, until?: AbortSignal): Promise<Loudness> =>
    job(until, (signal) => spanLoudness(measuring.mix, span, signal)),
}

export type SoundService = typeof service
expose(service)
