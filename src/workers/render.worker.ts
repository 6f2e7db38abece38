import { failure } from '../core/result'
import { expose } from 'comlink'
import { reasonOf } from '../core/words/reason'
import { NoPicture } from '../media/decode/engine'
import { type FrameAccess, openFrames } from '../media/frames'
import { openAccesses } from '../media/open'
import { composer } from '../media/render/composer'
import type { Proof } from '../core/model/proof'
import { type ProofOrder, verify } from '../media/render/verify'
import type { RenderOrder, RenderPlan, RenderProgress } from '../media/render/plan'
import { type RenderResult, render } from '../media/render/render'
import { mixer } from '../media/sound/mixing'
import { job } from './job'

/** Decoders are dear: this many clips stay open, the least used one is closed. */
const mostOpen = 8
const open = openAccesses<FrameAccess>(mostOpen)
const never = new AbortController().signal

/** Frames are passed once, from first to last: what mixtures and fields need of those beside them. */
const mostKept = 128 * 2 ** 20

const { planes } = composer(async ({ key, locator, kind, rotation }, index, signal) => {
  try {
    const access = await open.get(`${key} ${rotation}`, () => openFrames(locator, kind, rotation, never))
    return { ok: true, picture: await access.planes(index, signal) }
  } catch (error) {
    signal.throwIfAborted()
    open.drop(`${key} ${rotation}`)
    return failure(
      error instanceof NoPicture ? error.message : `A frame could not be decoded: ${reasonOf(error)}`,
    )
  }
}, mostKept)
const { mix } = mixer()

/** Whoever waits while it is paused. */
let waiting: (() => void)[] | null = null
const goesOn = () => (waiting ? new Promise<void>((go) => waiting?.push(go)) : Promise.resolve())

const service = {
  /** Renders one file. */
  render: (
    order: RenderOrder,
    tell: (progress: RenderProgress) => void,
    until?: AbortSignal,
  ): Promise<RenderResult> => job(until, (signal) => render(order, { planes, mix, goesOn }, tell, signal)),
  /** Reads a rendered file back and holds it against what was asked. */
  verify: (
    order: RenderPlan,
    asked: ProofOrder,
    tell: (progress: RenderProgress) => void,
    until?: AbortSignal,
  ): Promise<Proof> => job(until, (signal) => verify(order, asked, { planes, mix }, tell, signal)),
  pause(isPaused: boolean): void {
    const those = waiting
    waiting = isPaused ? (those ?? []) : null
    if (!isPaused) those?.forEach((go) => go())
  },
}

export type RenderService = typeof service
expose(service)
