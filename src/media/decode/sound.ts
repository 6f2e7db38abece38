import { AudioSampleSink, type InputAudioTrack } from 'mediabunny'
import type { MediaLocator } from '../source'
import { openInput } from '../walk'
import { reasonOfEnd, toolkitStream } from './toolkit'
import { turns } from './turns'

/** Sound of a stream, a list of samples for each channel, −1 … 1. */
export type SoundSamples = readonly Float32Array[]

/** One stream of sound, whose samples are counted from the first frame of the picture: earlier ones have numbers below 0. */
export interface OpenSound {
  readonly engine: 'browser' | 'toolkit'
  readonly sampleRate: number
  readonly channels: number
  /** When its first sample is heard, in seconds from the first frame of the picture; without one, from the file's beginning. */
  readonly start: number
  /** Samples from one up to another, exactly; silence where the stream has none. @throws NoSound */
  samples(from: number, to: number, signal: AbortSignal): Promise<SoundSamples>
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
}

/** Opens a stream of sound by the browser where it decodes it, else by the toolkit that ships. @throws NoSound */
export async function openSound(
  locator: MediaLocator,
  kind: SoundKind,
  signal: AbortSignal,
): Promise<OpenSound> {
  signal.throwIfAborted()
  return (await soundInBrowser(locator, kind)) ?? (await soundByToolkit(locator, kind, signal))
}

/** Lays a piece of sound into the samples that are wanted. */
function lay(
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

const silence = (channels: number, length: number): Float32Array[] =>
  Array.from({ length: channels }, () => new Float32Array(Math.max(0, length)))

/** A stream by the browser's decoder; null where it has none for it, or cannot take the file apart. */
export async function soundInBrowser(
  locator: MediaLocator,
  { stream, hasPicture }: SoundKind,
): Promise<OpenSound | null> {
  const input = openInput(locator)
  try {
    const track = (await input.getAudioTracks())[stream]
    if (!track || !(await track.canDecode())) throw new NoSound()
    const picture = hasPicture ? await input.getPrimaryVideoTrack() : null
    const origin = (await picture?.getFirstTimestamp()) ?? 0
    return browserSound(track, origin, await track.getFirstTimestamp(), () => input.dispose())
  } catch {
    // The other engine may know it.
    input.dispose()
    return null
  }
}

function browserSound(track: InputAudioTrack, origin: number, first: number, dispose: () => void): OpenSound {
  const { sampleRate, numberOfChannels: channels } = track
  const sink = new AudioSampleSink(track)
  const numberAt = (seconds: number) => Math.round((seconds - origin) * sampleRate)
  return {
    engine: 'browser',
    sampleRate,
    channels,
    start: first - origin,
    async samples(from, to, signal) {
      const result = silence(channels, to - from)
      // Decoders need what comes before to be exact: they begin a little earlier.
      const begin = origin + from / sampleRate
      for await (const sample of sink.samples(Math.max(first, begin - 0.1), origin + to / sampleRate)) {
        try {
          signal.throwIfAborted()
          const piece = Array.from({ length: channels }, (_, planeIndex) => {
            const data = new Float32Array(sample.numberOfFrames)
            sample.copyTo(data, { planeIndex, format: 'f32-planar' })
            return data
          })
          lay(result, from, piece, numberAt(sample.timestamp))
        } finally {
          sample.close()
        }
      }
      return result
    },
    close: dispose,
  }
}

/** So much earlier a decoder begins than what is wanted of it, in seconds: some need what comes before. */
const lead = 0.5
const ringBytes = 8 * 2 ** 20

/** A stream by the toolkit. */
export async function soundByToolkit(
  locator: MediaLocator,
  { stream, sampleRate, channels, hasPicture }: SoundKind,
  signal: AbortSignal,
): Promise<OpenSound> {
  const inTurn = turns()

  /** Sound from a time of the file on: when its first sample is heard by the clock of the file, and its samples. */
  async function streamFrom(seconds: number | null, wish: AbortSignal) {
    const seek =
      seconds !== null && seconds > 0
        ? ['-noaccurate_seek', '-seek_timestamp', '1', '-ss', seconds.toFixed(6)]
        : []
    const opened = await toolkitStream({
      locator,
      timed: 'sound',
      ringBytes,
      before: ['-copyts', ...seek],
      after: [
        ...['-map', `0:a:${stream}`, '-vn', '-sn', '-dn'],
        ...['-af', 'ashowinfo', '-f', 'f32le', '-c:a', 'pcm_f32le'],
      ],
    })
    const time = await opened.take(8, wish)
    if (time.length < 8) throw new NoSound(await reasonOfEnd(opened, 'no sound came out of it'))
    return { opened, first: new Float64Array(time.buffer)[0] ?? 0 }
  }

  /** When the first frame of the picture is on, by the clock of the file. */
  async function pictureStart(wish: AbortSignal): Promise<number> {
    const opened = await toolkitStream({
      locator,
      timed: 'frames',
      ringBytes,
      before: ['-copyts'],
      after: [
        ...['-map', '0:v:0', '-an', '-sn', '-dn', '-vsync', 'passthrough', '-frames:v', '1'],
        ...['-vf', 'scale=16:16,format=gray,showinfo=checksum=0', '-strict', '-1', '-f', 'yuv4mpegpipe'],
      ],
    })
    await opened.takeLine(wish)
    const time = await opened.take(8, wish)
    opened.cancel()
    await opened.ended
    return time.length < 8 ? 0 : (new Float64Array(time.buffer)[0] ?? 0)
  }

  const origin = hasPicture ? await pictureStart(signal) : 0
  const beginning = await streamFrom(null, signal)
  beginning.opened.cancel()
  await beginning.opened.ended
  return {
    engine: 'toolkit',
    sampleRate,
    channels,
    start: beginning.first - origin,
    samples: (from, to, wish) =>
      inTurn(async () => {
        const result = silence(channels, to - from)
        const { opened, first } = await streamFrom(origin + from / sampleRate - lead, wish)
        try {
          let at = Math.round((first - origin) * sampleRate)
          const frameBytes = 4 * channels
          while (at < to) {
            const wanted = Math.min(to - at, sampleRate)
            const bytes = await opened.take(wanted * frameBytes, wish)
            const frames = Math.floor(bytes.length / frameBytes)
            const woven = new Float32Array(bytes.buffer, 0, frames * channels)
            const piece = silence(channels, frames).map((samples, channel) => {
              for (let i = 0; i < frames; i++) samples[i] = woven[i * channels + channel] ?? 0
              return samples
            })
            lay(result, from, piece, at)
            at += frames
            if (frames < wanted) break
          }
        } finally {
          opened.cancel()
          await opened.ended
        }
        return result
      }),
    close: () => {},
  }
}
