import type { Deliverable } from '../edit/deliverable'
import type { Proof, ProofLine } from '../edit/proof'
import { type Timeline, timecodeAt } from '../edit/timeline'
import { formatName } from '../format/format'
import { equal, toNumber } from '../rational/rational'
import type { Reading } from '../reading/reading'
import { rateWithScan } from '../rate/rate'
import { type Loudness, loudnessName } from '../sound/loudness'
import { counted, figure, kilohertz, ratio, spaced } from '../words/figures'
import { codecOf } from './codecs'
import type { Verdict } from './likeness'

/** How values came out: found = slope · planned + offset, in code values of 8 bits. */
interface Levels {
  readonly slope: number
  readonly offset: number
}

/** What was measured in the decoded file. */
export interface Compared {
  /** By frame of the file. */
  readonly verdicts: readonly (Verdict & { readonly n: number })[]
  readonly frames: number
  readonly levels: Levels | null
  /** Of both colours; null where there is too little colour to tell. */
  readonly colours: Levels | null
  /** Null where there is none. */
  readonly sound: ComparedSound | null
}

/** The sound of a file beside what was planned. */
export interface ComparedSound {
  /** Milliseconds by which it is late; null where it is too even to tell. */
  readonly lag: number | null
  readonly planned: Loudness
  readonly found: Loudness
  /** Samples of one channel; what is found is null where the wrapper does not tell. */
  readonly samples: { readonly planned: number; readonly found: number | null }
}

const line = (what: string, asked: string, found: string, holds: boolean | null): ProofLine => ({
  what,
  asked,
  found,
  holds,
})

/** What the file says of itself beside what was asked. */
export function saidLines(
  deliverable: Deliverable,
  timeline: Timeline,
  range: { readonly from: number; readonly to: number },
  reading: Reading,
): ProofLine[] {
  const { format, wrapper, video, sound } = deliverable
  const found = reading.video
  const frames = range.to - range.from
  const seconds = frames / toNumber(format.rate)
  const profile = codecOf(video)?.profile
  const heard = reading.audio[0]
  const duration = reading.durationSec
  const lines = [
    line('wrapper', wrapper ?? '', reading.container, reading.container === wrapper),
    line(
      'codec',
      [video?.codec, profile?.chroma, profile && `${profile.bitDepth} bit`].filter(Boolean).join(', '),
      [found?.codec, found?.chroma, found?.bitDepth && `${found.bitDepth} bit`].filter(Boolean).join(', ') ||
        'none',
      found?.codec === video?.codec &&
        (found?.chroma === null || found?.chroma === profile?.chroma) &&
        (found?.bitDepth === null || found?.bitDepth === profile?.bitDepth),
    ),
    line(
      'picture',
      `${formatName(format)}, pixels ${ratio(format.pixelAspect)}`,
      found
        ? `${found.width}×${found.height} · ${found.rate ? rateWithScan(found.rate, found.scan === 'interlaced' ? 'interlaced' : 'progressive') : 'no rate'}, pixels ${ratio(found.pixelAspect)}`
        : 'none',
      found !== null &&
        found.width === format.width &&
        found.height === format.height &&
        equal(found.pixelAspect, format.pixelAspect) &&
        found.rate !== null &&
        equal(found.rate, format.rate) &&
        (found.scan === 'interlaced') === (format.scan === 'interlaced'),
    ),
    line(
      'length',
      counted(frames, 'frame'),
      found?.frameCount === null || !found
        ? `${figure(duration ?? 0, 3)} s`
        : counted(found.frameCount, 'frame'),
      found?.frameCount !== null && found
        ? found.frameCount === frames
        : duration !== null && Math.abs(duration - seconds) < 0.6 / toNumber(format.rate),
    ),
  ]
  if (format.fieldOrder)
    lines.push(
      line(
        'fields',
        spaced(format.fieldOrder),
        found?.fieldOrder ? spaced(found.fieldOrder) : 'not stated',
        found?.fieldOrder ? found.fieldOrder === format.fieldOrder : null,
      ),
    )
  const primaries = found?.colour.primaries ?? null
  lines.push(
    line(
      'colour',
      format.colour.primaries.toUpperCase(),
      primaries?.toUpperCase() ?? 'not stated',
      primaries === null ? null : primaries === format.colour.primaries,
    ),
  )
  if (reading.timecode || wrapper === 'MP4' || wrapper === 'QuickTime' || wrapper === 'MXF') {
    const asked = timecodeAt(timeline, range.from)
    const start = reading.timecode?.start ?? null
    lines.push(line('starts at', asked, start ?? 'not stated', start === null ? null : same(start, asked)))
  }
  if (sound)
    lines.push(
      line(
        'sound',
        `${sound.codec}, ${kilohertz(sound.sampleRate)}, ${counted(sound.channels, 'channel')}`,
        heard
          ? `${heard.codec}, ${kilohertz(heard.sampleRate ?? 0)}, ${counted(heard.channels ?? 0, 'channel')}`
          : 'none',
        heard !== undefined && heard.sampleRate === sound.sampleRate && heard.channels === sound.channels,
      ),
    )
  else lines.push(line('sound', 'none', heard ? heard.codec : 'none', heard === undefined))
  return lines
}

/** Timecodes, whatever stands before their frames. */
const same = (a: string, b: string): boolean => a.replace(/;/g, ':') === b.replace(/;/g, ':')

/** What is seen and heard in the file beside what was planned. */
export function seenLines(
  { verdicts, levels, colours, sound }: Compared,
  asked: Deliverable['sound'],
): ProofLine[] {
  const of = (verdict: Verdict['verdict']) => verdicts.filter((one) => one.verdict === verdict)
  const [planned, another, unknown] = [of('planned'), of('another'), of('cannot-tell')]
  const least = Math.min(...verdicts.map((one) => one.decibels))
  const wrong = another
    .slice(0, 3)
    .map(({ n, like }) => `frame ${n} is like ${like}`)
    .join('; ')
  const told = [
    `${planned.length} of ${verdicts.length}`,
    unknown.length ? `${unknown.length} cannot be told from those beside them` : '',
    Number.isFinite(least) ? `at least ${figure(least)} dB` : 'no sample differs',
  ].filter(Boolean)
  const lines = [
    line(
      'each frame',
      'the one that was planned',
      another.length
        ? `${counted(another.length, 'frame is', 'frames are')} another: ${wrong}`
        : told.join(', '),
      another.length ? false : planned.length ? true : null,
    ),
    line('levels', 'as planned', levels ? levelWords(levels) : 'one level alone', within(levels, 0, 0.01, 1)),
    line(
      'colours',
      'as planned',
      colours ? levelWords(colours) : 'too little colour',
      within(colours, 128, 0.03, 1.5),
    ),
  ]
  if (!asked || !sound) return lines
  const { lag } = sound
  lines.push(
    line(
      'sound with picture',
      'within 10 ms',
      lag === null
        ? 'too even to tell'
        : `${lag > 0 ? 'late by' : lag < 0 ? 'early by' : 'off by'} ${Math.abs(lag)} ms`,
      lag === null ? null : Math.abs(lag) <= 10,
    ),
    loudnessLine(sound, asked.loudnessLufs),
    lengthLine(sound, asked.codec),
  )
  return lines
}

/** What a codec in blocks may add at both ends: two blocks of AAC and what gets it under way. */
const blocks = 2 * 1024 + 64

function lengthLine({ samples: { planned, found } }: ComparedSound, codec: string): ProofLine {
  const most = codec === 'AAC' || codec === 'Opus' ? blocks : 0
  return line(
    'sound length',
    counted(planned, 'sample'),
    found === null ? 'not stated' : counted(found, 'sample'),
    found === null ? null : Math.abs(found - planned) <= most,
  )
}

/** Loudness may differ by so much, in LU: EBU R 128. */
const nearLoudness = 0.5

/** How loud it is, beside how loud it was to be: that of the cut where no loudness was asked. */
function loudnessLine({ planned, found }: ComparedSound, wanted: number | null): ProofLine {
  const [plan, is] = [planned.integratedLufs, found.integratedLufs]
  const lufs = (value: number | null) =>
    value === null ? 'silent' : `${figure(value).replace('-', '−')} LUFS`
  const reached = plan !== null && wanted !== null && Math.abs(plan - wanted) <= 0.1
  const asked =
    wanted === null
      ? `${lufs(plan)}, as the cut`
      : reached
        ? lufs(wanted)
        : `${lufs(plan)}: its peak lets it be no nearer to ${lufs(wanted)}`
  return line(
    'loudness',
    asked,
    loudnessName(found),
    plan === null || is === null ? plan === is : Math.abs(plan - is) <= nearLoudness,
  )
}

const levelWords = ({ slope, offset }: Levels): string =>
  `times ${figure(slope, 3)}, ${figure(Math.abs(offset))} codes ${offset < -0.05 ? 'down' : 'up'}`

/** Whether values stay, in their slope and where they lie in the middle. @returns null where there are none */
const within = (levels: Levels | null, middle: number, slope: number, codes: number): boolean | null =>
  levels &&
  Math.abs(levels.slope - 1) <= slope &&
  Math.abs(levels.offset + (levels.slope - 1) * middle) <= codes

export const proofOf = (
  { at, file }: Pick<Proof, 'at' | 'file'>,
  lines: readonly ProofLine[],
  compared: Compared,
): Proof => ({
  at,
  file,
  lines,
  holds: lines.every(({ holds }) => holds !== false),
  framesCompared: compared.verdicts.length,
  frames: compared.frames,
})
