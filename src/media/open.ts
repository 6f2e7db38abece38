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
  const open = new Map<string, Promise<Access>>()
  const close = (access: Promise<Access>) => void access.then((opened) => opened.close()).catch(() => {})
  const drop = (key: string) => {
    const access = open.get(key)
    open.delete(key)
    if (access) close(access)
  }
  return {
    get(key, opening) {
      const access = open.get(key) ?? opening()
      // The newest stand last.
      open.delete(key)
      open.set(key, access)
      for (const oldest of open.keys()) if (open.size > most) drop(oldest)
      return access
    },
    drop,
  }
}
