import { wrap } from 'comlink'
import { channelsOf, samplesAt } from '../../core/sound/mix'
import { newRing, ringWriter } from '../decode/ring'
import { nextTurn } from '../turns'
import type { Makers, RenderOrder, RenderProgress } from './plan'
import { plannedFrames } from './planned'
import { type Evened, evenedSound, plannedSamples, woven } from './planned-sound'
import { NotTaken, browserEncoder, planesAsTheyAre } from './picture-encoder'
import { frameBytes, writingWords } from './words'
import type { PassLog, WriterEnd, WriterService } from './writer.worker'

/** What came of a render. */
export interface RenderResult {
  readonly frames: number
  readonly bytes: number
  readonly seconds: number
  /** What encoded the picture. */
  readonly encodedBy: 'browser' | 'toolkit'
  /** What brought the sound to the loudness that was asked, in decibels; null where none was asked. */
  readonly evened: Evened
}

const encodedRing = 8 * 2 ** 20
const [planesAhead, mostPlanes] = [3, 96 * 2 ** 20]
const soundRing = 2 ** 20
/** Between two words of progress, in milliseconds. */
const tellEvery = 250

/**
 * Renders a timeline into a file: each frame from its layers by the exact kernels, encoded by the browser where it can, else by the
 * toolkit, which writes the wrapper. Nothing more of it is in memory than what is under way.
 * @throws Error in a sentence; what is in the file then is nothing
 */
export async function render(
  order: RenderOrder,
  makers: Makers,
  tell: (progress: RenderProgress) => void,
  signal: AbortSignal,
): Promise<RenderResult> {
  const begun = performance.now()
  const seconds = () => (performance.now() - begun) / 1000
  const { sound, evened } = await evenedSound(order, makers.mix, signal)
  const frames = order.range.to - order.range.from
  const passes = order.deliverable.video?.passes ?? 1
  /** Frames of earlier passes. */
  let before = 0
  let log: PassLog = []
  for (;;) {
    const pass = passes === 1 ? null : before === 0 ? 1 : 2
    const tellWritten = (count: number) =>
      tell({ frames: before + count, total: frames * passes, framesPerSecond: (before + count) / seconds() })
    const { end, encodedBy } = await onePass(
      { ...order, sound: pass === 1 ? null : sound },
      { pass, log },
      makers,
      tellWritten,
      signal,
    )
    if (pass !== 1) return { frames, bytes: end.bytes, seconds: seconds(), encodedBy, evened }
    log = end.log
    before = frames
  }
}

/** Goes through all frames once. @param pass null where one is all */
async function onePass(
  order: RenderOrder,
  { pass, log }: { readonly pass: 1 | 2 | null; readonly log: PassLog },
  { planes, mix, goesOn }: Makers,
  tell: (frames: number) => void,
  signal: AbortSignal,
) {
  const { deliverable, range, sound, file, timecode } = order
  const { format, profile, planesAt } = plannedFrames(order, planes)
  const plainRing = Math.min(mostPlanes, planesAhead * frameBytes(profile, format) + 1)
  const pictureRing = newRing(Math.max(encodedRing, plainRing))
  const pictures = ringWriter(pictureRing)
  const byBrowser = pass === null ? await browserEncoder(deliverable, profile, pictures) : null
  const encoder = byBrowser ?? planesAsTheyAre(pictures)
  const sounds = sound && newRing(soundRing)
  const words = writingWords({
    deliverable,
    picture: byBrowser ? 'encoded' : 'planes',
    sound: sound && { sampleRate: sound.sampleRate, channels: channelsOf[sound.outLayout] },
    timecode,
    pass,
  })
  const worker = new Worker(new URL('./writer.worker.ts', import.meta.url), {
    type: 'module',
    name: 'writer',
  })
  const failed = new Promise<WriterEnd>((settle) => {
    const gone = (why: string) => settle({ code: 1, bytes: 0, said: [why], log: [] })
    worker.addEventListener('error', ({ message }) => gone(message))
    signal.addEventListener('abort', () => gone('it was ended'))
  })
  const written = Promise.race([
    wrap<WriterService>(worker).run({ words, picture: pictureRing, sound: sounds, file, log }),
    failed,
  ])

  async function makePicture(): Promise<void> {
    let tellAt = 0
    for (let n = range.from; n < range.to; n++) {
      await goesOn()
      signal.throwIfAborted()
      await encoder.add(await planesAt(n, signal), n - range.from)
      if (performance.now() - tellAt < tellEvery && n + 1 < range.to) continue
      tellAt = performance.now()
      tell(n - range.from + 1)
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
      const samples = woven(await plannedSamples(mix, sound, from, count, signal))
      if (!(await out.put(new Uint8Array(samples.buffer))))
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
    return { end, encodedBy: byBrowser ? ('browser' as const) : ('toolkit' as const) }
  } finally {
    encoder.close()
    worker.terminate()
  }
}

/** Why a file could not be written, in the words of what wrote it. */
function whyNot({ said }: WriterEnd): string {
  // What went wrong first is why all else did.
  const complaint = said.find((line) => /error|invalid|not |unsupported|quota|no space|could/i.test(line))
  const words = complaint?.replace(/^\[[^\]]*\]\s*/, '').trim()
  if (words && /quota|no space/i.test(words)) return 'There is no room left in this browser’s storage for it.'
  return `The file could not be written: ${words ?? 'the toolkit ended without a word'}.`
}
