import {
  ALL_FORMATS,
  BlobSource,
  Input,
  type InputVideoTrack,
  UrlSource,
  type VideoSample,
  VideoSampleSink,
} from 'mediabunny'
import { nativeCodecs } from '../core/toll/noted'
import type { MediaLocator } from './source'

/** Decoded pictures of one clip, upright, with the pixels as stored (not yet stretched to square). */
export interface FrameAccess {
  /** The picture shown at a time of the source, in seconds from its first frame, drawn at most `maxWidth` wide. */
  frameAt(seconds: number, maxWidth: number): Promise<ImageBitmap>
  close(): void
}

/** Why no picture can be shown, in a sentence for the editor. */
export class NoPicture extends Error {}

/** What a clip is, as far as opening it goes; the words are those of its reading. */
export interface ClipKind {
  readonly kind: 'video' | 'still'
  readonly container: string
  readonly codec: string
}

/** Opens a clip for looking at its frames. @throws NoPicture with a sentence */
export const openFrames = (locator: MediaLocator, clip: ClipKind): Promise<FrameAccess> =>
  clip.kind === 'still' ? openStill(locator) : openVideo(locator, clip)

async function openStill(locator: MediaLocator): Promise<FrameAccess> {
  const blob = locator.kind === 'file' ? locator.file : await (await fetch(locator.url)).blob()
  const picture = await createImageBitmap(blob).catch(() => {
    throw new NoPicture('This browser cannot show this kind of still; its facts stand.')
  })
  return {
    frameAt: async (_seconds, maxWidth) => shrink(picture, picture.width, picture.height, maxWidth),
    close: () => picture.close(),
  }
}

/** Wrappers that the demultiplexer takes apart. */
const openable = new Set(['MP4', 'QuickTime', 'Matroska', 'WebM', 'MPEG-TS'])

async function openVideo(locator: MediaLocator, { codec, container }: ClipKind): Promise<FrameAccess> {
  // Whether this browser is one that decodes it is asked below.
  if (!nativeCodecs.has(codec))
    throw new NoPicture(`This browser cannot decode ${codec}: the facts stand, the picture cannot be shown.`)
  if (!openable.has(container))
    throw new NoPicture(`${codec} in ${container} cannot be shown here yet: the facts stand.`)
  if (codec === 'ProRes') (await import('@mediabunny/prores')).registerProresDecoder()
  const source = locator.kind === 'file' ? new BlobSource(locator.file) : new UrlSource(locator.url)
  const input = new Input({ source, formats: ALL_FORMATS })
  try {
    const track = await input.getPrimaryVideoTrack()
    if (!track) throw new NoPicture('No picture is found in this file.')
    if (!(await track.canDecode())) {
      throw new NoPicture(
        `This browser cannot decode ${codec}: the facts stand, the picture cannot be shown.`,
      )
    }
    return await frameAccess(input, track)
  } catch (error) {
    input.dispose()
    if (error instanceof NoPicture) throw error
    throw new NoPicture(`No frame of ${codec} in this wrapper can be shown here yet: the facts stand.`)
  }
}

/** Steps and playback ask for what comes next: up to this far on, the decoder goes on instead of starting at a key frame. */
const furtherSeconds = 0.6

async function frameAccess(input: Input, track: InputVideoTrack): Promise<FrameAccess> {
  const sink = new VideoSampleSink(track)
  const first = await track.getFirstTimestamp()
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

  /** One request at a time: the decoder stands at one place only. */
  let queue: Promise<unknown> = Promise.resolve()
  const inTurn = <T>(work: () => Promise<T>): Promise<T> => {
    const turn = queue.then(work)
    queue = turn.catch(() => {})
    return turn
  }
  return {
    frameAt: (seconds, maxWidth) =>
      inTurn(async () => {
        const sample = await sampleAt(first + seconds)
        const turned = sample.rotation % 180 === 90
        const width = turned ? sample.codedHeight : sample.codedWidth
        const height = turned ? sample.codedWidth : sample.codedHeight
        const scale = Math.min(1, maxWidth / width)
        const canvas = new OffscreenCanvas(
          Math.max(1, Math.round(width * scale)),
          Math.max(1, Math.round(height * scale)),
        )
        sample.draw(canvas.getContext('2d')!, 0, 0, canvas.width, canvas.height)
        return canvas.transferToImageBitmap()
      }),
    close: () => {
      stop()
      input.dispose()
    },
  }
}

function shrink(picture: CanvasImageSource, width: number, height: number, maxWidth: number): ImageBitmap {
  const scale = Math.min(1, maxWidth / width)
  const canvas = new OffscreenCanvas(
    Math.max(1, Math.round(width * scale)),
    Math.max(1, Math.round(height * scale)),
  )
  canvas.getContext('2d')!.drawImage(picture, 0, 0, canvas.width, canvas.height)
  return canvas.transferToImageBitmap()
}
