/** One after the other: a decoder stands at one place only. */
export function turns() {
  let queue: Promise<unknown> = Promise.resolve()
  return <T>(work: () => Promise<T>): Promise<T> => {
    const turn = queue.then(work)
    queue = turn.catch(() => {})
    return turn
  }
}
