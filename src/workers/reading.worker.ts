import { expose } from 'comlink'
import { type ReadResult, read } from '../core/reading/read'
import { type MediaLocator, byteSource, hashOf, withEnds } from '../media/source'

/** A file to be read, and the name under which its result comes back. */
export interface ReadRequest {
  readonly key: string
  readonly locator: MediaLocator
}
export type ReadAnswer = { readonly key: string; readonly hash: string | null; readonly result: ReadResult }

/** How many files are open at once: enough to hide the way to a disk or a server. */
const concurrency = 6

let running: AbortController | null = null

const service = {
  /** Reads files, a few at a time, and tells of each as soon as it is read. One that fails does not stop the rest. */
  async readAll(
    requests: readonly ReadRequest[],
    tell: (answer: ReadAnswer) => void | Promise<void>,
  ): Promise<void> {
    running = new AbortController()
    const { signal } = running
    const queue = [...requests]
    const work = async () => {
      // Each answer is handed over before the work counts as done: calls and results travel on ways of their own.
      for (let next = queue.shift(); next && !signal.aborted; next = queue.shift())
        await tell(await readOne(next, signal))
    }
    await Promise.all(Array.from({ length: concurrency }, work)).catch((error: unknown) => {
      if (!signal.aborted) throw error
    })
  },
  /** Ends the reading that is under way; what was read stays. */
  cancel(): void {
    running?.abort()
  },
}

async function readOne({ key, locator }: ReadRequest, signal: AbortSignal): Promise<ReadAnswer> {
  try {
    const source = await withEnds(byteSource(locator))
    const [result, hash] = await Promise.all([read(source, signal), hashOf(source)])
    return { key, hash, result }
  } catch (error) {
    signal.throwIfAborted()
    const message = `The file could not be opened: ${error instanceof Error ? error.message : error}`
    return { key, hash: null, result: { ok: false, error: { code: 'unreadable', message } } }
  }
}

export type ReadingService = typeof service
expose(service)
