import { expose } from 'comlink'
import { type Player, player } from '../media/play/player'
import type { Achieved, Feed, PlayOrder, PlayedView } from '../media/play/plan'
import { jobs } from './job'

const running = jobs()
let current: Player | null = null

const service = {
  /** Opens what is to be played and makes its first frames ready. */
  prepare: (id: number, order: PlayOrder, views: readonly PlayedView[], feed: Feed): Promise<void> =>
    running.run(id, async (signal) => {
      current?.close()
      current = player(order, views, feed)
      await current.prepare(signal)
    }),
  /** Plays what was prepared, from a moment of the time that threads have in common. */
  run: (id: number, startAt: number, tell: (achieved: Achieved) => void): Promise<Achieved> =>
    running.run(id, async (signal) => {
      if (!current) throw new Error('nothing was prepared')
      return current.run(startAt, tell, signal)
    }),
  /** Lets go of all that was opened. */
  close: () => {
    current?.close()
    current = null
  },
  end: running.end,
}

export type PlayingService = typeof service
expose(service)
