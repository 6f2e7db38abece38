import { FileWindow } from '../src/core/reading/bytes/source'
import { openWave } from '../src/core/reading/wave/samples'
import { type Loudness, loudnessMeter } from '../src/core/sound/loudness'
import { counted, figure, kilohertz } from '../src/core/words/figures'
import { reasonOf } from '../src/core/words/reason'
import { type Command, WrongUse, aligned, print, tell, parseWords } from './command'
import { filesOf } from './files'
import { withSource } from './read-file'

/** Samples that are read at once. */
const atOnce = 1 << 17

export const loudnessCommand: Command = {
  usage: 'loudness [--json] FILE.wav…',
  summary: 'How loud sound is by BS.1770-4: integrated, its range, its true peak.',
  options: [['--json', 'a JSON line for each file']],
  example: 'tally loudness mix.wav',
  async run(args) {
    const { positionals, json } = parseWords(args)
    if (positionals.length === 0) throw new WrongUse('At least one file or folder is needed.')
    const rows = [['file', 'LUFS', 'LU', 'dBTP', '']]
    let status = 0
    for await (const { path, bad } of filesOf(positionals)) {
      const answer = bad === null ? await measuredFile(path).catch(reasonOf) : bad
      if (typeof answer === 'string') {
        status = 1
        if (json)
          print(JSON.stringify({ file: path, ok: false, error: { code: 'unreadable', message: answer } }))
        else tell(`${path}: ${answer}`)
      } else if (json) print(JSON.stringify({ file: path, ok: true, loudness: answer }))
      else
        rows.push([
          path,
          levelText(answer.integratedLufs),
          levelText(answer.rangeLu),
          levelText(answer.truePeakDbtp),
          `${kilohertz(answer.sampleRate)}, ${counted(answer.channels, 'channel')}`,
        ])
    }
    if (!json && rows.length > 1) aligned(rows).forEach(print)
    return status
  },
}

const levelText = (value: number | null): string => (value === null ? 'silent' : figure(value))

/** How loud a WAVE file is. @throws ReadingFault where its samples cannot be had */
const measuredFile = (path: string): Promise<Loudness & { sampleRate: number; channels: number }> =>
  withSource(path, async (source) => {
    const sound = await openWave(new FileWindow(source))
    const { sampleRate, channels, count } = sound
    const meter = loudnessMeter(channels, sampleRate)
    for (let from = 0; from < count; from += atOnce)
      meter.add(await sound.samples(from, Math.min(count, from + atOnce)))
    return { ...meter.measured(), sampleRate, channels }
  })
