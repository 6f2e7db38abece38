import { transferHandlers } from 'comlink'
import { nextTurn } from '../media/turns'

/**
 * An AbortSignal goes over to a worker as a port: the signal of the page aborts the one that the worker has. It is told when the job is
 * done, so that a signal that lives long keeps no port of a job that is over.
 */
interface SentSignal {
  readonly aborted: boolean
  readonly port: MessagePort
}

/** What closes the port of a signal that came over. */
const closing = new WeakMap<AbortSignal, () => void>()

transferHandlers.set('AbortSignal', {
  canHandle: (value): value is AbortSignal => value instanceof AbortSignal,
  serialize(signal: AbortSignal): [SentSignal, Transferable[]] {
    const { port1, port2 } = new MessageChannel()
    const abort = () => port1.postMessage(null)
    signal.addEventListener('abort', abort, { once: true })
    port1.onmessage = () => {
      signal.removeEventListener('abort', abort)
      port1.close()
    }
    return [{ aborted: signal.aborted, port: port2 }, [port2]]
  },
  deserialize({ aborted, port }: SentSignal): AbortSignal {
    const controller = new AbortController()
    if (aborted) controller.abort()
    port.onmessage = () => controller.abort()
    closing.set(controller.signal, () => {
      port.postMessage(null)
      port.close()
    })
    return controller.signal
  },
})

const never = new AbortController().signal

/**
 * Does a job of a worker until it is done or nobody wants it any more. What it brings after that is dropped here, where it was made.
 * @param until the signal as it came over
 * @param drop lets go of a result that nobody waits for any more
 * @throws the signal's reason once it has aborted
 */
export async function job<T>(
  until: AbortSignal = never,
  work: (signal: AbortSignal) => Promise<T> | T,
  drop?: (result: T) => void,
): Promise<T> {
  try {
    // A word that ends it may wait behind the word that began it.
    await nextTurn()
    until.throwIfAborted()
    const result = await work(until)
    if (until.aborted) drop?.(result)
    until.throwIfAborted()
    return result
  } finally {
    closing.get(until)?.()
  }
}

/**
 * A service whose calls are told by their signal's reason: begun only where it has not aborted, and whatever fails after it has aborted fails
 * with it.
 */
export function withSignals<Service extends object>(service: Service): Service {
  return new Proxy(service, {
    get(target, name) {
      const call: unknown = Reflect.get(target, name)
      if (typeof call !== 'function') return call
      return (...args: unknown[]) => {
        const signal = args.find((arg) => arg instanceof AbortSignal)
        if (signal?.aborted) return Promise.reject(signal.reason as Error)
        const asked = Reflect.apply(call, target, args) as Promise<unknown>
        return asked.catch((error: unknown) => {
          signal?.throwIfAborted()
          throw error
        })
      }
    },
  })
}
