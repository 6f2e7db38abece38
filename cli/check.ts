import { checkTimeline } from '../src/core/check/check'
import { findingGroups } from '../src/core/check/findings'
import { timelinesOf } from '../src/core/model/project'
import { formatName, formatText } from '../src/core/format/format'
import { frameToTimecode } from '../src/core/rate/timecode'
import { type Grade, grades } from '../src/core/toll/grade'
import { percent } from '../src/core/words/figures'
import { type Command, WrongUse, aligned, print, tell, parseWords } from './command'
import { openProject, timelineNamed } from './project'

const failing = ['light', 'heavy', 'severe'] as const satisfies readonly Grade[]

export const checkCommand: Command = {
  usage: 'check PROJECT.json [--timeline NAME] [--fail-on light|heavy|severe] [--json]',
  summary: 'What happens to each timeline: its findings, the worst first.',
  options: [
    ['--timeline NAME', 'only this one; all of them otherwise'],
    ['--fail-on GRADE', 'exit status 1 where an open finding is of this grade or worse'],
    ['--json', 'a JSON line for each timeline'],
  ],
  example: 'tally check film.json --fail-on heavy',
  async run(args) {
    const { positionals, values, json } = parseWords(args, {
      timeline: { type: 'string' },
      'fail-on': { type: 'string' },
    })
    const [path] = positionals
    if (path === undefined || positionals.length > 1) throw new WrongUse('One project file is needed.')
    const asked = values['fail-on']
    const limit = failing.find((grade) => grade === asked)
    if (asked !== undefined && !limit)
      throw new WrongUse(`A grade is one of ${failing.join(', ')}, not “${String(asked)}”.`)
    const doc = await openProject(path)
    if (!doc) return 1
    const name = values.timeline as string | undefined
    let status = 0
    for (const timeline of name === undefined ? timelinesOf(doc) : [timelineNamed(doc, name)]) {
      const check = checkTimeline(doc, timeline)
      if (!check) {
        tell(`“${timeline.name}” has no format yet.`)
        status = 1
        continue
      }
      const findings = findingGroups(doc, timeline, check).map(
        ({ kind, grade, title, says, placements, frames, accepted }) => ({
          kind,
          grade,
          title,
          text: says,
          placements: placements.map(({ id }) => id),
          frames,
          accepted,
        }),
      )
      const isFailing = findings.some(
        ({ grade, accepted }) => limit && accepted === null && grades.indexOf(grade) >= grades.indexOf(limit),
      )
      if (isFailing) status = 1
      if (json) {
        const { format, frames, placedFrames, untouchedShare, countByGrade } = check
        print(
          JSON.stringify({
            timeline: timeline.name,
            format: formatText(format),
            frames,
            placedFrames,
            untouchedShare,
            grades: countByGrade,
            findings,
          }),
        )
        continue
      }
      print(`${timeline.name}  ${formatName(check.format)}, untouched ${percent(check.untouchedShare)}`)
      aligned(
        findings.map(({ grade, title, frames, text, accepted }) => [
          '   ',
          accepted === null ? grade : `${grade}, accepted`,
          title,
          frameToTimecode(frames, check.format.rate),
          text,
        ]),
      ).forEach(print)
      if (findings.length === 0) print('    every clip runs as it was recorded')
    }
    return status
  },
}
