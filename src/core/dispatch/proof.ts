import type { Deliverable } from '../model/deliverable'
import type { Proof, ProofLine } from '../model/proof'
import { type Timeline, timecodeAt } from '../model/timeline'
import { formatName } from '../format/format'
import { equal, toNumber } from '../rational/rational'
import { canDropFrame } from '../rate/timecode'
import { matricesDiffer, matrixOf } from '../picture/colour'
import type { Reading, VideoFacts } from '../reading/reading'
import { rateWithScan } from '../rate/rate'
import { type Loudness, loudnessName } from '../sound/loudness'
import { counted, figure, kilohertz, ratio, spaced } from '../words/figures'
import { codecOf, holdsTimecode, wrapperNamed } from './codecs'
import type { Verdict } from './likeness'
import type { SoundVerdict } from './sound-likeness'

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
  /** Stretch by stretch, from the first to the last. */
  readonly verdicts: readonly SoundVerdict[]
  readonly planned: Loudness
  readonly found: Loudness
  /** Samples of one channel: as the wrapper states them, or counted. */
  readonly samples: { readonly planned: number; readonly found: number }
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
        (found?.bitDepth === null ||
          namedByProfile.has(found?.codec ?? '') ||
          found?.bitDepth === profile?.bitDepth),
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
        found.rateMode !== 'variable' &&
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
  lines.push(...colourLines(deliverable, found))
  const named = wrapperNamed(wrapper)
  if (reading.timecode || (named && holdsTimecode.has(named))) {
    const asked = timecodeAt(timeline, range.from)
    const drops = timeline.dropFrame && canDropFrame(format.rate)
    const start = reading.timecode?.start ?? null
    const counts = (dropped: boolean) =>
      canDropFrame(format.rate) ? (dropped ? ', drop-frame' : ', non-drop') : ''
    lines.push(
      line(
        'starts at',
        `${asked}${counts(drops)}`,
        start === null ? 'no timecode' : `${start}${counts(reading.timecode?.dropFrame ?? false)}`,
        start !== null &&
          same(start, asked) &&
          (!canDropFrame(format.rate) || reading.timecode?.dropFrame === drops),
      ),
    )
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

/** Codecs whose stream has no depth: what is found is the most that the name of its profile stands for. */
const namedByProfile: ReadonlySet<string> = new Set(['ProRes'])

/** What the samples of the picture are said to mean, each by itself: what a file does not state is not told apart. */
function colourLines({ format }: Deliverable, found: VideoFacts | null): ProofLine[] {
  const { primaries, transfer } = format.colour
  const matrix = matrixOf(format, { primaries })
  const colour = found?.colour ?? null
  const lineOf = (
    what: string,
    asked: string,
    is: string | null,
    holds = is === null ? null : is === asked,
  ) => line(what, asked.toUpperCase(), is?.toUpperCase() ?? 'not stated', holds)
  const foundMatrix = colour?.matrix ?? null
  return [
    lineOf('colour primaries', primaries, colour?.primaries ?? null),
    lineOf('transfer', transfer, colour?.transfer ?? null, sameTransfer(transfer, colour?.transfer ?? null)),
    lineOf('matrix', matrix, foundMatrix, foundMatrix === null ? null : !matricesDiffer(matrix, foundMatrix)),
    // Limited range is what a file means that does not say (ITU-T H.264, E.2.1).
    line('range', 'limited', colour?.range ?? 'not stated, which means limited', colour?.range !== 'full'),
  ]
}

/** BT.601, BT.709 and BT.2020 have one curve under several names (ITU-T H.273, table 3). */
function sameTransfer(asked: string, found: string | null): boolean | null {
  if (found === null) return null
  const curve = (name: string) =>
    ['bt709', 'bt601', 'bt2020-10', 'bt2020-12'].includes(name) ? 'bt709' : name
  return curve(asked) === curve(found)
}

/** Timecodes, whatever stands before their frames. */
const same = (a: string, b: string): boolean => a.replace(/;/g, ':') === b.replace(/;/g, ':')

/** What is seen and heard in the file beside what was planned. */
export function seenLines(
  { verdicts, levels, colours, sound }: Compared,
  asked: Deliverable['sound'],
): ProofLine[] {
  const verdictsOf = (verdict: Verdict['verdict']) =>
    verdicts.filter((candidate) => candidate.verdict === verdict)
  const [planned, another, unknown] = [
    verdictsOf('planned'),
    verdictsOf('another'),
    verdictsOf('cannot-tell'),
  ]
  const figures = verdicts.map((verdict) => verdict.decibels)
  const least = Math.min(...figures)
  const meanSquare =
    figures.reduce((sum, value) => sum + 10 ** (-value / 10), 0) / Math.max(1, figures.length)
  const wrong = another
    .slice(0, 3)
    .map(({ n, like }) => `frame ${n} is like ${like}`)
    .join('; ')
  const sentences = [
    `${planned.length} of ${verdicts.length}`,
    unknown.length ? `${unknown.length} cannot be told from those beside them` : '',
    Number.isFinite(least)
      ? `full size: ${figure(least)} dB at least, ${figure(-10 * Math.log10(meanSquare))} dB in the mean`
      : 'no sample differs',
  ].filter(Boolean)
  const lines = [
    line(
      'each frame',
      'the one that was planned',
      another.length
        ? `${counted(another.length, 'frame is', 'frames are')} another: ${wrong}`
        : sentences.join(', '),
      another.length ? false : unknown.length || planned.length === 0 ? null : true,
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
  lines.push(
    soundLine(sound.verdicts),
    loudnessLine(sound, asked.loudnessLufs),
    lengthLine(sound, asked.codec),
  )
  return lines
}

/** So many milliseconds sound may be off its picture. */
const mostLate = 10

/** Whether what is heard is what was planned, when it was: the worst of its stretches. */
function soundLine(verdicts: readonly SoundVerdict[]): ProofLine {
  const verdictsOf = <Kind extends SoundVerdict['kind']>(kind: Kind) =>
    verdicts.filter(
      (soundVerdict): soundVerdict is Extract<SoundVerdict, { kind: Kind }> => soundVerdict.kind === kind,
    )
  const stretches = (count: number) => `in ${count} of ${counted(verdicts.length, 'stretch', 'stretches')}`
  const reading = (found: string, holds: boolean | null) =>
    line('sound with picture', `the one planned, within ${mostLate} ms`, found, holds)
  if (verdictsOf('swapped').length)
    return reading(`channels swapped ${stretches(verdictsOf('swapped').length)}`, false)
  if (verdictsOf('silent').length) return reading(`silent ${stretches(verdictsOf('silent').length)}`, false)
  if (verdictsOf('another').length)
    return reading(`another sound ${stretches(verdictsOf('another').length)}`, false)
  if (verdictsOf('not-silent').length)
    return reading(`sound where silence is planned ${stretches(verdictsOf('not-silent').length)}`, false)
  const same = verdictsOf('same')
  const worst = same.reduce(
    (late, verdict) => (Math.abs(verdict.lateMs) > Math.abs(late) ? verdict.lateMs : late),
    0,
  )
  if (same.length === 0)
    return reading(
      verdictsOf('quiet').length ? 'silent, as planned' : 'too short to tell',
      verdictsOf('quiet').length ? true : null,
    )
  const found = `${worst > 0 ? 'late by' : worst < 0 ? 'early by' : 'off by'} ${Math.abs(worst)} ms at most`
  return reading(found, Math.abs(worst) <= mostLate)
}

/** What a codec in blocks may add at both ends: two blocks of AAC and what gets it under way. */
const blocks = 2 * 1024 + 64

function lengthLine({ samples: { planned, found } }: ComparedSound, codec: string): ProofLine {
  const most = codec === 'AAC' || codec === 'Opus' ? blocks : 0
  return line(
    'sound length',
    counted(planned, 'sample'),
    counted(found, 'sample'),
    Math.abs(found - planned) <= most,
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
