import { present } from '../../core/assert'
import { figureMeaning, figureOf } from '../../core/figure/figure'
import { countOf } from '../../core/motion/timing'
import type { Rotation } from '../../core/picture/turn'
import { hasPreview, previewer } from '../../core/planes/preview'
import { type ScreenPicture } from '../../core/planes/screen'
import { openClip } from '../decode/clip'
import { type DecodedFrame, NoPicture, type OpenClip } from '../decode/engine'
import { upright } from '../frames'
import type { DecodableFile } from '../measure'
import type { PlayedSource } from './plan'
import { ofCode } from './shown-code'

/** A picture that is ready to be drawn. */
export type ReadyPicture = ImageBitmap | OffscreenCanvas

/** Frames and fields of one source, asked for in their order. */
export interface PlayedClip {
  /**
   * A frame, or one of its fields, by its code, at most so many pixels wide.
   * @param anyNear whether the key frame before it will do, since it cannot be had in time
   * @throws NoPicture
   */
  picture(code: number, width: number, anyNear?: boolean): Promise<ReadyPicture>
  close(): void
}

/** So many frames on the decoder goes on; further it begins anew. */
const furthest = 90

/** The stream of one file that a clip is read from, and what was read last. */
interface Stream {
  readonly file: DecodableFile
  readonly open: OpenClip
  readonly frames: AsyncGenerator<DecodedFrame>
  readonly stop: AbortController
  held: DecodedFrame | null
  next: DecodedFrame | null
}

/** Opens a source for playing. */
export function playedClip(source: PlayedSource): PlayedClip {
  return source.kind === 'figure' ? playedFigure(source) : playedFiles(source.files, source.rotation)
}

function drawn({ data, width, height }: ScreenPicture): OffscreenCanvas {
  const canvas = new OffscreenCanvas(width, height)
  const context = present(canvas.getContext('2d'), 'a canvas of a worker is drawn on')
  context.putImageData(new ImageData(data, width, height), 0, 0)
  return canvas
}

function playedFigure({ figure }: Extract<PlayedSource, { kind: 'figure' }>): PlayedClip {
  const draw = figureOf(figure)
  const { width, height } = figure.size
  return {
    async picture(code, wide) {
      const { index, field } = ofCode(code)
      const planes = draw(index)
      const w = Math.min(width, wide)
      const small = previewer(planes, figureMeaning, w, Math.max(1, Math.round((height * w) / width)), field)
      return drawn(small(planes))
    },
    close: () => {},
  }
}

function playedFiles(files: readonly DecodableFile[], rotation: Rotation): PlayedClip {
  let stream: Stream | null = null
  const previews = new Map<string, ReturnType<typeof previewer>>()

  function leave() {
    stream?.stop.abort()
    stream?.held?.close()
    stream?.next?.close()
    void stream?.frames.return(undefined).catch(() => {})
    stream?.open.close()
    stream = null
  }

  async function streamFrom(file: DecodableFile, index: number): Promise<Stream> {
    const stop = new AbortController()
    const open = await openClip(file.locator, file.kind, stop.signal)
    const first = Math.max(0, Math.min(countOf(file.kind.steps) - 1, index))
    return { file, open, stop, frames: open.samples(first, stop.signal), held: null, next: null }
  }

  /** The frame that is on at an index: the last one that does not come after it. */
  async function decoded(index: number): Promise<DecodedFrame> {
    const file = files.findLast(({ first }) => first <= index)
    if (!file) throw new NoPicture('This clip has no picture.')
    const within = index - file.first
    const at = stream?.held?.index ?? -1
    if (stream && (stream.file !== file || within < at || within > at + furthest)) leave()
    stream ??= await streamFrom(file, within)
    const source = stream
    while (!source.held || source.held.index < within) {
      if (!source.next) {
        const { value, done } = await source.frames.next()
        if (done || !value) break
        source.next = value
      }
      if (source.held && source.next.index > within) break
      source.held?.close()
      source.held = source.next
      source.next = null
    }
    if (!source.held) throw new NoPicture('There is no frame at this time: the file may be cut off.')
    return source.held
  }

  /** The key frame before an index, where it comes after what was decoded last; null else: that is nearer. */
  async function keyFrame(index: number): Promise<DecodedFrame | null> {
    const file = files.findLast(({ first }) => first <= index)
    if (!file || (stream && stream.file !== file)) return null
    stream ??= await streamFrom(file, index - file.first)
    const { held, open, stop } = stream
    const key = await open.near(index - file.first, stop.signal)
    if (held && key.index <= held.index) {
      key.close()
      return null
    }
    return key
  }

  /** A small picture made of the planes themselves; null of one that has to be drawn as the screen draws it. */
  async function preview(
    frame: DecodedFrame,
    field: 'top' | 'bottom' | null,
    wide: number,
  ): Promise<OffscreenCanvas | null> {
    if (rotation !== 0) return null
    return frame.lend((planes) => {
      if (!hasPreview(planes, frame.meaning)) return null
      const width = Math.min(planes.width, wide)
      const height = Math.max(1, Math.round((planes.height * width) / planes.width))
      const key = `${width} ${field} ${planes.width} ${planes.across} ${planes.down} ${planes.bitDepth}`
      const preview = previews.get(key) ?? previewer(planes, frame.meaning, width, height, field)
      previews.set(key, preview)
      return drawn(preview(planes))
    })
  }

  return {
    async picture(code, width, anyNear = false) {
      const { index, field } = ofCode(code)
      const key = anyNear ? await keyFrame(index) : null
      const frame = key ?? (await decoded(index))
      try {
        return (await preview(frame, field, width)) ?? (await upright(frame, rotation, width))
      } finally {
        key?.close()
      }
    },
    close: leave,
  }
}
