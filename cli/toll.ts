import { tollFrom } from '../src/core/toll/charge'
import { notedOf } from '../src/core/toll/noted'
import { pictureOf } from '../src/core/picture/picture'
import { sentence } from '../src/core/toll/sentence'
import { tollOf } from '../src/core/toll/toll'
import { type Command, WrongUse, aligned, print, readFormat, tell, parseWords } from './command'
import { givenTo, readingsOption } from './readings'
import { figure } from '../src/core/words/figures'

export const tollCommand: Command = {
  usage: 'toll FORMAT [--readings FILE|-] FILE… [--json]',
  summary: 'What each file pays to run in a format such as 1920x1080@25p or 1440x1080/4:3@50i.',
  options: [
    ['--readings FILE|-', 'lines of inspect --json instead of files'],
    ['--jobs N', 'reads with N workers'],
    ['--progress', 'tells on standard error how many are read'],
    ['--json', 'a JSON line for each file'],
  ],
  example: 'tally toll 1920x1080@25p card/*',
  async run(args) {
    const { positionals, values, json } = parseWords(args, readingsOption)
    const [text, ...paths] = positionals
    if (text === undefined) throw new WrongUse('A format is needed, as in 1920x1080@25p.')
    const format = readFormat(text, '1920x1080@25p')
    let status = 0
    const given = givenTo(paths, values, () => (status = 1))
    for await (const { file, result } of given) {
      if (!result.ok) {
        status = 1
        tell(`${file}: ${result.error.message}`)
      }
      const { reading } = result
      // A file that could not be read at all is told above.
      if (!reading) continue
      // Sound has no picture to pay for.
      const { grade, loss, charges } = reading.video ? tollOf(pictureOf(reading.video), format) : tollFrom([])
      const sentences = [
        ...charges.map((charge) => ({
          kind: charge.kind,
          grade: charge.grade,
          loss: charge.loss,
          text: sentence(charge),
        })),
        // Noted only: no grade, nothing lost.
        ...notedOf(reading).map(({ kind, text }) => ({ kind, grade: null, loss: 0, text })),
      ]
      if (json) print(JSON.stringify({ file, grade, loss, charges: sentences }))
      else {
        print(`${file}  ${grade}, loss ${figure(loss, 3)}`)
        aligned(
          sentences.map((charge) => ['   ', charge.grade ?? 'noted', figure(charge.loss, 3), charge.text]),
        ).forEach(print)
      }
    }
    return status
  },
}
