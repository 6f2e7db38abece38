import { type Remote, wrap } from 'comlink'
import type { ChoiceService } from './choice.worker'
import type { EvidenceService } from './evidence.worker'
import type { FrameService } from './frames.worker'
import type { LoadingService } from './loading-service'
import type { PlayingService } from './playing.worker'
import type { ProxyService } from './proxy.worker'
import type { ReadingService } from './reading.worker'
import type { RenderService } from './render.worker'
import type { SoundService } from './sound.worker'
import type { WriteAheadService } from './write-ahead.worker'
import { withSignals } from './job'

/** Starts a worker the first time it is asked for. */
function lazily<Service>(start: () => Worker): () => Remote<Service> {
  let remote: Remote<Service> | null = null
  return () => (remote ??= withSignals(wrap<Service>(start())))
}

export const readingService = lazily<ReadingService>(
  () => new Worker(new URL('./reading.worker.ts', import.meta.url), { type: 'module', name: 'reading' }),
)
export const frameService = lazily<FrameService>(
  () => new Worker(new URL('./frames.worker.ts', import.meta.url), { type: 'module', name: 'frames' }),
)
export const soundService = lazily<SoundService>(
  () => new Worker(new URL('./sound.worker.ts', import.meta.url), { type: 'module', name: 'sound' }),
)
export const playingService = lazily<PlayingService>(
  () => new Worker(new URL('./playing.worker.ts', import.meta.url), { type: 'module', name: 'playing' }),
)
export const loadingService = lazily<LoadingService>(
  () => new Worker(new URL('./loading.worker.ts', import.meta.url), { type: 'module', name: 'loading' }),
)
export const writeAheadService = lazily<WriteAheadService>(
  () =>
    new Worker(new URL('./write-ahead.worker.ts', import.meta.url), { type: 'module', name: 'write-ahead' }),
)
export const renderService = lazily<RenderService>(
  () => new Worker(new URL('./render.worker.ts', import.meta.url), { type: 'module', name: 'render' }),
)
export const proxyService = lazily<ProxyService>(
  () => new Worker(new URL('./proxy.worker.ts', import.meta.url), { type: 'module', name: 'proxy' }),
)
export const choiceService = lazily<ChoiceService>(
  () => new Worker(new URL('./choice.worker.ts', import.meta.url), { type: 'module', name: 'choice' }),
)
const evidenceWorker = () =>
  lazily<EvidenceService>(
    () => new Worker(new URL('./evidence.worker.ts', import.meta.url), { type: 'module', name: 'evidence' }),
  )
const evidenceWorkers = [evidenceWorker(), evidenceWorker()]
/** Clips are measured one at a time, on more than four cores two. */
export const evidenceServices = () => evidenceWorkers.slice(0, navigator.hardwareConcurrency > 4 ? 2 : 1)
