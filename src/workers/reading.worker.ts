import { expose } from 'comlink'
import { type ReadResult, read } from '../core/reading/read'
import { type MediaLocator, byteSource, hashOf } from '../media/source'

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
  async readAll(requests: readonly ReadRequest[], tell: (answer: ReadAnswer) => void): Promise<void> {
    running = new AbortController()
    const { signal } = running
    const queue = [...requests]
    const work = async () => {
      for (let next = queue.shift(); next && !signal.aborted; next = queue.shift())
        tell(await readOne(next, signal))
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
  const source = byteSource(locator)
  const result = await read(source, signal)
  const hash = await hashOf(source).catch(() => null)
  return { key, hash, result }
}

export type ReadingService = typeof service
expose(service)
