import { proxy } from 'comlink'
import { type ClipSource, placeOf } from '../../core/model/clip'
import type { MediaLocator } from '../../media/source'
import type { ReadAnswer } from '../../workers/reading.worker'
import { readingService } from '../../workers/services'
import type { IncomingFile } from '../media'

/** A file on its way in. */
export interface Arriving {
  readonly id: string
  readonly name: string
  readonly folder: string
  readonly sizeBytes: number
  readonly source: ClipSource
  readonly locator: MediaLocator
  readonly incoming?: IncomingFile
}

/** Reads files, and tells of them in handfuls; what was read before it was ended stays. */
export async function readFiles(
  files: readonly Arriving[],
  signal: AbortSignal,
  tell: (readAnswers: readonly ReadAnswer[]) => void,
): Promise<void> {
  if (files.length === 0) return
  const requests = files.map(({ id, name, folder, locator }) => ({
    key: id,
    place: placeOf({ name, folder }),
    locator,
  }))
  await readingService()
    .readAll(requests, proxy(tell), signal)
    .catch((error: unknown) => {
      if (!signal.aborted) throw error
    })
}
