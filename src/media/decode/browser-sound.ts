import { AudioSampleSink, type InputAudioTrack } from 'mediabunny'
import type { MediaLocator } from '../source'
import { openInput } from '../frame-times'
import { NoSound, type OpenSound, type SoundKind, heardFrom, copySamples, silence } from './sound-engine'

/** A stream by the browser's decoder; null where it has none for it, or cannot take the file apart. */
export async function soundInBrowser(locator: MediaLocator, kind: SoundKind): Promise<OpenSound | null> {
  const input = openInput(locator)
  try {
    const track = (await input.getAudioTracks())[kind.stream]
    if (!track || !(await track.canDecode())) throw new NoSound()
    const picture = kind.hasPicture ? await input.getPrimaryVideoTrack() : null
    const origin = (await picture?.getFirstTimestamp()) ?? 0
    return heardFrom(
      browserSound(track, origin, await track.getFirstTimestamp(), () => input.dispose()),
      kind,
    )
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
          copySamples(result, from, piece, numberAt(sample.timestamp))
        } finally {
          sample.close()
        }
      }
      return result
    },
    async end(signal) {
      let count = 0
      for await (const sample of sink.samples()) {
        count += sample.numberOfFrames
        sample.close()
        signal.throwIfAborted()
      }
      return numberAt(first) + count
    },
    close: dispose,
  }
}
