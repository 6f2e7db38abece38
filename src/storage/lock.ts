/** Leave to write a project; one tab holds it at a time. */
export interface WriteLock {
  /** Gives it back; also given back when the tab closes or crashes. */
  release(): void
  /** Resolves when another tab has taken it away. */
  readonly lost: Promise<void>
}

// A page that comes over the network without TLS has no locks: whoever opens it writes.
const hasLocks = () => Boolean((navigator as Partial<Navigator>).locks)
const alone = (): WriteLock => ({ release: () => {}, lost: new Promise(() => {}) })

function request(projectId: string, options: LockOptions): Promise<WriteLock | null> {
  return new Promise((answer) => {
    let take: () => void = () => {}
    const lost = new Promise<void>((resolve) => (take = resolve))
    navigator.locks
      .request(`yard-tally project ${projectId}`, options, (lock) => {
        if (!lock) return answer(null)
        return new Promise<void>((release) => answer({ release, lost }))
      })
      .catch(() => {
        // Taken away, or the wait for it was called off.
        take()
        answer(null)
      })
  })
}

/** Asks for leave to write a project. @returns null where another tab has it */
export const requestWriteLock = async (projectId: string): Promise<WriteLock | null> =>
  hasLocks() ? request(projectId, { ifAvailable: true }) : alone()

/** Waits for leave to write a project: until the tab that has it gives it back, closes or dies. @returns null where the wait was called off */
export const writeLockWhenFree = async (projectId: string, signal: AbortSignal): Promise<WriteLock | null> =>
  hasLocks() ? request(projectId, { signal }) : new Promise(() => {})

/** Takes leave to write a project away from whoever has it. */
export const stealWriteLock = async (projectId: string): Promise<WriteLock | null> =>
  hasLocks() ? request(projectId, { steal: true }) : alone()

/** Does something while no other tab holds a name; holds it meanwhile. @returns whether it was free */
export async function whileNobodyElse(name: string, act: () => Promise<unknown>): Promise<boolean> {
  if (!hasLocks()) return (await act(), true)
  return navigator.locks.request(`yard-tally ${name}`, { ifAvailable: true }, async (lock) => {
    if (!lock) return false
    await act()
    return true
  })
}
