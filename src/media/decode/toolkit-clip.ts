import { type Steps, countOf, stepNear, timeOf } from '../../core/motion/timing'
import { type Y4mHead, readY4mHead } from '../../core/planes/y4m'
import { type Planes, planesOf } from '../../core/planes/planes'
import type { Meaning } from '../../core/planes/screen'
import { toNumber } from '../../core/rational/rational'
import { exrShowing } from '../../core/reading/still/exr-window'
import { type MediaLocator, byteSource } from '../source'
import { type ClipKind, type DecodedFrame, type Engine, noPicture } from './engine'
import { planesFrame } from './planes-frame'
import { turns } from '../turns'
import { GivenUp, type ToolkitOrder, type ToolkitStream, openStream, reasonOfEnd } from './toolkit'

/** A frame as it came, with its time in the file. */
interface Came {
  readonly seconds: number
  readonly planes: Planes
}

/** A stream of frames as the toolkit decodes them. */
interface Frames {
  readonly stream: ToolkitStream
  readonly head: Y4mHead
  /** The next frame; null at the end. */
  next(signal: AbortSignal): Promise<Came | null>
}

/** What is taken as it is decoded; what cannot be had so comes as the nearest of these. */
const taken = [
  ...['420', '422', '444', '411', '440'].flatMap((name) => [`yuv${name}p`, `yuvj${name}p`]),
  ...['420', '422', '444'].flatMap((name) => [9, 10, 12, 14, 16].map((bits) => `yuv${name}p${bits}le`)),
  ...['gray', 'gray9le', 'gray10le', 'gray12le', 'gray16le', 'yuva444p'],
].join('|')

/** Steps and playback ask for what comes next: up to so many frames on, the decoder goes on instead of starting anew. */
const furtherFrames = 24
/** Before the wished frame so much of the one before is still let through: decoders round times. */
const early = 1.2
/** A frame that cannot be decoded from the nearest place is looked for from further back, in seconds. */
const leads = [0, 1.5, 12, Infinity] as const
const ringFrames = 8
const [leastRing, mostRing] = [4 * 2 ** 20, 96 * 2 ** 20]

/** Where to begin, in seconds. */
type Start =
  /** By the clock of the file, and from which time on frames are let through. */
  | { readonly seek: number; readonly from: number }
  /** From its beginning, whatever its clock says there. */
  | { readonly about: number }

/** @param start null for its first frame */
async function framesFrom(
  locator: MediaLocator,
  kind: ClipKind,
  start: Start | null,
  signal: AbortSignal,
): Promise<Frames> {
  const { width, height, bitDepth } = kind
  const frameBytes = width * height * 3 * (bitDepth > 8 ? 2 : 1)
  const trim = start && 'from' in start ? [`trim=start=${start.from.toFixed(6)}`] : []
  const seek = start ? ['-noaccurate_seek', ...seekWords(start)] : []
  const order: ToolkitOrder = {
    locator,
    patches: kind.container === 'OpenEXR' ? await exrShowing(byteSource(locator), kind.window) : [],
    timed: 'frames',
    ringBytes: Math.max(leastRing, Math.min(mostRing, ringFrames * frameBytes)),
    before: ['-noautorotate', '-copyts', ...seek],
    after: [
      ...['-map', '0:v:0', '-an', '-sn', '-dn', '-vsync', 'passthrough'],
      ...[
        '-vf',
        [...trim, ...lightToSignal(kind), `format=pix_fmts=${taken}`, 'showinfo=checksum=0'].join(','),
      ],
      ...['-strict', '-1', '-f', 'yuv4mpegpipe'],
    ],
  }
  return openStream(order, async (stream) => {
    const head = readY4mHead(await stream.takeLine(signal))
    if ('wrong' in head) throw new Error(await reasonOfEnd(stream, 'no frame came out of it'))
    return {
      stream,
      head,
      async next(wish) {
        const seconds = await stream.takeTime(wish)
        if (seconds === null) return null
        const bytes = await stream.take(head.frameBytes, wish)
        return bytes.length < head.frameBytes ? null : { seconds, planes: planesOf(head, bytes) }
      },
    }
  })
}

function seekWords(start: Start): string[] {
  if ('about' in start) return ['-ss', start.about.toFixed(6)]
  return start.seek > 0 ? ['-seek_timestamp', '1', '-ss', start.seek.toFixed(6)] : []
}

/**
 * Light of a scene as a signal: what is brighter than white is held there, and the curve of BT.709 is laid over it (ITU-R BT.709 §1.2),
 * at an exposure of nought, before anything is rounded to fewer bits. Alpha is divided out first: a curve over a product is none.
 */
function lightToSignal({ meaning, alpha, premultiplied }: ClipKind): string[] {
  if (meaning.transfer !== 'linear') return []
  const curve = '65535*if(lt(val/65535,0.018),4.5*val/65535,1.099*pow(val/65535,0.45)-0.099)'
  const quoted = curve.replace(/,/g, '\\,')
  return [
    `format=pix_fmts=${alpha ? 'gbrapf32le|gbrap16le' : 'gbrpf32le|gbrp16le'}`,
    ...(alpha && premultiplied ? ['unpremultiply=inplace=1'] : []),
    `format=pix_fmts=${alpha ? 'gbrap16le' : 'gbrp16le'}`,
    `lutrgb=r=${quoted}:g=${quoted}:b=${quoted}`,
  ]
}

/** What the samples mean as they come: the toolkit turns red, green and blue into BT.601, and light into a signal. */
function meaningAsIs({ meaning }: ClipKind, { range, rgbMatrix }: Y4mHead): Meaning {
  const isLight = meaning.transfer === 'linear'
  const signal = isLight ? { ...meaning, transfer: 'bt709' } : meaning
  return rgbMatrix !== null || isLight
    ? { ...signal, matrix: rgbMatrix ?? 'bt601-525', range: range ?? 'limited' }
    : { ...signal, range: range ?? signal.range }
}

/** Where a stream stands. */
interface Running {
  readonly frames: Frames
  /** The frame that came last, by its index. */
  last: { readonly index: number; readonly planes: Planes } | null
}

/** A clip by the toolkit that ships. */
export function toolkitClip(locator: MediaLocator, clip: ClipKind): Engine {
  const { steps } = clip
  /** When the first frame is on, by the clock of the file. */
  let first: number | null = null
  let running: Running | null = null
  const inTurn = turns()

  const stop = async () => {
    const { stream } = running?.frames ?? {}
    running = null
    await stream?.leave()
  }

  /** Begins so that a frame comes, and the one before it. */
  async function begin(index: number, lead: number, signal: AbortSignal): Promise<Running> {
    await stop()
    if (first === null || index === 0) {
      running = { frames: await framesFrom(locator, clip, null, signal), last: null }
      await step(running, signal)
      if (index <= furtherFrames || first === null) return running
      await stop()
    }
    const seek = Math.max(0, secondsOf(steps, index) - lead)
    const before = Math.max(0, secondsOf(steps, index) - early * spanBefore(steps, index))
    const start = { seek: (first ?? 0) + (seek > 0 ? seek : -1), from: (first ?? 0) + before }
    running = { frames: await framesFrom(locator, clip, start, signal), last: null }
    return running
  }

  /** Goes one frame on. @returns false at the end */
  async function step(at: Running, signal: AbortSignal): Promise<boolean> {
    const came = await at.frames.next(signal)
    if (!came) return false
    first ??= Number.isNaN(came.seconds) ? 0 : came.seconds
    const index = Number.isNaN(came.seconds)
      ? (at.last?.index ?? -1) + 1
      : stepNear(steps, came.seconds - first)
    at.last = { index: Math.max(index, (at.last?.index ?? -1) + 1), planes: came.planes }
    return true
  }

  /** The planes of a frame; where the stream has lost it, of the one before. */
  async function planesAt(index: number, signal: AbortSignal): Promise<Planes> {
    const at = running?.last
    if (at && running && index >= at.index && index <= at.index + furtherFrames) {
      const found = await goTo(running, index, signal)
      if (found) return found
    }
    let nearest: Planes | null = null
    for (const lead of leads) {
      const from = await begin(index, lead, signal)
      const found = await goTo(from, index, signal)
      if (found) return found
      nearest = from.last?.planes ?? nearest
      if (secondsOf(steps, index) <= lead) break
    }
    if (nearest) return nearest
    const none = `there is no frame ${index}`
    const { stream } = running?.frames ?? {}
    throw new Error(stream ? await reasonOfEnd(stream, none) : none)
  }

  /** Goes on to a frame. @returns null where the stream begins behind it, or ends before any frame */
  async function goTo(at: Running, index: number, signal: AbortSignal): Promise<Planes | null> {
    let before = at.last
    while (!at.last || at.last.index < index) {
      before = at.last
      if (!(await step(at, signal))) return before?.planes ?? null
    }
    if (at.last.index === index) return at.last.planes
    return before && before.index < index ? before.planes : null
  }

  const asFrame = (index: number, planes: Planes): DecodedFrame => {
    const head = running?.frames.head
    return planesFrame(index, planes, head ? meaningAsIs(clip, head) : clip.meaning)
  }

  /** One wish after the other; whatever fails leaves no stream half read. */
  const wished = <T>(signal: AbortSignal, work: () => Promise<T>): Promise<T> =>
    inTurn(async () => {
      signal.throwIfAborted()
      try {
        return await insisting(work)
      } catch (error) {
        await stop()
        signal.throwIfAborted()
        throw noPicture(error)
      }
    })

  /** Begins again where the decoder was given to another clip meanwhile. */
  async function insisting<T>(work: () => Promise<T>, times = 5): Promise<T> {
    try {
      return await work()
    } catch (error) {
      if (!(error instanceof GivenUp) || times === 0) throw error
      running = null
      return insisting(work, times - 1)
    }
  }

  /** The frame that comes after another, by its own index; null at the end of the stream. */
  const following = (index: number, signal: AbortSignal): Promise<DecodedFrame | null> =>
    wished(signal, async () => {
      if (running?.last?.index !== index) await planesAt(index, signal)
      if (!running || !(await step(running, signal)) || !running.last) return null
      return asFrame(running.last.index, running.last.planes)
    })

  const sample = (index: number, signal: AbortSignal): Promise<DecodedFrame> =>
    wished(signal, async () => {
      const within = Math.max(0, Math.min(countOf(steps) - 1, index))
      return asFrame(index, await planesAt(within, signal))
    })

  return {
    engine: 'toolkit',
    steps,
    sample,
    near: (index, signal) =>
      wished(signal, async () => {
        await stop()
        const frames = await framesFrom(locator, clip, { about: secondsOf(steps, index) }, signal)
        running = { frames, last: null }
        const came = await frames.next(signal)
        if (!came) return asFrame(index, await planesAt(index, signal))
        const frame = asFrame(index, came.planes)
        await stop()
        return frame
      }),
    async *samples(from, signal) {
      let frame: DecodedFrame | null = await sample(from, signal)
      for (; frame; frame = await following(frame.index, signal)) yield frame
    },
    close: () => void stop(),
  }
}

const secondsOf = (steps: Steps, index: number): number => toNumber(timeOf(steps, index))
const spanBefore = (steps: Steps, index: number): number =>
  secondsOf(steps, index) - secondsOf(steps, Math.max(0, index - 1))
