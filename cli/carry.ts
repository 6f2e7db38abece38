import { carryFrame, driftMs } from '../src/core/edit/carry'
import { parseRate } from '../src/core/rate/parse'
import { milliseconds } from '../src/core/words/figures'
import { type Command, WrongUse, aligned, print, tell, parseWords } from './command'

export const carryCommand: Command = {
  usage: 'carry --from RATE --to RATE FRAME… [--json]',
  summary: 'Where boundaries of a cut come to lie at another rate, each by itself.',
  options: [
    ['--from RATE, --to RATE', 'both are needed'],
    ['--json', 'as JSON'],
  ],
  example: 'tally carry --from 25 --to 24 100 101',
  async run(args) {
    const { positionals, values, json } = parseWords(args, {
      from: { type: 'string' },
      to: { type: 'string' },
    })
    const [from, to] = [values.from, values.to].map((text) => parseRate(String(text ?? '')))
    if (!from || !to) throw new WrongUse('Two rates are needed, as in --from 25 --to 24.')
    for (const { message } of [from, to]) if (message) tell(message)
    if (positionals.length === 0) throw new WrongUse('At least one frame is needed.')
    const boundaries = positionals.map((text) => {
      const frame = Number(text)
      if (!Number.isSafeInteger(frame) || frame < 0) throw new WrongUse(`“${text}” is no frame number.`)
      const carried = carryFrame(frame, from.rate, to.rate)
      return { frame, carried, driftMs: driftMs(carried, to.rate, frame, from.rate) }
    })
    if (json) print(JSON.stringify({ boundaries }))
    else
      aligned([
        ['frame', 'carried', 'drift'],
        ...boundaries.map((b) => [String(b.frame), String(b.carried), milliseconds(b.driftMs)]),
      ]).forEach(print)
    return 0
  },
}
