import PQueue from 'p-queue'

/** Lets everything else that waits have its turn: messages, painting, clicks. */
export const nextTurn = (): Promise<void> => new Promise((turn) => setTimeout(turn))

/** One after the other, each begun when the one before is done, however that ended: for what stands at one place only. */
export function turns() {
  const queue = new PQueue({ concurrency: 1 })
  return <T>(work: () => Promise<T>): Promise<T> => queue.add(work)
}
