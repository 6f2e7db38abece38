import { EncodedPacketSink, type Input, type InputVideoTrack, type VideoSample } from 'mediabunny'
import { countOf, middleOf, stepNear } from '../../core/motion/timing'
import { nativeCodecs } from '../../core/toll/noted'
import { toNumber } from '../../core/rational/rational'
import type { MediaLocator } from '../source'
import { openInput } from '../frame-times'
import { isAv1File, wrappedAv1 } from './av1-file'
import { type ClipKind, type DecodedFrame, type Engine, NoPicture, noPicture } from './engine'
import { pacedSamples } from './paced-samples'
import { drawPlanes, strideFor } from './planes-frame'
import { lumaOfSample, planesOfSample, withRoom } from './sample-planes'
import { turns } from '../turns'

/** Wrappers that the demultiplexer takes apart. */
const openable = new Set(['MP4', 'QuickTime', 'Matroska', 'WebM', 'MPEG-TS'])

/** A clip by the browser's decoder; null where the browser has none for its codec or its wrapper. */
export async function openInBrowser(locator: MediaLocator, clip: ClipKind): Promise<Engine | null> {
  // Whether this browser is one that decodes it is asked below.
  const isBare = isAv1File(clip)
  if (!nativeCodecs.has(clip.codec) || !(openable.has(clip.container) || isBare)) return null
  // Browsers take red, green and blue for luma and chroma.
  if (clip.meaning.matrix === 'rgb') return null
  if (clip.codec === 'ProRes') (await import('@mediabunny/prores')).registerProresDecoder()
  const input = isBare ? await wrappedAv1(locator, clip) : openInput(locator)
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

/** A decoder from which nothing more is asked for so long, in milliseconds, gives its pictures back. */
const idle = 5000
/** Samples decoded ahead: as many as fit this, in bytes, within two bounds. */
const roomAhead = 32 * 2 ** 20
const [leastAhead, mostAhead] = [2, 16]
function aheadOf({ width, height, bitDepth }: ClipKind): number {
  const bytes = width * height * 1.5 * (bitDepth > 8 ? 2 : 1)
  return Math.max(leastAhead, Math.min(mostAhead, Math.floor(roomAhead / bytes)))
}

/** A sample and all that a decoded frame is asked for; closed with it. */
function frameOf(index: number, sample: VideoSample, { meaning }: ClipKind): DecodedFrame {
  sample.setRotation(0)
  return {
    index,
    meaning,
    width: sample.codedWidth,
    height: sample.codedHeight,
    planes: () => planesOfSample(sample, meaning),
    lend: (work) => withRoom(sample, async (room) => work(await planesOfSample(sample, meaning, room))),
    luma: (into) => lumaOfSample(sample, meaning, into),
    async draw(context, width, height) {
      const { transfer } = meaning
      const isSmall = strideFor(sample.codedWidth, width) > 1
      if (isSmall || transfer === 'pq' || transfer === 'hlg')
        await withRoom(sample, async (room) =>
          drawPlanes(context, await planesOfSample(sample, meaning, room), meaning, width, height),
        )
      else sample.draw(context, 0, 0, width, height)
    },
    close: () => sample.close(),
  }
}

async function engineOf(input: Input, track: InputVideoTrack, clip: ClipKind): Promise<Engine> {
  const { steps } = clip
  const first = await track.getFirstTimestamp()
  const timeAt = (index: number) =>
    first + toNumber(middleOf(steps, Math.max(0, Math.min(countOf(steps) - 1, index))))
  /** Samples from a time on; as many are decoded ahead as there is room for. */
  const samplesFrom = (time: number) => pacedSamples(track, time, aheadOf(clip))
  let running: { samples: AsyncGenerator<VideoSample>; held: VideoSample } | null = null

  let leaving: ReturnType<typeof setTimeout> | undefined

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
      const samples = samplesFrom(time)
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

  /** The key frame before a time, decoded alone. */
  async function keyBefore(time: number): Promise<VideoSample> {
    const key = await new EncodedPacketSink(track).getKeyPacket(time, { metadataOnly: true })
    const samples = samplesFrom(key?.timestamp ?? time)
    const { value } = await samples.next()
    await samples.return()
    return value ?? (await sampleAt(time)).clone()
  }

  const inTurn = turns()
  const wished = (signal: AbortSignal, index: number, take: () => Promise<VideoSample>) =>
    inTurn(async () => {
      signal.throwIfAborted()
      clearTimeout(leaving)
      try {
        return frameOf(index, await take(), clip)
      } catch (error) {
        stop()
        throw noPicture(error)
      } finally {
        leaving = setTimeout(stop, idle)
      }
    })
  return {
    engine: 'browser',
    steps,
    sample: (index, signal) => wished(signal, index, async () => (await sampleAt(timeAt(index))).clone()),
    near: (index, signal) => wished(signal, index, () => keyBefore(timeAt(index))),
    async *samples(from, signal) {
      try {
        for await (const sample of samplesFrom(timeAt(from))) {
          if (signal.aborted) sample.close()
          signal.throwIfAborted()
          yield frameOf(stepNear(steps, sample.timestamp - first), sample, clip)
        }
      } catch (error) {
        signal.throwIfAborted()
        throw noPicture(error)
      }
    },
    close: () => {
      clearTimeout(leaving)
      stop()
      input.dispose()
    },
  }
}
