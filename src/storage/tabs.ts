import type { Patch } from 'immer'

/** What tabs tell each other of a project. */
export type TabMessage = { readonly projectId: string; readonly from: string } & (
  | { readonly kind: 'written'; readonly revision: number; readonly patches: readonly Patch[] }
  /** Asks whoever writes it to let it go. */
  | { readonly kind: 'asks' }
  | { readonly kind: 'gives'; readonly to: string }
  | { readonly kind: 'keeps'; readonly to: string; readonly why: string }
)

/** This tab, among those that are open. */
export const thisTab: string = globalThis.crypto.randomUUID().slice(0, 13)

// Where there is no page there is nobody to talk to: the tests.
const channel = typeof window === 'undefined' ? null : new BroadcastChannel('yard-tally')

type Told<T> = T extends unknown ? Omit<T, 'from'> : never

/** Tells all other tabs. */
export const postToTabs = (word: Told<TabMessage>): void => channel?.postMessage({ ...word, from: thisTab })

/** Hears what other tabs tell. @returns stops it */
export function onTabMessage(hear: (word: TabMessage) => void): () => void {
  const listen = (event: MessageEvent<TabMessage>) => hear(event.data)
  channel?.addEventListener('message', listen)
  return () => channel?.removeEventListener('message', listen)
}
