import { type Remote, wrap } from 'comlink'
import type { StillsService } from './stills.worker'

interface Running {
  readonly service: Remote<StillsService>
  /** Fails once the worker is gone: what was asked of it is never answered. */
  readonly gone: Promise<never>
}
let running: Running | null = null

function started(): Running {
  const worker = new Worker(new URL('./stills.worker.ts', import.meta.url), {
    type: 'module',
    name: 'stills',
  })
  const gone = new Promise<never>((_settle, fail) =>
    worker.addEventListener('error', () => {
      running = null
      worker.terminate()
      fail(new Error('the decoder could not be started'))
    }),
  )
  gone.catch(() => undefined)
  return { service: wrap<StillsService>(worker), gone }
}

/** Has a still decoded that the browser has no decoder for; the worker is started with the first of them. */
export function decodedStill<T>(work: (service: Remote<StillsService>) => Promise<T>): Promise<T> {
  running ??= started()
  return Promise.race([work(running.service), running.gone])
}
