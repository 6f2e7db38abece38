import { type Failure, type Result, failure } from '../core/result'
import { reasonOf } from '../core/words/reason'
import { expose, transfer } from 'comlink'
import { countOf } from '../core/motion/timing'
import type { FrameTimes } from '../core/reading/frame-times'
import { NoPicture } from '../media/decode/engine'
import { type FrameAccess, type WantedFile, openFrames } from '../media/frames'
import { openAccesses } from '../media/open'
import type { Area } from '../core/compose/layer-raster'
import { composer } from '../media/render/composer'
import type { Composition } from '../media/render/composition'
import { type EvidenceView, evidenceViewOf } from '../media/evidence-view'
import type { MediaLocator } from '../media/source'
import { walkFrameTimes } from '../media/frame-times'
import { job } from './job'

export type FrameAnswer = Result<{ picture: ImageBitmap }>
export type ComposedAnswer = Result<{ picture: ImageBitmap; trouble: string | null }>
export type ProofAnswer = Result<{ proof: EvidenceView }>

/** Decoders are dear: this many clips stay open, the least used one is closed. */
const mostOpen = 6
const open = openAccesses<FrameAccess>(mostOpen)

const keyOf = ({ key, rotation }: WantedFile) => `${key} ${rotation}`
/** Whoever asks first may leave; the file stays open for the next. */
const never = new AbortController().signal

/** Does something with an open file; what fails closes it, and is told in a sentence. */
async function withFile<T extends { readonly ok: true }>(
  file: WantedFile,
  signal: AbortSignal,
  work: (access: FrameAccess) => Promise<T>,
): Promise<T | Failure> {
  try {
    const { locator, kind, rotation } = file
    return await work(await open.get(keyOf(file), () => openFrames(locator, kind, rotation, never)))
  } catch (error) {
    signal.throwIfAborted()
    open.drop(keyOf(file))
    if (error instanceof NoPicture) return failure(error.message)
    return failure(`The frame could not be decoded: ${reasonOf(error)}`)
  }
}

const { drawn } = composer((file, index, signal) =>
  withFile(file, signal, async (access) => ({ ok: true, picture: await access.planes(index, signal) })),
)

const service = {
  /** A frame of a file, upright, at most `maxWidth` pixels wide; exactly that frame, or the key frame before it. */
  frameAt: (
    file: WantedFile,
    index: number,
    maxWidth: number,
    exact: boolean,
    until?: AbortSignal,
  ): Promise<FrameAnswer> =>
    job(
      until,
      (signal): Promise<FrameAnswer> =>
        withFile(file, signal, async (access) => {
          const picture = await access.frameAt(index, maxWidth, exact, signal)
          return transfer({ ok: true, picture }, [picture])
        }),
      (late) => late.ok && late.picture.close(),
    ),
  /** What of a frame of a file proves a measurement. */
  proof: (
    file: WantedFile,
    index: number,
    about: EvidenceView['about'],
    until?: AbortSignal,
  ): Promise<ProofAnswer> =>
    job(until, (signal) =>
      withFile(file, signal, async (access) => {
        const last = countOf(file.kind.steps) - 1
        return { ok: true, proof: await evidenceViewOf(access, about, index, last, signal) }
      }),
    ),
  /** An area of a timeline's frame, composed by the exact kernels, with the planes of the sources decoded once. */
  compose: (composition: Composition, area: Area, until?: AbortSignal): Promise<ComposedAnswer> =>
    job(
      until,
      async (signal): Promise<ComposedAnswer> => {
        const { picture, trouble } = await drawn(composition, area, signal)
        return transfer({ ok: true, picture, trouble }, [picture])
      },
      (late) => late.ok && late.picture.close(),
    ),
  /** When each frame of a file is on screen, walked through its headers; null where that cannot be told. */
  walk: (locator: MediaLocator, until?: AbortSignal): Promise<FrameTimes | null> =>
    job(until, (signal) => walkFrameTimes(locator, signal)),
}

export type FrameService = typeof service
expose(service)
