import type { Evidence } from '../core/evidence/evidence'
import { type MeasuringKernels, type FrameRun, samplingOf, startMeasuring } from '../core/evidence/measure'
import { countOf } from '../core/motion/timing'
import type { Rate } from '../core/rate/rate'
import { openClip } from './decode/clip'
import { type ClipKind, NoPicture, type OpenClip } from './decode/engine'
import type { MediaLocator } from './source'

/** A file of a clip as it is decoded, and the clip's index of its first frame. */
export interface DecodableFile {
  readonly locator: MediaLocator
  readonly kind: ClipKind
  readonly first: number
}

/** So much time is given to a clip, in milliseconds: where decoding is slow, as many frames as come in it. */
export const longestMeasuring = 20_000
/** What is made of all frames at the end takes so many times as long as looking at each did. */
const finishing = 2.5
/** Fewer frames than these say nothing, however long they take. */
const leastFrames = 12

/** A stretch of one file, by its own index. */
interface Piece extends FrameRun {
  readonly file: DecodableFile
}

/** Where the stretches of a clip lie in its files; one that goes over an end goes on in the next. */
function piecesOf(files: readonly DecodableFile[], stretches: readonly FrameRun[]): Piece[] {
  return stretches.flatMap(({ first, count }) =>
    files.flatMap((file) => {
      const from = Math.max(first, file.first)
      const till = Math.min(first + count, file.first + countOf(file.kind.steps))
      return from < till ? [{ file, first: from - file.first, count: till - from }] : []
    }),
  )
}

/**
 * Measures what the picture of a clip says, from its decoded frames.
 * @param rate of the clip as its wrapper says; null where it does not
 * @param seen is told after each frame how many were looked at, of how many that are wanted; measuring goes on when it answers
 * @throws NoPicture where none can be decoded
 */
export async function measureClip(
  files: readonly DecodableFile[],
  rate: Rate | null,
  kernels: MeasuringKernels,
  signal: AbortSignal,
  seen: (frames: number, wanted: number) => void | Promise<void>,
): Promise<Evidence> {
  const [decodableFile] = files
  if (!decodableFile) throw new NoPicture('This clip has no picture.')
  const total = files.reduce((sum, { kind }) => sum + countOf(kind.steps), 0)
  const pieces = piecesOf(files, samplingOf(total, decodableFile.kind))
  const wanted = pieces.reduce((sum, { count }) => sum + count, 0)
  const measuring = startMeasuring(kernels, wanted)
  let began = performance.now()
  let frames = 0
  async function tell(): Promise<void> {
    const tellAt = performance.now()
    await seen(++frames, wanted)
    // What it is held up for is not its own time.
    began += performance.now() - tellAt
  }
  /** Two frames are looked at together, and no more are held. */
  const places: Uint8Array[] = []
  let looking = 0
  const isOver = () =>
    frames >= leastFrames && performance.now() - began + finishing * looking > longestMeasuring
  let open = null as { readonly file: DecodableFile; readonly clip: OpenClip } | null
  /** Why a piece could not be decoded; what others say stands without it. */
  let fault: unknown = null
  try {
    for (const { file, first, count } of pieces) {
      if (isOver()) break
      if (open?.file !== file) {
        open?.clip.close()
        open = { file, clip: await openClip(file.locator, file.kind, signal) }
      }
      try {
        for await (const frame of open.clip.samples(first, signal)) {
          const { index } = frame
          const luma = await frame.luma(places[frames % 2]).finally(() => frame.close())
          places[frames % 2] = luma.data
          if (index >= first + count) break
          const came = performance.now()
          measuring.frame(file.first + index, luma)
          looking += performance.now() - came
          await tell()
          if (index === first + count - 1 || isOver()) break
        }
      } catch (error) {
        signal.throwIfAborted()
        fault = error
      }
    }
  } finally {
    open?.clip.close()
  }
  if (frames < 2 && fault) throw fault
  return measuring.finish(rate)
}
