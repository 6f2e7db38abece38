import { readFile } from 'node:fs/promises'
import { csvOf } from '../src/app/csv'
import { checkTimeline } from '../src/core/check/check'
import { timelinesOf } from '../src/core/edit/project'
import { toEdl } from '../src/core/exchange/edl'
import { toOtio } from '../src/core/exchange/otio'
import { readProjectFile } from '../src/core/exchange/project-file'
import { reportHtml, reportOf } from '../src/core/exchange/report'
import { tableNames, tableRows } from '../src/core/exchange/tables'
import { reasonOf } from '../src/core/words/reason'
import { type Command, WrongUse, print, tell, words } from './command'

const kinds = ['otio', 'edl', 'csv', 'report'] as const

export const exportCommand: Command = {
  usage: 'export --otio|--edl|--csv|--report [--timeline NAME] [--table NAME] PROJECT.json',
  summary:
    'A timeline as OpenTimelineIO, as an edit decision list or as CSV (placements, clips, findings, charges); the project as a report.',
  async run(args) {
    const { positionals, values } = words(args, {
      otio: { type: 'boolean' },
      edl: { type: 'boolean' },
      csv: { type: 'boolean' },
      report: { type: 'boolean' },
      timeline: { type: 'string' },
      table: { type: 'string' },
    })
    const wanted = kinds.filter((kind) => values[kind])
    const [path] = positionals
    const [kind] = wanted
    if (!kind || wanted.length > 1) throw new WrongUse('One of --otio, --edl, --csv and --report is needed.')
    if (path === undefined || positionals.length > 1) throw new WrongUse('One project file is needed.')
    const text = await readFile(path, 'utf8').catch((error: unknown) => {
      tell(`${path}: ${reasonOf(error)}`)
      return null
    })
    const read = text === null ? null : readProjectFile(text)
    if (read && !read.ok) tell(`${path}: ${read.error}`)
    if (!read?.ok) return 1
    const { doc } = read
    const table = tableNames.find((name) => name === (values.table ?? 'placements'))
    if (!table) throw new WrongUse(`A table is one of ${tableNames.join(', ')}.`)
    if (kind === 'report') {
      process.stdout.write(reportHtml(reportOf(doc)))
      return 0
    }
    const all = timelinesOf(doc)
    const timeline = values.timeline === undefined ? all[0] : all.find(({ name }) => name === values.timeline)
    if (!timeline)
      throw new WrongUse(
        all.length ? `There is no timeline “${String(values.timeline)}”.` : 'The project has no timeline.',
      )
    const check = checkTimeline(doc, timeline)
    if (!check) {
      tell(`“${timeline.name}” has no format yet.`)
      return 1
    }
    if (kind === 'otio') print(JSON.stringify(toOtio(doc, timeline), null, 2))
    if (kind === 'csv') print(csvOf(tableRows(table, doc, timeline, check)))
    if (kind === 'edl') {
      const { text: list, leavesOut } = toEdl(doc, timeline)
      for (const one of leavesOut) tell(`Left out: ${one}.`)
      process.stdout.write(list)
    }
    return 0
  },
}
