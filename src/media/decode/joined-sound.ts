import type { MediaLocator } from '../source'
import { openSound } from './sound'
import { type OpenSound, type SoundKind, copySamples, silence } from './sound-engine'

/** A stream of sound of one file of a recording, and when the first frame of that file is on, in seconds of the recording. */
export interface SoundPiece {
  readonly locator: MediaLocator
  readonly kind: SoundKind
  readonly offsetSec: number
}

/**
 * Sound that lies in one file, or in several one after the other: each of them sounds from where its own begins until the next one’s does, so
 * that every sample is heard once. Files are opened when something of them is wanted.
 */
export function joinedSound(
  pieces: readonly SoundPiece[],
  open: (piece: SoundPiece, signal: AbortSignal) => Promise<OpenSound> = ({ locator, kind }, signal) =>
    openSound(locator, kind, signal),
): Promise<OpenSound> {
  const never = new AbortController().signal
  const opened: (Promise<OpenSound> | undefined)[] = []
  const piece = (i: number): Promise<OpenSound> =>
    (opened[i] ??= open(pieces[i] as SoundPiece, never).catch((error: unknown) => {
      // Another try may find it.
      opened[i] = undefined
      throw error
    }))
  const close = () => {
    for (const opening of opened) void opening?.then((sound) => sound.close()).catch(() => {})
  }
  return piece(0).then((first) => {
    if (pieces.length === 1) return first
    const { sampleRate, channels } = first
    const at = (seconds: number) => Math.round(seconds * sampleRate)
    const begins = pieces.map(({ offsetSec, kind }, i) =>
      i === 0 ? -Infinity : at(offsetSec + kind.startSec),
    )
    return {
      ...first,
      async samples(from, to, signal) {
        const result = silence(channels, to - from)
        for (const [i, { offsetSec }] of pieces.entries()) {
          const begin = Math.max(from, begins[i] ?? Infinity)
          const end = Math.min(to, begins[i + 1] ?? Infinity)
          if (end <= begin) continue
          const [sound, offset] = [await piece(i), at(offsetSec)]
          copySamples(result, from, await sound.samples(begin - offset, end - offset, signal), begin)
        }
        return result
      },
      async end(signal) {
        const last = pieces.length - 1
        return at(pieces[last]?.offsetSec ?? 0) + (await (await piece(last)).end(signal))
      },
      close,
    }
  })
}
