import {
  EncodedPacketSink,
  type Input,
  type InputVideoTrack,
  type VideoSample,
  VideoSampleSink,
} from 'mediabunny'
import { countOf, middleOf, stepNear } from '../../core/motion/timing'
import { nativeCodecs } from '../../core/toll/noted'
import { toNumber } from '../../core/rational/rational'
import type { MediaLocator } from '../source'
import { openInput } from '../walk'
import { type ClipKind, type DecodedFrame, type Engine, NoPicture, noPicture } from './engine'
import { drawPlanes } from './planes-frame'
import { lumaTaker, planesOfSample } from './sample-planes'
import { turns } from '../turns'

/** Wrappers that the demultiplexer takes apart. */
const openable = new Set(['MP4', 'QuickTime', 'Matroska', 'WebM', 'MPEG-TS'])

/** A clip by the browser's decoder; null where the browser has none for its codec or its wrapper. */
export async function openInBrowser(locator: MediaLocator, clip: ClipKind): Promise<Engine | null> {
  // Whether this browser is one that decodes it is asked below.
  if (!nativeCodecs.has(clip.codec) || !openable.has(clip.container)) return null
  if (clip.codec === 'ProRes') (await import('@mediabunny/prores')).registerProresDecoder()
  const input = openInput(locator)
  try {
    const track = await input.getPrimaryVideoTrack()
    if (track && (await track.canDecode())) return await engineOf(input, track, clip)
  } catch {
    // The other engine may still know it; what it says of it is told.
  }
  input.dispose()
  return null
}

/** Steps and playback ask for what comes next: up to this far on, the decoder goes on instead of starting at a key frame. */
const furtherSeconds = 0.6

/** A sample and all that a decoded frame is asked for; closed with it. */
function frameOf(
  index: number,
  sample: VideoSample,
  { meaning }: ClipKind,
  luma: ReturnType<typeof lumaTaker>,
): DecodedFrame {
  const planes = () => planesOfSample(sample, meaning)
  sample.setRotation(0)
  return {
    index,
    width: sample.codedWidth,
    height: sample.codedHeight,
    planes,
    luma: (into) => luma(sample, into),
    async draw(context, width, height) {
      const { transfer } = meaning
      if (transfer === 'pq' || transfer === 'hlg') drawPlanes(context, await planes(), meaning, width, height)
      else sample.draw(context, 0, 0, width, height)
    },
    close: () => sample.close(),
  }
}

async function engineOf(input: Input, track: InputVideoTrack, clip: ClipKind): Promise<Engine> {
  const { steps } = clip
  const sink = new VideoSampleSink(track)
  const luma = lumaTaker(clip.meaning)
  const first = await track.getFirstTimestamp()
  const timeAt = (index: number) =>
    first + toNumber(middleOf(steps, Math.max(0, Math.min(countOf(steps) - 1, index))))
  let running: { samples: AsyncGenerator<VideoSample>; held: VideoSample } | null = null

  function stop() {
    running?.held.close()
    void running?.samples.return(undefined)
    running = null
  }

  /** The sample shown at a time; it stays open until the next is asked for. */
  async function sampleAt(time: number): Promise<VideoSample> {
    const covers = (sample: VideoSample) =>
      time >= sample.timestamp - 1e-6 && time < sample.timestamp + sample.duration - 1e-6
    if (running && (time < running.held.timestamp || time > running.held.timestamp + furtherSeconds)) stop()
    if (!running) {
      const samples = sink.samples(time)
      const { value, done } = await samples.next()
      if (done || !value) throw new NoPicture('There is no frame at this time: the file may be cut off.')
      running = { samples, held: value }
    }
    while (!covers(running.held)) {
      const { value, done } = await running.samples.next()
      // The last frame stays on to the end; one that begins later leaves the one before on screen.
      if (done || !value) break
      running.held.close()
      running.held = value
      if (value.timestamp > time) break
    }
    return running.held
  }

  const inTurn = turns()
  const wished = (signal: AbortSignal, index: number, time: () => Promise<number>): Promise<DecodedFrame> =>
    inTurn(async () => {
      signal.throwIfAborted()
      try {
        return frameOf(index, (await sampleAt(await time())).clone(), clip, luma)
      } catch (error) {
        stop()
        throw noPicture(error)
      }
    })
  return {
    engine: 'browser',
    steps,
    sample: (index, signal) => wished(signal, index, async () => timeAt(index)),
    near: (index, signal) =>
      wished(signal, index, async () => {
        const packets = new EncodedPacketSink(track)
        const key = await packets.getKeyPacket(timeAt(index), { metadataOnly: true })
        return key?.timestamp ?? timeAt(index)
      }),
    async *samples(from, signal) {
      const samples = sink.samples(timeAt(from))
      try {
        for await (const sample of samples) {
          if (signal.aborted) sample.close()
          signal.throwIfAborted()
          yield frameOf(stepNear(steps, sample.timestamp - first), sample, clip, luma)
        }
      } catch (error) {
        signal.throwIfAborted()
        throw noPicture(error)
      }
    },
    close: () => {
      stop()
      input.dispose()
    },
  }
}
