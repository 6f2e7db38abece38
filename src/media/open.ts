import { LRUCache } from 'lru-cache'

/** Something that holds a file or a decoder open. */
interface Closable {
  close(): void
}

/** Things kept open under a key, the least used one closed when there are too many. */
export interface OpenAccesses<Access extends Closable> {
  /** What is open under a key; opened where nothing is. */
  get(key: string, opening: () => Promise<Access>): Promise<Access>
  /** Closes what is open under a key, also what is still being opened. */
  drop(key: string): void
}

/** @param most how many stay open */
export function openAccesses<Access extends Closable>(most: number): OpenAccesses<Access> {
  const open = new LRUCache<string, Promise<Access>>({
    max: most,
    dispose: (access) => void access.then((opened) => opened.close()).catch(() => {}),
  })
  return {
    get(key, opening) {
      const access = open.get(key) ?? opening()
      if (open.peek(key) !== access) open.set(key, access)
      return access
    },
    drop: (key) => void open.delete(key),
  }
}
