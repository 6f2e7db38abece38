import { expose } from 'comlink'
import type { ClipKind } from '../media/decode/engine'
import { makeProxy, measurePace } from '../media/proxy'
import type { MediaLocator } from '../media/source'
import { jobs } from './job'

const running = jobs()

const service = {
  /** Makes the proxy of a file. */
  make: (
    id: number,
    locator: MediaLocator,
    kind: ClipKind,
    hasFields: boolean,
    file: FileSystemFileHandle,
    tell: (frames: number, total: number) => void,
  ): Promise<void> => running.run(id, (signal) => makeProxy(locator, kind, hasFields, file, tell, signal)),
  /** How many frames of a file are decoded in a second. */
  pace: (id: number, locator: MediaLocator, kind: ClipKind): Promise<number> =>
    running.run(id, (signal) => measurePace(locator, kind, signal)),
  end: running.end,
}

export type ProxyService = typeof service
expose(service)
