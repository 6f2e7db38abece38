/**
 * What a page has and Node has not, for stores and storage under test: services that run in place instead of in workers, and a channel on
 * which nobody else is. A test that wants others says so itself.
 */
import { vi } from 'vitest'

vi.mock('../../src/workers/services', async () => {
  const { loading } = await import('../../src/workers/loading-service')
  const { rank } = await import('../../src/core/choice/rank')
  const nothing = async () => {}
  return {
    choiceService: () => ({ rank: async (...given: Parameters<typeof rank>) => rank(...given) }),
    loadingService: () => loading,
    writeAheadService: () => ({ open: nothing, write: nothing, settled: nothing, close: nothing }),
  }
})

if (!('navigator' in globalThis)) Object.defineProperty(globalThis, 'navigator', { value: {} })
/** Tabs of one browser hear each other; tests that run beside each other must not. */
globalThis.BroadcastChannel = class extends EventTarget {
  postMessage() {}
  close() {}
} as unknown as typeof BroadcastChannel
