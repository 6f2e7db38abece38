import type { Reading } from '../reading/reading'

/** What is told of a clip without a grade and without a loss: it costs work, not picture. */
export interface Noted {
  readonly kind: 'codec' | 'sound-rate'
  readonly text: string
}

/** Codecs that are decoded fast: by browsers' own decoders, and ProRes by a decoder of its own that ships. */
export const nativeCodecs: ReadonlySet<string> = new Set(['H.264', 'HEVC', 'VP8', 'VP9', 'AV1', 'ProRes'])

/** Whether a clip's picture needs the engine that ships, by what its file says; what a browser can in truth is asked when it is opened. */
export const isSlowlyDecoded = (reading: Reading | null): boolean =>
  Boolean(reading?.video) && reading?.kind === 'video' && !nativeCodecs.has(reading.video?.codec ?? '')

/** Sound that goes with pictures is sampled so often a second (SMPTE ST 272, AES5). */
export const soundRate = 48_000

/** What to note about a clip's codec and sound; nothing where both are as they should be. */
export function notedOf({ kind, video, audio }: Reading): Noted[] {
  const noted: Noted[] = []
  if (kind === 'video' && video && video.codec !== 'unknown' && !nativeCodecs.has(video.codec))
    noted.push({
      kind: 'codec',
      text: `${video.codec} is no codec of browsers: decoded by the engine that ships, slower`,
    })
  const rates = new Set(audio.flatMap((sound) => sound.sampleRate ?? []))
  rates.delete(soundRate)
  for (const rate of rates)
    noted.push({ kind: 'sound-rate', text: `sound resampled, ${rate / 1000} to ${soundRate / 1000} kHz` })
  return noted
}
