import { useEventListener, useIntervalFn } from '@vueuse/core'

/** As many are remembered: sheets over sheets are fewer. */
const remembered = 24

/** Whether the keyboard can stand on it: there, seen, and not switched off. */
const canHold = (element: HTMLElement): boolean =>
  element.isConnected && element.getClientRects().length > 0 && !element.matches(':disabled')

/**
 * Keeps the keyboard where the work is: when what it stood on goes – a sheet that closes, a row that leaves, a button that is switched
 * off – it goes back to what it stood on before. Whoever presses an empty place has put it away on purpose.
 */
export function useFocusKept(): void {
  let trail: HTMLElement[] = []
  useEventListener(document, 'focusin', ({ target }) => {
    if (!(target instanceof HTMLElement)) return
    trail = [...trail.filter((element) => element !== target), target].slice(-remembered)
  })
  useIntervalFn(() => {
    const last = trail.at(-1)
    if (document.activeElement !== document.body || !last || canHold(last)) return
    trail = trail.filter((element) => element.isConnected)
    const back = trail.findLast(canHold)
    back?.focus({ preventScroll: true })
  }, 120)
}
