import { expose } from 'comlink'
import { type RankOptions, rank } from '../core/choice/rank'
import { job } from './job'
import type { Bloc } from '../core/choice/bloc'

const service = {
  rank: (blocs: readonly Bloc[], options: RankOptions, until?: AbortSignal) =>
    job(until, () => rank(blocs, options)),
}

export type ChoiceService = typeof service
expose(service)
