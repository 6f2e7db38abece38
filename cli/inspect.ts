import { parseRate } from '../src/core/rate/parse'
import { type Rate, rateWithScan } from '../src/core/rate/rate'
import type { ReadResult } from '../src/core/reading/read'
import type { Reading } from '../src/core/reading/reading'
import { pixelSizeName } from '../src/core/format/format'
import { type Command, WrongUse, print, parseWords } from './command'
import { type Found, filesOf } from './files'
import { type ReadFound, jobsOption, readAll } from './jobs'
import { asClips } from './numbered'
import { figure, exactSeconds } from '../src/core/words/figures'

export const inspectCommand: Command = {
  usage: 'inspect [--json] [--jobs N] [--numbered [--rate R]] FILE…',
  summary: 'Tells what each file says of itself; folders are walked.',
  options: [
    ['--numbered', 'numbered pictures (DPX, OpenEXR, DNG, TIFF, PNG …) are one clip each'],
    ['--rate R', 'their rate where their headers state none; 25 if it is not said'],
    ['--jobs N', 'reads with N workers, in the same order'],
    ['--progress', 'tells on standard error how many are read'],
    ['--json', 'a JSON line for each file'],
  ],
  example: 'tally inspect --json card/* > card.jsonl',
  async run(args) {
    const { positionals, values, json } = parseWords(args, {
      ...jobsOption,
      numbered: { type: 'boolean' },
      rate: { type: 'string' },
    })
    if (positionals.length === 0) throw new WrongUse('At least one file or folder is needed.')
    const rate = parseRate(typeof values.rate === 'string' ? values.rate : '25')?.rate
    if (!rate) throw new WrongUse(`--rate takes a rate as in 24 or 23.976, not “${String(values.rate)}”.`)
    let status = 0
    const results = values.numbered ? numbered(positionals, rate) : readAll(positionals, values)
    for await (const { found, result } of results) {
      const { path } = found
      if (!result.ok) status = 1
      print(json ? JSON.stringify(toJson(path, result)) : forPeople(path, result))
    }
    return status
  },
}

/** As `readAll`, with numbered pictures as one clip each. */
async function* numbered(paths: readonly string[], rate: Rate): AsyncGenerator<ReadFound> {
  const { readFile } = await import('./read-file')
  const files: Found[] = []
  for await (const found of filesOf(paths)) files.push(found)
  for await (const { found, result } of asClips(files, rate, readFile))
    yield { found, result: result ?? (await readFile(found)) }
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
