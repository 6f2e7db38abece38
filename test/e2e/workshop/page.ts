/** Both engines by themselves, for tests and the bench: a page that is served from the sources and never ships. */
import { failure } from '../../../src/core/result'
import { readMark } from '../../../tools/demo/frame-mark'
import { samplesOf, screenSamplesOf } from '../../fixtures/samples'
import type { Clip } from '../../../src/core/model/clip'
import { layersAt } from '../../../src/core/plan/layers'
import { formatOf } from '../../../src/core/model/project'
import { storedIndexOf, timingOfReading } from '../../../src/core/model/timing'
import { readProjectFile } from '../../../src/core/stored/project-file'
import { toNumber } from '../../../src/core/rational/rational'
import { type FrameAccess, openFrames } from '../../../src/media/frames'
import { openAccesses } from '../../../src/media/open'
import { composer } from '../../../src/media/render/composer'
import { compositionOf } from '../../../src/media/render/compositions'
import { countOf } from '../../../src/core/motion/timing'
import { read } from '../../../src/core/reading/read'
import { simdKernels } from '../../../src/core/evidence/simd'
import type { Luma } from '../../../src/core/planes/luma'
import { toScreen } from '../../../src/core/planes/screen'
import { openClip, openHere } from '../../../src/media/decode/clip'
import { openInBrowser } from '../../../src/media/decode/browser-clip'
import type { ClipKind, Engine } from '../../../src/media/decode/engine'
import { soundInBrowser } from '../../../src/media/decode/browser-sound'
import { soundByToolkit } from '../../../src/media/decode/toolkit-sound'
import { newCore } from '../../../src/media/decode/toolkit-core'
import { toolkitClip } from '../../../src/media/decode/toolkit-clip'
import { kindOfReading } from '../../../src/media/frame-locator'
import { measureClip } from '../../../src/media/measure'
import { byteSource } from '../../../src/media/source'

type By = 'browser' | 'toolkit'
type Span = readonly [from: number, to: number]
const never = new AbortController().signal

/** The clip that is looked at. */
let looking: Engine | null = null
/** Workers that were started, so that one can be killed as a crash would. */
const started: Worker[] = []
const Plain = window.Worker
window.Worker = class extends Plain {
  constructor(url: string | URL, options?: WorkerOptions) {
    super(url, options)
    started.push(this)
  }
}

async function described(url: string, sizeBytes: number) {
  const locator = { kind: 'url', url, sizeBytes } as const
  const result = await read(byteSource(locator))
  const { reading } = result
  if (!reading?.video) throw new Error(`${url} has no picture`)
  const frameTimes = result.ok ? result.frameTimes : undefined
  const timing = frameTimes ? ({ kind: 'table', times: frameTimes } as const) : timingOfReading(reading)
  const kind = kindOfReading(reading, timing)
  if (!kind) throw new Error(`${url} has no picture`)
  return { locator, kind }
}

async function opened(url: string, sizeBytes: number, engine: 'browser' | 'toolkit'): Promise<Engine | null> {
  const { locator, kind } = await described(url, sizeBytes)
  return engine === 'toolkit' ? toolkitClip(locator, kind) : openHere(locator, kind)
}

/** Where the drawn picture lies in a raster that has bars above and below, and a line of the mark. */
export interface Where {
  readonly bars: number
  readonly onItsSide: boolean
  readonly line: number
}

function markIn({ width, height, data }: Luma, { bars, onItsSide, line }: Where): number | null {
  const inner = height * (1 - 2 * bars)
  return onItsSide
    ? readMark(
        // The picture was turned a quarter before it was stored.
        {
          left: 0,
          top: 0,
          width: height,
          height: width,
          luma: (x, y) => data[(height - 1 - x) * width + y] ?? 0,
        },
        line,
      )
    : readMark(
        { left: 0, top: height * bars, width, height: inner, luma: (x, y) => data[y * width + x] ?? 0 },
        line,
      )
}

const workshop = {
  /** How many frames a clip has; whether an engine opens it. */
  async count(url: string, sizeBytes: number, engine: 'browser' | 'toolkit') {
    const clip = await opened(url, sizeBytes, engine)
    clip?.close()
    return clip ? countOf(clip.steps) : null
  },
  /** The marks that frames bear, asked for in an order. */
  async marks(
    url: string,
    sizeBytes: number,
    engine: 'browser' | 'toolkit',
    indices: number[],
    where: Where,
  ) {
    const clip = await opened(url, sizeBytes, engine)
    if (!clip) return null
    const seen: (number | null)[] = []
    for (const index of indices) {
      const frame = await clip.sample(index, never)
      seen.push(markIn(await frame.luma(), where))
      frame.close()
    }
    clip.close()
    return seen
  },
  /** The mark of a frame of a clip that stays open, as one that is looked at does; it is opened by the toolkit first. */
  async looked(url: string, sizeBytes: number, index: number, where: Where) {
    looking ??= await opened(url, sizeBytes, 'toolkit')
    const frame = await looking?.sample(index, never)
    const mark = frame ? markIn(await frame.luma(), where) : null
    frame?.close()
    return mark
  },
  /**
   * The marks in frames of a timeline as they are composed by the exact kernels, each read where its picture lies.
   * @param project a project file whose clips are named as they are served
   */
  async composed(
    project: string,
    timelineId: string,
    frames: number[],
    served: Record<string, { url: string; size: number }>,
    bars: Record<string, number>,
  ) {
    const opened = readProjectFile(project)
    if (!opened.ok) throw new Error(opened.error)
    const { doc } = opened
    const timeline = doc.timelines[timelineId]
    const format = timeline && formatOf(doc, timeline)
    if (!timeline || !format) throw new Error('the timeline has no format')
    const open = openAccesses<FrameAccess>(4)
    const { drawn: compose } = composer(async ({ key, locator, kind, rotation }, index, signal) => {
      const access = await open.get(key, () => openFrames(locator, kind, rotation, signal))
      return { ok: true, picture: await access.planes(index, signal) }
    })
    const wanted = async (clip: Clip, index: number) => {
      const there = served[clip.name]
      if (!there) return failure(`${clip.name} is not served`)
      const { locator, kind } = await described(there.url, there.size)
      const stored = storedIndexOf(clip, index)
      return {
        ok: true as const,
        file: { key: clip.id, locator, kind, rotation: clip.reading?.video?.rotation ?? 0 },
        within: Math.min(countOf(kind.steps) - 1, stored),
      }
    }
    const seen: (number | string | null)[] = []
    for (const n of frames) {
      const layers = layersAt(doc, timeline, n)
      const [layer] = layers
      const composition = await compositionOf(doc, layers, format, wanted)
      const area = { x: 0, y: 0, width: format.width, height: format.height }
      const { picture, trouble } = await compose(composition, area, never)
      if (trouble || !layer || layer.source.kind !== 'clip') {
        seen.push(trouble ?? 'nothing is there')
        continue
      }
      const canvas = new OffscreenCanvas(picture.width, picture.height)
      const context = canvas.getContext('2d')!
      context.drawImage(picture, 0, 0)
      const { data } = context.getImageData(0, 0, picture.width, picture.height)
      const { rasterMap, size } = layer
      const name = doc.clips[layer.source.clipId]?.name ?? ''
      const [left, top] = [toNumber(rasterMap.x), toNumber(rasterMap.y)]
      const [width, height] = [
        size.across * toNumber(rasterMap.scaleX),
        size.down * toNumber(rasterMap.scaleY),
      ]
      const bar = bars[name] ?? 0
      seen.push(
        readMark({
          left,
          top: top + height * bar,
          width,
          height: height * (1 - 2 * bar),
          luma: (x, y) => data[(y * picture.width + x) * 4 + 1] ?? 0,
        }),
      )
      picture.close()
    }
    return seen
  },
  /** What comes of asking for a frame while the worker that decodes is killed, and of asking again. */
  async killed(url: string, sizeBytes: number, index: number, where: Where) {
    const clip = await opened(url, sizeBytes, 'toolkit')
    if (!clip) return null
    const lost = clip.sample(index, never).then(
      () => 'it came',
      (error: unknown) => String(error),
    )
    setTimeout(() => started.at(-1)?.terminate(), 60)
    const outcome = await lost
    const frame = await clip.sample(index, never)
    const mark = markIn(await frame.luma(), where)
    frame.close()
    clip.close()
    return { told: outcome, mark }
  },
  /** The marks of frames of a file whose bytes between two shares of it are noise, and what measuring says of it. */
  async damaged(url: string, engine: By, [from, to]: Span, indices: number[], where: Where) {
    const bytes = new Uint8Array(await (await fetch(url)).arrayBuffer())
    const { kind } = await described(url, bytes.length)
    for (let i = Math.floor(bytes.length * from); i < bytes.length * to; i++)
      bytes[i] = (i * 2654435761) >>> 13
    const file = new File([bytes], 'damaged')
    const locator = { kind: 'file', file } as const
    const clip = engine === 'toolkit' ? toolkitClip(locator, kind) : await openInBrowser(locator, kind)
    const seen: (number | string | null)[] = []
    for (const index of indices) {
      try {
        const frame = await clip?.sample(index, never)
        seen.push(frame ? markIn(await frame.luma(), where) : 'not opened')
        frame?.close()
      } catch (error) {
        seen.push(String(error))
      }
    }
    clip?.close()
    const said = await measureClip([{ locator, kind, first: 0 }], null, simdKernels(), never, () => {}).then(
      ({ frames }) => frames,
      (error: unknown) => String(error),
    )
    return { seen, said }
  },
  /** What measuring a file says that is there no more once it was opened. */
  async vanished(url: string, goneUrl: string, sizeBytes: number) {
    const { kind } = await described(url, sizeBytes)
    const locator = { kind: 'url', url: goneUrl, sizeBytes } as const
    return measureClip([{ locator, kind, first: 0 }], null, simdKernels(), never, () => {}).then(
      ({ frames }) => frames,
      (error: unknown) => String(error),
    )
  },
  /** The mark of the key frame before each of some frames: fast, for posters. */
  async near(url: string, sizeBytes: number, engine: 'browser' | 'toolkit', indices: number[], where: Where) {
    const clip = await opened(url, sizeBytes, engine)
    if (!clip) return null
    const seen: (number | null)[] = []
    for (const index of indices) {
      const frame = await clip.near(index, never)
      seen.push(markIn(await frame.luma(), where))
      frame.close()
    }
    clip.close()
    return seen
  },
  /** Samples of a stream of sound from one up to another, the first channel, and when the stream begins. */
  async sound(url: string, sizeBytes: number, engine: By, stream: number, [from, to]: Span) {
    const locator = { kind: 'url', url, sizeBytes } as const
    const { reading } = await read(byteSource(locator))
    const facts = reading?.audio[stream]
    if (!reading || !facts?.sampleRate || !facts.channels) return null
    const { sampleRate, channels, startSec = 0 } = facts
    const kind = { stream, sampleRate, channels, hasPicture: reading.video !== null, startSec }
    const sound =
      engine === 'toolkit' ? await soundByToolkit(locator, kind, never) : await soundInBrowser(locator, kind)
    if (!sound) return null
    const [first] = await sound.samples(from, to, never)
    sound.close()
    return { sampleRate, start: sound.start, samples: [...(first ?? [])] }
  },
  /** The marks of all frames from one on, as they stream. */
  async streamed(url: string, sizeBytes: number, engine: 'browser' | 'toolkit', from: number, where: Where) {
    const clip = await opened(url, sizeBytes, engine)
    if (!clip) return null
    const seen: [number, number | null][] = []
    for await (const frame of clip.samples(from, never)) {
      seen.push([frame.index, markIn(await frame.luma(), where)])
      frame.close()
    }
    clip.close()
    return seen
  },
  /** What the planes of a clip's first frame hold, and what is seen of it on screen, at nine places. */
  async pictured(url: string, sizeBytes: number, engine: 'browser' | 'toolkit') {
    const clip = await opened(url, sizeBytes, engine)
    if (!clip) return null
    const frame = await clip.sample(0, never)
    const { width, height } = frame
    const canvas = new OffscreenCanvas(width, height)
    const context = canvas.getContext('2d', { willReadFrequently: true })
    if (!context) return null
    await frame.draw(context, width, height)
    const bytes = context.getImageData(0, 0, width, height).data
    const planes = samplesOf(await frame.planes())
    frame.close()
    clip.close()
    return { planes, screen: screenSamplesOf({ width, height, bytesEach: 4, bytes }) }
  },
  /** Red, blue and opacity along a line of the first frame, as a screen takes them. @param holds of all that the file holds */
  async row(
    url: string,
    sizeBytes: number,
    engine: 'browser' | 'toolkit',
    line: number,
    holds?: NonNullable<ClipKind['window']>,
  ) {
    const { locator, kind } = await described(url, sizeBytes)
    const clip = await openClip(locator, holds ? { ...kind, ...holds, window: holds } : kind, never)
    if (clip.engine !== engine) return null
    const frame = await clip.sample(0, never)
    const { width, data } = toScreen(await frame.planes(), frame.meaning)
    frame.close()
    clip.close()
    const valuesOf = (part: number) =>
      Array.from({ length: width }, (_, x) => data[(line * width + x) * 4 + part] ?? 0)
    return { red: valuesOf(0), blue: valuesOf(2), alpha: valuesOf(3) }
  },
  /** How many frames the browser has decoded that were not taken yet, at most, when each of some frames is waited over. */
  async ahead(url: string, sizeBytes: number, from: number, frames: number) {
    const clip = await opened(url, sizeBytes, 'browser')
    if (!clip) return null
    const Native = window.VideoDecoder
    let [decoded, taken, most] = [0, 0, 0]
    window.VideoDecoder = class extends Native {
      constructor({ output, error }: VideoDecoderInit) {
        const counted = (frame: VideoFrame) => {
          decoded++
          output(frame)
        }
        super({ output: counted, error })
      }
    }
    try {
      for await (const frame of clip.samples(from, never)) {
        // As long as it takes to decode all that is on its way.
        for (let before = -1; before !== decoded;) {
          before = decoded
          await new Promise((resolve) => setTimeout(resolve, 250))
        }
        most = Math.max(most, decoded - ++taken)
        frame.close()
        if (taken === frames) break
      }
    } finally {
      window.VideoDecoder = Native
      clip.close()
    }
    return most
  },
  /** A file as the toolkit writes it anew. @param base64 its bytes @param words what is done to it, but for where it comes from and goes */
  async retouched(base64: string, ending: string, words: readonly string[]): Promise<string> {
    const { FS, exec, setLogger } = await newCore()
    const said: string[] = []
    setLogger(({ message }) => said.push(message))
    FS.writeFile(
      `/in.${ending}`,
      Uint8Array.from(atob(base64), (c) => c.charCodeAt(0)),
    )
    const code = exec('-nostdin', '-i', `/in.${ending}`, ...words, '-y', `/out.${ending}`)
    if (code !== 0) throw new Error(said.slice(-6).join('\n'))
    return base64Of(FS.readFile(`/out.${ending}`))
  },
  /** Planes of the first frame of a file, one after the other. */
  async firstFrame(base64: string, ending: string, layout: string): Promise<string> {
    const { FS, exec } = await newCore()
    FS.writeFile(
      `/in.${ending}`,
      Uint8Array.from(atob(base64), (c) => c.charCodeAt(0)),
    )
    exec(
      '-nostdin',
      '-i',
      `/in.${ending}`,
      '-frames:v',
      '1',
      '-f',
      'rawvideo',
      '-pix_fmt',
      layout,
      '/out.raw',
    )
    return base64Of(FS.readFile('/out.raw'))
  },
}
function base64Of(bytes: Uint8Array): string {
  let text = ''
  for (let i = 0; i < bytes.length; i += 8192) text += String.fromCharCode(...bytes.subarray(i, i + 8192))
  return btoa(text)
}
export type Workshop = typeof workshop
declare global {
  interface Window {
    workshop: Workshop
  }
}
window.workshop = workshop
document.title = 'ready'
