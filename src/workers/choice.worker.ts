import { expose } from 'comlink'
import { type RankOptions, rank } from '../core/choice/rank'
import { jobs } from './job'
import type { Bloc } from '../core/choice/bloc'

const running = jobs()

const service = {
  rank: (id: number, blocs: readonly Bloc[], options: RankOptions) =>
    running.run(id, () => rank(blocs, options)),
  end: running.end,
}

export type ChoiceService = typeof service
expose(service)
