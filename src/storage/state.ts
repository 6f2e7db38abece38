import { database } from './database'

/** What stands between the page and its storage. */
export type StorageState =
  /** An older tab keeps the database open, and has to be closed. */
  | 'blocked'
  /** A newer version was opened elsewhere: this page cannot write any more. */
  | 'outdated'
  | 'open'

/** Tells how the storage stands, whenever that changes. */
export function watchState(tell: (state: StorageState) => void): void {
  database.on('blocked', () => tell('blocked'))
  database.on('ready', () => tell('open'))
  database.on('versionchange', (event) => {
    // Without a version it is being cleared: it is opened anew with the next that is written.
    if (event.newVersion !== null) tell('outdated')
  })
}

/** How much is kept, of how much room there is, and whether the browser may clear it by itself. */
export interface Room {
  readonly usedBytes: number
  readonly roomBytes: number
  readonly persisted: boolean
}

/** @returns null where the browser does not tell */
export async function roomNow(): Promise<Room | null> {
  if (!navigator.storage?.estimate) return null
  const [{ usage, quota }, persisted] = await Promise.all([
    navigator.storage.estimate(),
    navigator.storage.persisted?.() ?? false,
  ])
  return { usedBytes: usage ?? 0, roomBytes: quota ?? 0, persisted }
}

/** Asks the browser to keep what is kept until the editor deletes it. @returns whether it does */
export const askToKeep = async (): Promise<boolean> => (await navigator.storage?.persist?.()) ?? false
