/** Sound of a stream, a list of samples for each channel, −1 … 1. */
export type SoundSamples = readonly Float32Array[]

/** One stream of sound, whose samples are counted from the first frame of the picture: earlier ones have numbers below 0. */
export interface OpenSound {
  readonly engine: 'browser' | 'toolkit'
  readonly sampleRate: number
  readonly channels: number
  /** When it begins to be heard, in seconds from the first frame of the picture; without one, from the file's beginning. */
  readonly start: number
  /** Samples from one up to another, exactly; silence where the stream has none. @throws NoSound */
  samples(from: number, to: number, signal: AbortSignal): Promise<SoundSamples>
  /** The number past its last sample, counted by decoding all of them: not every wrapper states it to the sample. @throws NoSound */
  end(signal: AbortSignal): Promise<number>
  close(): void
}

/** Why no sound can be had, in a sentence for the editor. */
export class NoSound extends Error {}

/** What has to be known of a stream before it is opened. */
export interface SoundKind {
  /** Which of the file's streams of sound, from 0. */
  readonly stream: number
  readonly sampleRate: number
  readonly channels: number
  /** Whether there is a picture that sound is counted against. */
  readonly hasPicture: boolean
  /** When it begins to be heard beside a picture, in seconds, as the reading says. */
  readonly startSec: number
}

/** A stream beside a picture as it is heard: what a decoder brings before it begins, to get under way, is silent. */
export function heardFrom(sound: OpenSound, { hasPicture, startSec }: SoundKind): OpenSound {
  if (!hasPicture) return sound
  const first = Math.round(startSec * sound.sampleRate)
  return {
    ...sound,
    start: startSec,
    async samples(from, to, signal) {
      const samples = await sound.samples(from, to, signal)
      for (const channel of samples) channel.fill(0, 0, Math.max(0, Math.min(to, first) - from))
      return samples
    },
  }
}

/** Lays a piece of sound into the samples that are wanted. */
export function copySamples(
  into: readonly Float32Array[],
  wantedFrom: number,
  piece: SoundSamples,
  pieceFrom: number,
): void {
  piece.forEach((samples, channel) => {
    const target = into[channel]
    if (!target) return
    const shift = pieceFrom - wantedFrom
    const [first, last] = [Math.max(0, -shift), Math.min(samples.length, target.length - shift)]
    if (first < last) target.set(samples.subarray(first, last), first + shift)
  })
}

export const silence = (channels: number, length: number): Float32Array[] =>
  Array.from({ length: channels }, () => new Float32Array(Math.max(0, length)))
