import { expose } from 'comlink'
import { type RankOptions, rank } from '../core/choice/rank'
import type { Bloc } from '../core/choice/vote'

const service = {
  rank: (blocs: readonly Bloc[], options: RankOptions) => rank(blocs, options),
}

export type ChoiceService = typeof service
expose(service)
