import { csvOf } from '../src/core/inspect/csv'
import { checkTimeline } from '../src/core/check/check'
import { toEdl } from '../src/core/exchange/edl'
import { toOtio } from '../src/core/exchange/otio'
import { reportHtml, reportOf } from '../src/core/exchange/report'
import { tableNames, tableRows } from '../src/core/exchange/tables'
import { type Command, WrongUse, print, tell, parseWords } from './command'
import { openProject, timelineNamed } from './project'

const kinds = ['otio', 'edl', 'csv', 'report'] as const

export const exportCommand: Command = {
  usage: 'export --otio|--edl|--csv|--report [--timeline NAME] [--table NAME] PROJECT.json',
  summary:
    'A timeline as OpenTimelineIO, as an edit decision list or as CSV (placements, clips, findings, charges); the project as a report.',
  options: [
    ['--otio, --edl, --csv, --report', 'what it becomes: one of them'],
    ['--timeline NAME', 'which timeline; the first where none is named'],
    ['--table NAME', 'of --csv: placements, clips, findings or charges'],
  ],
  example: "tally export --otio --timeline 'Main cut' film.json > cut.otio",
  async run(args) {
    const { positionals, values } = parseWords(args, {
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
    const doc = await openProject(path)
    if (!doc) return 1
    const table = tableNames.find((name) => name === (values.table ?? 'placements'))
    if (!table) throw new WrongUse(`A table is one of ${tableNames.join(', ')}.`)
    if (kind === 'report') {
      process.stdout.write(reportHtml(reportOf(doc)))
      return 0
    }
    const timeline = timelineNamed(doc, values.timeline as string | undefined)
    const check = checkTimeline(doc, timeline)
    if (!check) {
      tell(`“${timeline.name}” has no format yet.`)
      return 1
    }
    if (kind === 'otio') print(JSON.stringify(toOtio(doc, timeline), null, 2))
    if (kind === 'csv') print(csvOf(tableRows(table, doc, timeline, check)))
    if (kind === 'edl') {
      const { text: list, leavesOut } = toEdl(doc, timeline)
      for (const leftOut of leavesOut) tell(`Left out: ${leftOut}.`)
      process.stdout.write(list)
    }
    return 0
  },
}
