import { useEventListener, useTimeoutFn } from '@vueuse/core'

/** A key that is down repeats at least this often, in milliseconds; after that its release was missed. */
const longestPause = 1000

/**
 * Tells when a key goes down and when it is let go, so that what it does meanwhile, however often it repeats, is one step and one
 * write. Heard before whoever acts on the key.
 */
export function useHeldKey({ begin, end }: { readonly begin: () => void; readonly end: () => void }): void {
  const missed = useTimeoutFn(end, longestPause, { immediate: false })
  const letGo = () => {
    missed.stop()
    end()
  }
  useEventListener(
    'keydown',
    ({ repeat }) => {
      if (!repeat) begin()
      missed.start()
    },
    { capture: true },
  )
  useEventListener('keyup', letGo)
  useEventListener(['blur', 'pagehide'], letGo)
}
