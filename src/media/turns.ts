/** Lets everything else that waits have its turn: messages, painting, clicks. */
export const nextTurn = (): Promise<void> => new Promise((turn) => setTimeout(turn))

/** One after the other, each begun when the one before is done: for what stands at one place only. */
export function turns() {
  let queue: Promise<unknown> = Promise.resolve()
  return <T>(work: () => Promise<T>): Promise<T> => {
    const turn = queue.then(work)
    queue = turn.catch(() => {})
    return turn
  }
}
