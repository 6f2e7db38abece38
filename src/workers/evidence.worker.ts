import { type Result, failure } from '../core/result'
import { expose } from 'comlink'
import type { Evidence } from '../core/evidence/evidence'
import { simdKernels } from '../core/evidence/simd'
import type { Rate } from '../core/rate/rate'
import { reasonOf } from '../core/words/reason'
import { NoPicture } from '../media/decode/engine'
import { type DecodableFile, measureClip } from '../media/measure'
import { job } from './job'

/** What came of measuring a clip, or why nothing did, in a sentence. */
export type EvidenceAnswer = Result<{ evidence: Evidence }>

const service = {
  /** Measures a clip. @param seen is told how many frames were looked at, of how many, and may hold it up */
  measure: (
    files: readonly DecodableFile[],
    rate: Rate | null,
    seen: (frames: number, wanted: number) => Promise<void>,
    until?: AbortSignal,
  ): Promise<EvidenceAnswer> =>
    job(until, async (signal): Promise<EvidenceAnswer> => {
      try {
        return { ok: true, evidence: await measureClip(files, rate, simdKernels(), signal, seen) }
      } catch (error) {
        signal.throwIfAborted()
        return failure(
          error instanceof NoPicture ? error.message : `It could not be measured: ${reasonOf(error)}.`,
        )
      }
    }),
}

export type EvidenceService = typeof service
expose(service)
