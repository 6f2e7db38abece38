import { wrap } from 'comlink'
import type { Deliverable } from '../../core/edit/deliverable'
import type { Doc } from '../../core/edit/project'
import type { Rate } from '../../core/rate/rate'
import { type SoundLayout, channelsOf } from '../../core/sound/mix'
import { newRing, ringWriter } from '../decode/ring'
import type { MediaLocator } from '../source'
import type { MixPart, mixer } from '../sound/mixing'
import { nextTurn } from '../turns'
import type { composer } from './composer'
import { plannedFrames } from './planned'
import { NotTaken, browserEncoder, planesAsTheyAre } from './picture-encoder'
import { frameBytes, writingWords } from './words'
import type { WriterEnd, WriterService } from './writer.worker'

/** What goes out, with all that a worker needs to make its frames and its sound. */
export interface RenderPlan {
  /** With the timelines that are made for it. */
  readonly doc: Doc
  readonly timelineId: string
  /** Said in full. */
  readonly deliverable: Deliverable
  readonly range: { readonly from: number; readonly to: number }
  readonly timecode: string
  /** Where the bytes of files are, by what they hold. */
  readonly locators: Readonly<Record<string, MediaLocator>>
  readonly sound: {
    readonly sampleRate: number
    readonly layout: SoundLayout
    readonly parts: readonly MixPart[]
  } | null
}

/** What is rendered, and the file that it goes into. */
export interface RenderOrder extends RenderPlan {
  readonly file: FileSystemFileHandle
}

export interface RenderProgress {
  readonly frames: number
  readonly of: number
  readonly framesPerSecond: number
}

/** What came of a render. */
export interface Rendered {
  readonly frames: number
  readonly bytes: number
  readonly seconds: number
  /** What encoded the picture. */
  readonly encodedBy: 'browser' | 'toolkit'
}

/** What has the frames and the sound made. */
export interface Makers {
  readonly planes: ReturnType<typeof composer>['planes']
  readonly mix: ReturnType<typeof mixer>['mix']
  /** Resolves at once, or once it goes on. */
  readonly goesOn: () => Promise<void>
}

const encodedRing = 8 * 2 ** 20
const [planesAhead, mostPlanes] = [3, 96 * 2 ** 20]
const soundRing = 2 ** 20
/** Between two words of progress, in milliseconds. */
const tellEvery = 250

/** Samples of sound from the start of a timeline to the start of a frame: whole, so that nothing drifts. */
export const samplesAt = (frame: number, sampleRate: number, rate: Rate): number =>
  Math.round((frame * sampleRate * rate.den) / rate.num)

/**
 * Renders a timeline into a file: each frame from its layers by the exact kernels, encoded by the browser where it can, else by the
 * toolkit, which writes the wrapper. Nothing more of it is in memory than what is under way.
 * @throws Error in a sentence; what is in the file then is nothing
 */
export async function rendered(
  order: RenderOrder,
  { planes, mix, goesOn }: Makers,
  tell: (progress: RenderProgress) => void,
  signal: AbortSignal,
): Promise<Rendered> {
  const { deliverable, range, sound, file, timecode } = order
  const { format, profile, planesAt } = plannedFrames(order, planes)
  const plainRing = Math.min(mostPlanes, planesAhead * frameBytes(profile, format) + 1)
  const pictureRing = newRing(Math.max(encodedRing, plainRing))
  const pictures = ringWriter(pictureRing)
  const byBrowser = await browserEncoder(deliverable, profile, pictures)
  const encoder = byBrowser ?? planesAsTheyAre(pictures)
  const channels = sound ? channelsOf[sound.layout] : 0
  const sounds = sound && newRing(soundRing)
  const words = writingWords({
    deliverable,
    picture: byBrowser ? 'encoded' : 'planes',
    sound: sound && { sampleRate: sound.sampleRate, channels },
    timecode,
  })
  const worker = new Worker(new URL('./writer.worker.ts', import.meta.url), {
    type: 'module',
    name: 'writer',
  })
  const failed = new Promise<WriterEnd>((settle) => {
    worker.addEventListener('error', ({ message }) => settle({ code: 1, bytes: 0, said: [message] }))
    signal.addEventListener('abort', () => settle({ code: 1, bytes: 0, said: ['it was ended'] }))
  })
  const written = Promise.race([
    wrap<WriterService>(worker).run({ words, picture: pictureRing, sound: sounds, file }),
    failed,
  ])
  const begun = performance.now()
  const seconds = () => (performance.now() - begun) / 1000

  async function makePicture(): Promise<void> {
    let told = 0
    for (let n = range.from; n < range.to; n++) {
      await goesOn()
      signal.throwIfAborted()
      await encoder.add(await planesAt(n, signal), n - range.from)
      const frames = n - range.from + 1
      if (performance.now() - told < tellEvery && n + 1 < range.to) continue
      told = performance.now()
      tell({ frames, of: range.to - range.from, framesPerSecond: frames / seconds() })
      await nextTurn()
    }
    await encoder.end()
  }

  async function makeSound(): Promise<void> {
    if (!sound || !sounds) return
    const out = ringWriter(sounds)
    const at = (frame: number) => samplesAt(frame, sound.sampleRate, format.rate)
    const last = at(range.to)
    for (let from = at(range.from); from < last; from += sound.sampleRate) {
      await goesOn()
      const count = Math.min(sound.sampleRate, last - from)
      const { sampleRate, layout, parts } = sound
      const mixed = await mix({ sampleRate, layout, from, count, parts }, signal)
      if (mixed.trouble) throw new Error(mixed.trouble)
      const woven = new Float32Array(count * channels)
      mixed.channels.forEach((samples, channel) => {
        for (let i = 0; i < count; i++) woven[i * channels + channel] = samples[i] as number
      })
      if (!(await out.put(new Uint8Array(woven.buffer))))
        throw new NotTaken('the file is not written any further')
    }
    out.end()
  }

  try {
    const making = Promise.all([makePicture(), makeSound()])
    // What went wrong with the file is why nobody takes what is made for it.
    const [end] = await Promise.all([
      written,
      making.catch(async (error: unknown) => {
        if (error instanceof NotTaken) return
        throw error
      }),
    ])
    signal.throwIfAborted()
    if (end.code !== 0) throw new Error(whyNot(end))
    const frames = range.to - range.from
    return { frames, bytes: end.bytes, seconds: seconds(), encodedBy: byBrowser ? 'browser' : 'toolkit' }
  } finally {
    encoder.close()
    worker.terminate()
  }
}

/** Why a file could not be written, in the words of what wrote it. */
function whyNot({ said }: WriterEnd): string {
  // What went wrong first is why all else did.
  const told = said.find((line) => /error|invalid|not |unsupported|quota|no space|could/i.test(line))
  const words = told?.replace(/^\[[^\]]*\]\s*/, '').trim()
  if (words && /quota|no space/i.test(words)) return 'There is no room left in this browser’s storage for it.'
  return `The file could not be written: ${words ?? 'the toolkit ended without a word'}.`
}
