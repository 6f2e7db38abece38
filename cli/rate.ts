import { parseRate } from '../src/core/rate/parse'
import { rateWithScan } from '../src/core/rate/rate'
import { type Command, WrongUse, print, parseWords } from './command'

export const rateCommand: Command = {
  usage: 'rate TEXT [--json]',
  summary: 'The exact rate that a text means: 23.98, 30000/1001, 50i.',
  options: [['--json', 'as JSON']],
  example: 'tally rate 23.98',
  async run(args) {
    const { positionals, json } = parseWords(args)
    if (positionals.length !== 1) throw new WrongUse('One rate is needed.')
    const typed = parseRate(positionals[0] ?? '')
    if (!typed)
      throw new WrongUse(`“${positionals[0]}” is not a rate. Write 25, 23.976, 30000/1001, 25p or 50i.`)
    if (json) print(JSON.stringify(typed))
    else {
      const { rate, scan, message } = typed
      print(
        `${rateWithScan(rate, scan)}  ${rate.num}/${rate.den} frames a second${message ? `\n${message}` : ''}`,
      )
    }
    return 0
  },
}
