import { lumaOf } from '../../core/planes/planes'
import type { MediaLocator } from '../source'
import type { ClipKind, DecodedFrame, Engine } from './engine'
import { planesOfSample } from './sample-planes'

/** A still by the browser: PNG, JPEG, WebP, GIF and what else it knows. Null where it does not know this one. */
export async function openStill(locator: MediaLocator, { steps, meaning }: ClipKind): Promise<Engine | null> {
  const blob = locator.kind === 'file' ? locator.file : await (await fetch(locator.url)).blob()
  const picture = await createImageBitmap(blob, {
    imageOrientation: 'none',
    colorSpaceConversion: 'none',
    premultiplyAlpha: 'none',
  }).catch(() => null)
  if (!picture) return null
  const frame = (): DecodedFrame => {
    const planes = async () => {
      const video = new VideoFrame(picture, { timestamp: 0 })
      try {
        return await planesOfSample(video, meaning)
      } finally {
        video.close()
      }
    }
    return {
      index: 0,
      meaning,
      width: picture.width,
      height: picture.height,
      planes,
      lend: async (work) => work(await planes()),
      luma: async (into) => lumaOf(await planes(), into),
      draw: async (context, width, height) => context.drawImage(picture, 0, 0, width, height),
      close: () => {},
    }
  }
  return {
    engine: 'browser',
    steps,
    sample: async () => frame(),
    near: async () => frame(),
    async *samples() {
      yield frame()
    },
    close: () => picture.close(),
  }
}
