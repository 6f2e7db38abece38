import type { MediaLocator } from '../source'
import { turns } from '../turns'
import { NoSound, type OpenSound, type SoundKind, heardFrom, copySamples, silence } from './sound-engine'
import { type ToolkitOrder, openStream, reasonOfEnd } from './toolkit'

/** So much earlier a decoder begins than what is wanted of it, in seconds: some need what comes before. */
const lead = 0.5
const ringBytes = 8 * 2 ** 20

/** A stream by the toolkit. */
export async function soundByToolkit(
  locator: MediaLocator,
  kind: SoundKind,
  signal: AbortSignal,
): Promise<OpenSound> {
  const { stream, sampleRate, channels, hasPicture } = kind
  const inTurn = turns()

  /** Sound from a time of the file on: when its first sample is heard by the clock of the file, and its samples. */
  async function streamFrom(seconds: number | null, wish: AbortSignal) {
    const seek =
      seconds !== null && seconds > 0
        ? ['-noaccurate_seek', '-seek_timestamp', '1', '-ss', seconds.toFixed(6)]
        : []
    const order: ToolkitOrder = {
      locator,
      timed: 'sound',
      ringBytes,
      before: ['-copyts', ...seek],
      after: [
        ...['-map', `0:a:${stream}`, '-vn', '-sn', '-dn'],
        ...['-af', 'ashowinfo', '-f', 'f32le', '-c:a', 'pcm_f32le'],
      ],
    }
    return openStream(order, async (opened) => {
      const first = await opened.takeTime(wish)
      if (first === null) throw new NoSound(await reasonOfEnd(opened, 'no sound came out of it'))
      return { opened, first }
    })
  }

  /** When the first frame of the picture is on, by the clock of the file. */
  async function pictureStart(wish: AbortSignal): Promise<number> {
    const order: ToolkitOrder = {
      locator,
      timed: 'frames',
      ringBytes,
      before: ['-copyts'],
      after: [
        ...['-map', '0:v:0', '-an', '-sn', '-dn', '-vsync', 'passthrough', '-frames:v', '1'],
        ...['-vf', 'scale=16:16,format=gray,showinfo=checksum=0', '-strict', '-1', '-f', 'yuv4mpegpipe'],
      ],
    }
    return openStream(order, async (opened) => {
      await opened.takeLine(wish)
      const first = await opened.takeTime(wish)
      await opened.leave()
      return first ?? 0
    })
  }

  const frameBytes = 4 * channels
  const origin = hasPicture ? await pictureStart(signal) : 0
  const beginning = await streamFrom(null, signal)
  await beginning.opened.leave()
  const sound: OpenSound = {
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
          while (at < to) {
            const wanted = Math.min(to - at, sampleRate)
            const bytes = await opened.take(wanted * frameBytes, wish)
            const frames = Math.floor(bytes.length / frameBytes)
            const woven = new Float32Array(bytes.buffer, 0, frames * channels)
            const piece = silence(channels, frames).map((samples, channel) => {
              for (let i = 0; i < frames; i++) samples[i] = woven[i * channels + channel] ?? 0
              return samples
            })
            copySamples(result, from, piece, at)
            at += frames
            if (frames < wanted) break
          }
        } finally {
          await opened.leave()
        }
        return result
      }),
    end: (wish) =>
      inTurn(async () => {
        const { opened, first } = await streamFrom(null, wish)
        const second = sampleRate * frameBytes
        let bytes = 0
        try {
          for (let taken = second; taken === second; bytes += taken)
            taken = (await opened.take(second, wish)).length
        } finally {
          await opened.leave()
        }
        return Math.round((first - origin) * sampleRate) + Math.floor(bytes / frameBytes)
      }),
    close: () => {},
  }
  return heardFrom(sound, kind)
}
