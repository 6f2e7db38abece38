import { rank } from '../src/core/choice/rank'
import { type Elector, gatherVotes } from '../src/core/choice/vote'
import { formatText } from '../src/core/format/format'
import { Ranking, Mains, defaultPolicy } from '../src/core/toll/policy'
import { rankingNames } from '../src/core/toll/weights'
import { figure, percent } from '../src/core/words/figures'
import { type Command, WrongUse, aligned, print, readFormat, tell, parseWords } from './command'
import { givenTo, readingsOption } from './readings'

export const chooseCommand: Command = {
  usage:
    'choose [--deliver FORMAT]… [--rank-for balance|sharpness|detail|motion|majority] [--mains 50|60] [--readings FILE|-] FILE… [--json]',
  summary: 'The formats that the footage could run in, the best first.',
  options: [
    ['--deliver FORMAT', 'what is handed over; several times for several'],
    ['--rank-for WHAT', 'balance, sharpness, detail, motion or majority'],
    ['--mains 50|60', 'the region that the film is made for'],
    ['--readings FILE|-', 'lines of inspect --json instead of files'],
    ['--jobs N', 'reads with N workers'],
    ['--progress', 'tells on standard error how many are read'],
    ['--json', 'as JSON'],
  ],
  example: 'tally choose --deliver 1920x1080@50i --mains 50 card/',
  async run(args) {
    const { positionals, values, json } = parseWords(args, {
      deliver: { type: 'string', multiple: true },
      'rank-for': { type: 'string' },
      // As it was called before.
      lean: { type: 'string' },
      mains: { type: 'string' },
      ...readingsOption,
    })
    const wanted = (values['rank-for'] ?? values.lean ?? 'balanced') as string
    const lean = Ranking.options.find((option) => option === wanted || rankingNames[option] === wanted)
    if (!lean)
      throw new WrongUse(
        `Candidates are ranked for ${Object.values(rankingNames).join(', ')}, not for “${wanted}”.`,
      )
    const mains = Mains.nullable().safeParse(values.mains === undefined ? null : Number(values.mains))
    if (!mains.success) throw new WrongUse(`Mains have 50 or 60 Hz, not ${values.mains}.`)
    const deliverables = ((values.deliver as string[] | undefined) ?? []).map((text) =>
      readFormat(text, '1920x1080@50i'),
    )
    const electors: Elector[] = []
    let status = 0
    const given = givenTo(positionals, values, () => (status = 1))
    for await (const { file, result } of given) {
      if (!result.ok) {
        status = 1
        tell(`${file}: ${result.error.message}`)
      }
      electors.push({ id: file, reading: result.ok ? result.reading : null, priority: 'normal' })
    }
    const { blocs, excluded } = gatherVotes(electors)
    const candidates = rank(blocs, {
      deliverables,
      lean,
      mains: mains.data,
      policy: defaultPolicy,
    }).map(({ format, loss, untouchedShare, reason }) => ({
      format: formatText(format),
      loss,
      untouchedShare,
      reason,
    }))
    const left = excluded.map(({ id, why }) => ({ file: id, why }))
    if (json) print(JSON.stringify({ candidates, excluded: left }))
    else {
      if (blocs.length === 0)
        print('No footage votes: stills, sound and files that could not be read never decide a format.\n')
      const rows = candidates
        .slice(0, 12)
        .map((c, i) => [
          String(i + 1).padStart(2),
          c.format,
          figure(c.loss, 3),
          percent(c.untouchedShare),
          c.reason,
        ])
      aligned([['', 'format', 'loss', 'untouched', 'why'], ...rows]).forEach(print)
      if (left.length) print(`\nDo not vote: ${left.map((l) => `${l.file} (${l.why})`).join(', ')}`)
    }
    return status
  },
}
