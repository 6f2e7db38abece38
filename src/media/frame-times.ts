import { ALL_FORMATS, BlobSource, CustomSource, EncodedPacketSink, Input } from 'mediabunny'
import { type FrameTimes, frameTimesFrom, mostListed } from '../core/reading/frame-times'
import { rational } from '../core/rational/rational'
import { type MediaLocator, NotServed, byteSource } from './source'

// The package reads ahead for itself: what fails there fails again, told, for whoever asks for it.
globalThis.addEventListener?.('unhandledrejection', (event) => {
  if (event.reason instanceof NotServed) event.preventDefault()
})

/**
 * A file that is served, by the ranges that are wanted and little more: the server is near, and what a package for far ones
 * would fetch ahead is held in memory.
 */
function servedSource(locator: MediaLocator): CustomSource {
  const source = byteSource(locator)
  return new CustomSource({
    getSize: () => source.size,
    read: async (start, end) => source.read(start, end - start),
    prefetchProfile: 'fileSystem',
  })
}

/** The file of a locator, opened for taking apart. Whoever opens it disposes of it. */
export const openInput = (locator: MediaLocator): Input =>
  new Input({
    source: locator.kind === 'file' ? new BlobSource(locator.file) : servedSource(locator),
    formats: ALL_FORMATS,
  })

/**
 * Walks the frames of a clip whose wrapper does not list them in one place, headers only.
 * @returns when each is on screen; null where the wrapper cannot be walked, or gives two frames the same time
 */
export async function walkFrameTimes(locator: MediaLocator, signal: AbortSignal): Promise<FrameTimes | null> {
  const input = openInput(locator)
  try {
    const track = await input.getPrimaryVideoTrack()
    if (!track) return null
    const ticksASecond = Math.round(await track.getTimeResolution())
    if (!(ticksASecond > 0)) return null
    const ticks: number[] = []
    let end = 0
    const packets = new EncodedPacketSink(track).packets(undefined, undefined, { metadataOnly: true })
    for await (const { timestamp, duration } of packets) {
      signal.throwIfAborted()
      if (ticks.length >= mostListed) return null
      ticks.push(Math.round(timestamp * ticksASecond))
      end = Math.max(end, Math.round((timestamp + duration) * ticksASecond))
    }
    return frameTimesFrom(ticks, rational(ticksASecond), end)
  } finally {
    input.dispose()
  }
}
