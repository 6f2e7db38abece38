import { type Input, type InputVideoTrack, type VideoSample, VideoSampleSink } from 'mediabunny'
import { present } from '../core/assert'
import { nativeCodecs } from '../core/toll/noted'
import { type Rotation, isQuarterTurn } from '../core/picture/turn'
import type { MediaLocator } from './source'
import { openInput } from './walk'

/** Decoded pictures of one clip, upright, with the pixels as stored (not yet stretched to square). */
export interface FrameAccess {
  /** The picture shown at a time of the source, in seconds from its first frame, drawn at most `maxWidth` wide. */
  frameAt(seconds: number, maxWidth: number, signal: AbortSignal): Promise<ImageBitmap>
  close(): void
}

/** Why no picture can be shown, in a sentence for the editor. */
export class NoPicture extends Error {}

/** What a clip is, as far as opening it goes; the words are those of its reading. */
export interface ClipKind {
  readonly kind: 'video' | 'still'
  readonly container: string
  readonly codec: string
  /** The clockwise turn that shows the picture upright, whatever the file claims. */
  readonly rotation: Rotation
}

/** Opens a clip for looking at its frames. @throws NoPicture with a sentence */
export const openFrames = (locator: MediaLocator, clip: ClipKind): Promise<FrameAccess> =>
  clip.kind === 'still' ? openStill(locator, clip) : openVideo(locator, clip)

async function openStill(locator: MediaLocator, { rotation }: ClipKind): Promise<FrameAccess> {
  const blob = locator.kind === 'file' ? locator.file : await (await fetch(locator.url)).blob()
  const picture = await createImageBitmap(blob, { imageOrientation: 'none' }).catch(() => {
    throw new NoPicture('This browser cannot show this kind of still; its facts stand.')
  })
  return {
    frameAt: async (_seconds, maxWidth) =>
      turned(picture.width, picture.height, rotation, maxWidth, (context, width, height) =>
        context.drawImage(picture, 0, 0, width, height),
      ),
    close: () => picture.close(),
  }
}

/** Wrappers that the demultiplexer takes apart. */
const openable = new Set(['MP4', 'QuickTime', 'Matroska', 'WebM', 'MPEG-TS'])

async function openVideo(
  locator: MediaLocator,
  { codec, container, rotation }: ClipKind,
): Promise<FrameAccess> {
  // Whether this browser is one that decodes it is asked below.
  if (!nativeCodecs.has(codec))
    throw new NoPicture(`This browser cannot decode ${codec}: the facts stand, the picture cannot be shown.`)
  if (!openable.has(container))
    throw new NoPicture(`${codec} in ${container} cannot be shown here yet: the facts stand.`)
  if (codec === 'ProRes') (await import('@mediabunny/prores')).registerProresDecoder()
  const input = openInput(locator)
  try {
    const track = await input.getPrimaryVideoTrack()
    if (!track) throw new NoPicture('No picture is found in this file.')
    if (!(await track.canDecode())) {
      throw new NoPicture(
        `This browser cannot decode ${codec}: the facts stand, the picture cannot be shown.`,
      )
    }
    return await frameAccess(input, track, rotation)
  } catch (error) {
    input.dispose()
    if (error instanceof NoPicture) throw error
    throw new NoPicture(`No frame of ${codec} in this wrapper can be shown here yet: the facts stand.`)
  }
}

/** Steps and playback ask for what comes next: up to this far on, the decoder goes on instead of starting at a key frame. */
const furtherSeconds = 0.6

async function frameAccess(input: Input, track: InputVideoTrack, rotation: Rotation): Promise<FrameAccess> {
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
    frameAt: (seconds, maxWidth, signal) =>
      inTurn(async () => {
        signal.throwIfAborted()
        const sample = await sampleAt(first + seconds)
        sample.setRotation(0)
        return turned(sample.codedWidth, sample.codedHeight, rotation, maxWidth, (context, width, height) =>
          sample.draw(context, 0, 0, width, height),
        )
      }),
    close: () => {
      stop()
      input.dispose()
    },
  }
}

/**
 * A stored picture stood upright, at most so many pixels wide.
 * @param draw draws it as it is stored, at a width and a height
 */
function turned(
  storedWidth: number,
  storedHeight: number,
  rotation: Rotation,
  maxWidth: number,
  draw: (context: OffscreenCanvasRenderingContext2D, width: number, height: number) => void,
): ImageBitmap {
  const across = isQuarterTurn(rotation) ? storedHeight : storedWidth
  const scale = Math.min(1, maxWidth / across)
  const [width, height] = [storedWidth, storedHeight].map((side) =>
    Math.max(1, Math.round(side * scale)),
  ) as [number, number]
  const canvas = isQuarterTurn(rotation)
    ? new OffscreenCanvas(height, width)
    : new OffscreenCanvas(width, height)
  const context = present(canvas.getContext('2d'), 'a canvas of this worker is drawn on in two dimensions')
  context.translate(canvas.width / 2, canvas.height / 2)
  context.rotate((rotation * Math.PI) / 180)
  context.translate(-width / 2, -height / 2)
  draw(context, width, height)
  return canvas.transferToImageBitmap()
}
