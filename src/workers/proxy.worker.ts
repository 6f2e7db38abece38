import { expose } from 'comlink'
import type { ClipKind } from '../media/decode/engine'
import { type ProxyOrder, makeProxy, measurePace } from '../media/proxy'
import type { MediaLocator } from '../media/source'
import { job } from './job'

const service = {
  /** Makes the proxy of a file. */
  make: (
    order: ProxyOrder,
    tell: (frames: number, total: number) => void,
    until?: AbortSignal,
  ): Promise<void> => job(until, (signal) => makeProxy(order, tell, signal)),
  /** How many frames of a file are decoded in a second. */
  pace: (locator: MediaLocator, kind: ClipKind, until?: AbortSignal): Promise<number> =>
    job(until, (signal) => measurePace(locator, kind, signal)),
}

export type ProxyService = typeof service
expose(service)
