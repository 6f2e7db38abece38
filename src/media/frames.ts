import { ALL_FORMATS, BlobSource, Input, type InputVideoTrack, UrlSource, VideoSampleSink } from 'mediabunny'
import type { MediaLocator } from './source'

/** Decoded pictures of one clip, upright, with the pixels as stored (not yet stretched to square). */
export interface FrameAccess {
  /** The picture shown at a time of the source, in seconds from its first frame, drawn at most `maxWidth` wide. */
  frameAt(seconds: number, maxWidth: number): Promise<ImageBitmap>
  close(): void
}

/** Why no picture can be shown, in a sentence for the editor. */
export class NoPicture extends Error {}

/** Opens a clip for looking at its frames. @throws NoPicture with a sentence */
export async function openFrames(
  locator: MediaLocator,
  kind: 'video' | 'still',
  codec: string,
): Promise<FrameAccess> {
  return kind === 'still' ? openStill(locator) : openVideo(locator, codec)
}

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

async function openVideo(locator: MediaLocator, codec: string): Promise<FrameAccess> {
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

async function frameAccess(input: Input, track: InputVideoTrack): Promise<FrameAccess> {
  const sink = new VideoSampleSink(track)
  const first = await track.getFirstTimestamp()
  return {
    async frameAt(seconds, maxWidth) {
      const sample = await sink.getSample(first + seconds)
      if (!sample) throw new NoPicture('There is no frame at this time: the file may be cut off.')
      try {
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
      } finally {
        sample.close()
      }
    },
    close: () => input.dispose(),
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
