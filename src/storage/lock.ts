/** Leave to write a project; one tab holds it at a time. */
export interface WriteLeave {
  /** Gives it back; also given back when the tab closes or crashes. */
  release(): void
}

/** Asks for leave to write a project. @returns null where another tab has it */
export async function leaveToWrite(projectId: string): Promise<WriteLeave | null> {
  // Where there are no locks there are no tabs either: the tests.
  if (typeof navigator === 'undefined' || !navigator.locks) return { release: () => {} }
  return new Promise((answer) => {
    void navigator.locks
      .request(`yard-tally project ${projectId}`, { ifAvailable: true }, (lock) => {
        if (!lock) return answer(null)
        return new Promise<void>((release) => answer({ release }))
      })
      .catch(() => answer(null))
  })
}
