import { present } from '../core/assert'
import type { Luma } from '../core/planes/luma'
import type { StoredPicture } from '../core/compose/stored'
import { type Rotation, isQuarterTurn } from '../core/picture/turn'
import { openClip } from './decode/clip'
import type { ClipKind, DecodedFrame } from './decode/engine'
import type { MediaLocator } from './source'

/** A file whose frames are wanted. */
export interface WantedFile {
  readonly key: string
  readonly locator: MediaLocator
  readonly kind: ClipKind
  readonly rotation: Rotation
}

/** Decoded pictures of one clip, upright, with the pixels as stored (not yet stretched to square). */
export interface FrameAccess {
  /**
   * A frame of the file, drawn at most `maxWidth` wide.
   * @param exact that very frame; else the key frame before it will do
   * @throws NoPicture
   */
  frameAt(index: number, maxWidth: number, exact: boolean, signal: AbortSignal): Promise<ImageBitmap>
  /** The planes of a frame of the file as decoded, not turned: a copy. @throws NoPicture */
  planes(index: number, signal: AbortSignal): Promise<Pick<StoredPicture, 'planes' | 'meaning'>>
  /** The luma of a frame of the file. @throws NoPicture */
  luma(index: number, signal: AbortSignal): Promise<Luma>
  close(): void
}

/** A clip for looking at. @param rotation the clockwise turn that shows it upright, whatever the file claims */
export async function openFrames(
  locator: MediaLocator,
  clip: ClipKind,
  rotation: Rotation,
  signal: AbortSignal,
): Promise<FrameAccess> {
  const open = await openClip(locator, clip, signal)
  return {
    async frameAt(index, maxWidth, exact, wish) {
      const frame = await (exact ? open.sample(index, wish) : open.near(index, wish))
      try {
        return await upright(frame, rotation, maxWidth)
      } finally {
        frame.close()
      }
    },
    async planes(index, wish) {
      const frame = await open.sample(index, wish)
      try {
        return { planes: await frame.planes(), meaning: frame.meaning }
      } finally {
        frame.close()
      }
    },
    luma: (index, wish) => open.luma(index, wish),
    close: () => open.close(),
  }
}

/** A stored picture stood upright, at most so many pixels wide. */
export async function upright(
  frame: DecodedFrame,
  rotation: Rotation,
  maxWidth: number,
): Promise<ImageBitmap> {
  const across = isQuarterTurn(rotation) ? frame.height : frame.width
  const scale = Math.min(1, maxWidth / across)
  const [width, height] = [frame.width, frame.height].map((side) =>
    Math.max(1, Math.round(side * scale)),
  ) as [number, number]
  const canvas = isQuarterTurn(rotation)
    ? new OffscreenCanvas(height, width)
    : new OffscreenCanvas(width, height)
  const context = present(canvas.getContext('2d'), 'a canvas of this worker is drawn on in two dimensions')
  context.translate(canvas.width / 2, canvas.height / 2)
  context.rotate((rotation * Math.PI) / 180)
  context.translate(-width / 2, -height / 2)
  await frame.draw(context, width, height)
  return canvas.transferToImageBitmap()
}
