import { rank } from '../src/core/choice/rank'
import { type Elector, gatherVotes } from '../src/core/choice/vote'
import { formatText } from '../src/core/format/format'
import { Lean, defaultPolicy } from '../src/core/toll/policy'
import { percent } from '../src/core/toll/sentence'
import { type Command, WrongUse, aligned, print, readFormat, tell, words } from './command'
import { filesOf, readFile } from './files'

export const chooseCommand: Command = {
  usage: 'choose [--deliver FORMAT]… [--lean balanced|sharp|detail|majority] FILE… [--json]',
  summary: 'The formats that the footage could run in, the best first.',
  async run(args) {
    const { positionals, values, json } = words(args, {
      deliver: { type: 'string', multiple: true },
      lean: { type: 'string' },
    })
    if (positionals.length === 0) throw new WrongUse('At least one file or folder is needed.')
    const lean = Lean.safeParse(values.lean ?? 'balanced')
    if (!lean.success) throw new WrongUse(`There is no lean “${values.lean}”.`)
    const deliverables = ((values.deliver as string[] | undefined) ?? []).map((text) =>
      readFormat(text, '1920x1080@50i'),
    )
    const electors: Elector[] = []
    let status = 0
    for await (const file of filesOf(positionals)) {
      const result = await readFile(file)
      if (!result.ok) {
        status = 1
        tell(`${file}: ${result.error.message}`)
      }
      electors.push({ id: file, reading: result.ok ? result.reading : null, priority: 'normal' })
    }
    const { blocs, excluded } = gatherVotes(electors)
    const candidates = rank(blocs, { deliverables, lean: lean.data, policy: defaultPolicy }).map(
      (candidate) => ({
        format: formatText(candidate.format),
        score: candidate.score,
        untouchedShare: candidate.untouchedShare,
        reason: candidate.reason,
      }),
    )
    const left = excluded.map(({ id, why }) => ({ file: id, why }))
    if (json) print(JSON.stringify({ candidates, excluded: left }))
    else if (candidates.length === 0) {
      print('No footage votes: stills, sound and files that could not be read never decide a format.')
    } else {
      const rows = candidates
        .slice(0, 12)
        .map((c, i) => [
          String(i + 1).padStart(2),
          c.format,
          c.score.toFixed(3),
          percent(c.untouchedShare),
          c.reason,
        ])
      aligned([['', 'format', 'score', 'untouched', 'why'], ...rows]).forEach(print)
      if (left.length) print(`\nDo not vote: ${left.map((l) => `${l.file} (${l.why})`).join(', ')}`)
    }
    return status
  },
}
