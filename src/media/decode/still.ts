import { present } from '../../core/assert'
import { type Rotation, isQuarterTurn } from '../../core/picture/turn'
import { lumaOf } from '../../core/planes/planes'
import type { MediaLocator } from '../source'
import { FileWindow } from '../../core/reading/bytes/source'
import { type ClipKind, type DecodedFrame, type Engine, NoPicture, noPicture } from './engine'
import { decodedStill } from './stills'
import { planesOfSample } from './sample-planes'

/** As the samples are: not turned, not converted, not multiplied. */
const asStored = {
  imageOrientation: 'none',
  colorSpaceConversion: 'none',
  premultiplyAlpha: 'none',
} as const

/** The picture of a still by the browser; by a package where it is HEIC. Null where neither knows it. */
async function bitmapOf(blob: Blob, kind: ClipKind): Promise<ImageBitmap | null> {
  const { container, turnedBy } = kind
  if (container === 'DNG') return previewOf(blob, kind)
  const picture = await createImageBitmap(blob, asStored).catch(() => null)
  if (picture) return turnedBy === 0 ? picture : turnedBack(samplesOf(picture), turnedBy)
  if (container === 'TIFF') return uncommonTiff(blob)
  if (container !== 'HEIF') return null
  const samples = await decodedStill((service) => service.heif(blob))
  return samples && turnedBack(samples, turnedBy)
}

/** A file in parts, as readers take it. */
const windowOf = (blob: Blob): FileWindow =>
  new FileWindow({
    size: blob.size,
    read: async (from, length) => new Uint8Array(await blob.slice(from, from + length).arrayBuffer()),
  })

/** A TIFF that the toolkit does not know; null of one that it does. */
async function uncommonTiff(blob: Blob): Promise<ImageBitmap | null> {
  const { isUncommonTiff } = await import('../../core/reading/still/tiff')
  if (!(await isUncommonTiff(windowOf(blob)).catch(() => false))) return null
  try {
    return await createImageBitmap(await decodedStill((service) => service.tiff(blob)), asStored)
  } catch (error) {
    throw noPicture(error)
  }
}

/** The preview that lies in a raw picture, as large as that is: it is not developed here. @throws NoPicture where there is none */
async function previewOf(blob: Blob, { width, height }: ClipKind): Promise<ImageBitmap> {
  const { previewOfDng } = await import('../../core/reading/still/tiff')
  const place = await previewOfDng(windowOf(blob)).catch(() => null)
  const preview =
    place &&
    (await createImageBitmap(blob.slice(place.offset, place.offset + place.length, 'image/jpeg'), {
      ...asStored,
      resizeWidth: width,
      resizeHeight: height,
      resizeQuality: 'high',
    }).catch(() => null))
  if (!preview) throw new NoPicture('Raw is not developed here, and no preview lies in the file.')
  return preview
}

/** The samples of a picture, a byte each of red, green, blue and what is seen through. */
function samplesOf(picture: ImageBitmap): ImageData {
  const canvas = new OffscreenCanvas(picture.width, picture.height)
  const context = present(canvas.getContext('2d'), 'a canvas of a worker is drawn on')
  context.drawImage(picture, 0, 0)
  picture.close()
  return context.getImageData(0, 0, canvas.width, canvas.height)
}

/** A picture as it is stored: what was turned clockwise is turned back, pixel by pixel. */
export function turnedBack({ width, height, data }: ImageData, turn: Rotation): Promise<ImageBitmap> {
  const from = new Uint32Array(data.buffer)
  const back = isQuarterTurn(turn) ? new ImageData(height, width) : new ImageData(width, height)
  const to = new Uint32Array(back.data.buffer)
  for (let y = 0; y < back.height; y++)
    for (let x = 0; x < back.width; x++) {
      const [u, v] =
        turn === 90
          ? [width - 1 - y, x]
          : turn === 180
            ? [width - 1 - x, height - 1 - y]
            : turn === 270
              ? [y, height - 1 - x]
              : [x, y]
      to[y * back.width + x] = from[v * width + u] ?? 0
    }
  return createImageBitmap(back, asStored)
}

/** A still by the browser: PNG, JPEG, WebP, GIF and what else it knows; HEIC by a package. Null where neither knows this one. */
export async function openStill(locator: MediaLocator, kind: ClipKind): Promise<Engine | null> {
  const { steps, meaning } = kind
  const blob = locator.kind === 'file' ? locator.file : await (await fetch(locator.url)).blob()
  const picture = await bitmapOf(blob, kind)
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
