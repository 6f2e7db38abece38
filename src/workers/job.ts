import { nextTurn } from '../media/turns'

/** Work of a worker that is known by a number, so that whoever asked for it can end it. */
export interface Jobs {
  /**
   * Does a job. What it brings after it was ended is dropped here, where it was made.
   * @param drop lets go of a result that nobody waits for any more
   */
  run<T>(id: number, work: (signal: AbortSignal) => Promise<T> | T, drop?: (result: T) => void): Promise<T>
  /** Ends a job; one that is done already, or was never begun, is left alone. */
  end(id: number): void
}

export function jobs(): Jobs {
  const running = new Map<number, AbortController>()
  return {
    async run(id, work, drop) {
      const controller = new AbortController()
      running.set(id, controller)
      try {
        // A word that ends it may wait behind the word that began it.
        await nextTurn()
        controller.signal.throwIfAborted()
        const result = await work(controller.signal)
        if (controller.signal.aborted) drop?.(result)
        controller.signal.throwIfAborted()
        return result
      } finally {
        running.delete(id)
      }
    },
    end: (id) => running.get(id)?.abort(),
  }
}

let last = 0

/**
 * Asks a worker for a job; when the signal aborts, the job is ended there.
 * @throws the signal's reason once it has aborted
 */
export async function askFor<T>(
  service: { readonly end: (id: number) => unknown },
  ask: (id: number) => Promise<T>,
  signal?: AbortSignal,
): Promise<T> {
  signal?.throwIfAborted()
  const id = ++last
  const end = () => void service.end(id)
  signal?.addEventListener('abort', end, { once: true })
  try {
    return await ask(id)
  } catch (error) {
    signal?.throwIfAborted()
    throw error
  } finally {
    signal?.removeEventListener('abort', end)
  }
}
