import { rateWithScan } from '../src/core/rate/rate'
import type { ReadResult } from '../src/core/reading/read'
import type { Reading } from '../src/core/reading/reading'
import { pixelSizeName } from '../src/core/format/format'
import { type Command, WrongUse, print, words } from './command'
import { jobsOption, readAll } from './jobs'
import { figure, exactSeconds } from '../src/core/words/figures'

export const inspectCommand: Command = {
  usage: 'inspect [--json] [--jobs N] FILE…',
  summary: 'Tells what each file says of itself; folders are walked.',
  options: [
    ['--jobs N', 'reads with N workers, in the same order'],
    ['--progress', 'tells on standard error how many are read'],
    ['--json', 'a JSON line for each file'],
  ],
  example: 'tally inspect --json card/* > card.jsonl',
  async run(args) {
    const { positionals, values, json } = words(args, jobsOption)
    if (positionals.length === 0) throw new WrongUse('At least one file or folder is needed.')
    let status = 0
    for await (const { found, result } of readAll(positionals, values)) {
      const { path } = found
      if (!result.ok) status = 1
      print(json ? JSON.stringify(toJson(path, result)) : forPeople(path, result))
    }
    return status
  },
}

function toJson(file: string, result: ReadResult) {
  if (result.ok) return { file, ok: true, reading: printed(result.reading) }
  return {
    file,
    ok: false,
    error: result.error,
    ...(result.reading ? { reading: printed(result.reading) } : {}),
  }
}

/** The fields that the terminal's JSON is described with; what the app keeps besides stays out. */
function printed({
  kind,
  container,
  sizeBytes,
  durationSec,
  video,
  audio,
  timecode,
  recordedAt,
  reel,
  notes,
}: Reading) {
  const { medianRate: _m, ...described } = video ?? {}
  return {
    kind,
    container,
    sizeBytes,
    durationSec,
    video: video && described,
    audio,
    timecode,
    recordedAt,
    reel,
    notes,
  }
}

function forPeople(path: string, result: ReadResult): string {
  const lines = [path]
  const line = (name: string, value: string | null | false) =>
    value && lines.push(`    ${name.padEnd(12)}${value}`)
  if (!result.ok) line(result.error.code, result.error.message)
  const reading = result.reading
  if (reading) {
    line('file', `${reading.container}, ${reading.sizeBytes} bytes`)
    const video = reading.video
    if (video) {
      line(
        'picture',
        [pixelSizeName(video), video.rotation && `turn ${video.rotation}°`, video.alpha && 'alpha']
          .filter(Boolean)
          .join(', '),
      )
      line(
        'codec',
        [video.codec, video.profile, video.bitDepth && `${video.bitDepth} bit`, video.chroma]
          .filter(Boolean)
          .join(' '),
      )
      if (video.rate) line('rate', rateLine(video))
      line('scan', video.scan + (video.fieldOrder ? `, ${video.fieldOrder}` : ''))
      const colour = [video.colour.primaries, video.colour.transfer, video.colour.matrix, video.colour.range]
      line('colour', colour.some(Boolean) && colour.map((part) => part ?? '–').join(' / '))
    }
    for (const sound of reading.audio) {
      line(
        'sound',
        `${sound.codec}, ${sound.channels ?? '?'} ch, ${sound.sampleRate ?? '?'} Hz${sound.bitDepth ? `, ${sound.bitDepth} bit` : ''}`,
      )
    }
    if (reading.durationSec !== null) line('duration', exactSeconds(reading.durationSec, 3))
    if (reading.timecode) line('starts at', reading.timecode.start)
    line('reel', reading.reel)
    for (const note of reading.notes) line('note', note.message)
  }
  return lines.join('\n')
}

function rateLine(video: NonNullable<Reading['video']>): string {
  const rate = video.rate ? rateWithScan(video.rate, video.scan) : 'unknown rate'
  const name = `${rate}, ${video.frameCount ?? '?'} frames, ${video.rateMode}`
  const range = [video.minRate, video.maxRate]
    .map((rate) => (rate === undefined ? '?' : figure(rate, 2)))
    .join(' to ')
  return video.rateMode === 'variable'
    ? `${name}: ${range}, mean ${video.meanRate === undefined ? '?' : figure(video.meanRate, 2)}`
    : name
}
