import { parseFormat } from '../src/core/format/parse'
import { notedOf } from '../src/core/toll/noted'
import { pictureOf } from '../src/core/toll/picture'
import { sentence } from '../src/core/toll/sentence'
import { tollOf } from '../src/core/toll/toll'
import { type Command, WrongUse, aligned, print, tell, words } from './command'
import { filesOf, readFile } from './files'

export const tollCommand: Command = {
  usage: 'toll FORMAT FILE… [--json]',
  summary: 'What each file pays to run in a format such as 1920x1080@25p or 1440x1080/4:3@50i.',
  async run(args) {
    const { positionals, json } = words(args)
    const [text, ...paths] = positionals
    const parsed = text === undefined ? null : parseFormat(text)
    if (!parsed)
      throw new WrongUse(`${text ? `“${text}” is not a format` : 'A format is needed'}, as in 1920x1080@25p.`)
    if (paths.length === 0) throw new WrongUse('At least one file or folder is needed.')
    if (parsed.message) tell(parsed.message)
    let status = 0
    for await (const file of filesOf(paths)) {
      const result = await readFile(file)
      const video = result.reading?.video
      if (!result.ok) {
        status = 1
        tell(`${file}: ${result.error.message}`)
      }
      // Sound has no picture to pay for; a file that could not be read is told above.
      if (!video) continue
      const { grade, loss, charges } = tollOf(pictureOf(video), parsed.format)
      const told = [
        ...charges.map((charge) => ({
          kind: charge.kind,
          grade: charge.grade,
          loss: charge.loss,
          text: sentence(charge),
        })),
        // Noted only: no grade, nothing lost.
        ...notedOf(result.reading!).map(({ kind, text }) => ({ kind, grade: null, loss: 0, text })),
      ]
      if (json) print(JSON.stringify({ file, grade, loss, charges: told }))
      else {
        print(`${file}  ${grade}, loss ${loss.toFixed(3)}`)
        aligned(
          told.map((charge) => ['   ', charge.grade ?? 'noted', charge.loss.toFixed(3), charge.text]),
        ).forEach(print)
      }
    }
    return status
  },
}
