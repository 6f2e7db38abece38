import { expose } from 'comlink'
import { type Player, player } from '../media/play/player'
import type { Achieved, Feed, PlayOrder, PlayedView } from '../media/play/plan'
import { job } from './job'

let current: Player | null = null

const service = {
  /** Opens what is to be played and makes its first frames ready. */
  prepare: (order: PlayOrder, views: readonly PlayedView[], feed: Feed, until?: AbortSignal): Promise<void> =>
    job(until, async (signal) => {
      current?.close()
      current = player(order, views, feed)
      await current.prepare(signal)
    }),
  /** Plays what was prepared, from a moment of the time that threads have in common. */
  run: (startAt: number, tell: (achieved: Achieved) => void, until?: AbortSignal): Promise<Achieved> =>
    job(until, async (signal) => {
      if (!current) throw new Error('nothing was prepared')
      return current.run(startAt, tell, signal)
    }),
  /** Lets go of all that was opened. */
  close: () => {
    current?.close()
    current = null
  },
}

export type PlayingService = typeof service
expose(service)
