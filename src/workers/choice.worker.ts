import { expose } from 'comlink'
import { type RankOptions, rank } from '../core/choice/rank'
import type { Bloc } from '../core/choice/vote'
import { jobs } from './job'

const running = jobs()

const service = {
  rank: (id: number, blocs: readonly Bloc[], options: RankOptions) =>
    running.run(id, () => rank(blocs, options)),
  end: running.end,
}

export type ChoiceService = typeof service
expose(service)
