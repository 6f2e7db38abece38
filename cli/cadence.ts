import { cadence, holdLengths } from '../src/core/rate/cadence'
import { parseRate } from '../src/core/rate/parse'
import { type Command, WrongUse, aligned, print, parseWords } from './command'
import { figure, exactSeconds } from '../src/core/words/figures'

export const cadenceCommand: Command = {
  usage: 'cadence SOURCE TIMELINE [--json]',
  summary: 'How frames of one rate land on a timeline of another.',
  options: [['--json', 'as JSON']],
  example: 'tally cadence 24 60',
  async run(args) {
    const { positionals, json } = parseWords(args)
    const [source, timeline] = positionals.map((text) => parseRate(text)?.rate)
    if (positionals.length !== 2 || !source || !timeline)
      throw new WrongUse('Two rates are needed: the source’s and the timeline’s.')
    const figures = cadence(source, timeline)
    const holds = holdLengths(source, timeline, Math.min(64, figures.periodSource))
    if (json) print(JSON.stringify({ ...figures, holds }))
    else {
      const rows = [
        ['kind', figures.kind],
        ['period', `${figures.periodTimeline} timeline frames show ${figures.periodSource} source frames`],
        ['repeated', String(figures.repeated)],
        ['dropped', String(figures.dropped)],
        ['judder', `${figure(figures.judderMs, 3)} ms`],
        ...(figures.slipSeconds ? [['slip', `every ${exactSeconds(figures.slipSeconds, 3)}`]] : []),
        ['holds', holds.join(' ')],
      ]
      aligned(rows).forEach(print)
    }
    return 0
  },
}
