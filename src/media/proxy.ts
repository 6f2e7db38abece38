import { CanvasSource, Mp4OutputFormat, Output, StreamTarget, getFirstEncodableVideoCodec } from 'mediabunny'
import { present } from '../core/assert'
import { proxySize } from '../core/toll/heavy'
import { countOf } from '../core/motion/timing'
import { openClip } from './decode/clip'
import { type ClipKind, NoPicture } from './decode/engine'
import type { MediaLocator } from './source'
import { nextTurn } from './turns'

/** Frames of a proxy follow each other so many to the second, whatever those of its clip do: they are found by number. */
const rate = 25
/** Bits for each pixel of a frame that stands alone. */
const bitsPerPixel = 0.9
/** Between two words of progress, in milliseconds. */
const tellEvery = 250

/** A proxy that is to be made: of which file, and into which. */
export interface ProxyOrder {
  readonly locator: MediaLocator
  readonly kind: ClipKind
  /** Whether lines belong to two moments. */
  readonly hasFields: boolean
  readonly into: FileSystemFileHandle
}

/**
 * Makes the proxy of a file: each of its frames alone, a quarter of the pixels, in MP4. It is what players decode with ease, and never
 * more than that: what is rendered or proven comes from the file itself.
 * @throws Error in a sentence
 */
export async function makeProxy(
  { locator, kind, hasFields, into }: ProxyOrder,
  tell: (frames: number, total: number) => void,
  signal: AbortSignal,
): Promise<void> {
  const { width, height } = proxySize(kind.width, kind.height, hasFields)
  const bitrate = Math.round(width * height * rate * bitsPerPixel)
  const codec = await getFirstEncodableVideoCodec(['avc', 'vp9', 'vp8', 'av1'], { width, height, bitrate })
  if (!codec) throw new Error('This browser encodes no picture: no proxies can be made.')
  const canvas = new OffscreenCanvas(width, height)
  const context = present(canvas.getContext('2d', { alpha: false }), 'a canvas of a worker is drawn on')
  const output = new Output({
    format: new Mp4OutputFormat({ fastStart: false }),
    target: new StreamTarget(await into.createWritable()),
  })
  const source = new CanvasSource(canvas, { codec, bitrate, keyFrameInterval: 0 })
  output.addVideoTrack(source, { frameRate: rate })
  const clip = await openClip(locator, kind, signal)
  const total = countOf(kind.steps)
  let tellAt = 0
  try {
    await output.start()
    let n = 0
    for await (const frame of clip.samples(0, signal)) {
      try {
        signal.throwIfAborted()
        await frame.draw(context, width, height)
      } finally {
        frame.close()
      }
      await source.add(n / rate, 1 / rate)
      n++
      if (n >= total) break
      if (performance.now() - tellAt < tellEvery) continue
      tellAt = performance.now()
      tell(n, total)
      await nextTurn()
    }
    if (n < total) throw new NoPicture(`Only ${n} of ${total} frames can be decoded.`)
    await output.finalize()
    tell(total, total)
  } catch (error) {
    await output.cancel().catch(() => {})
    throw error
  } finally {
    clip.close()
  }
}

/** For so long a clip is decoded to see how fast that goes, in milliseconds, and at most so many frames. */
const [trial, trialFrames] = [1500, 100]

/** How many frames of a file are decoded in a second. @throws NoPicture */
export async function measurePace(
  locator: MediaLocator,
  kind: ClipKind,
  signal: AbortSignal,
): Promise<number> {
  const clip = await openClip(locator, kind, signal)
  try {
    let n = 0
    let begun = performance.now()
    for await (const frame of clip.samples(0, signal)) {
      await frame.lend(() => {}).finally(() => frame.close())
      // The first one waits until the decoder is under way.
      if (n++ === 0) begun = performance.now()
      if (n > trialFrames || performance.now() - begun > trial) break
    }
    const seconds = (performance.now() - begun) / 1000
    return n > 1 ? (n - 1) / seconds : 0
  } finally {
    clip.close()
  }
}
