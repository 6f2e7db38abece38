import { clockTime, fileSize } from '../words/figures'
import { type Contradiction, contradictionsOf } from './contradictions'
import { type Measured, measuredOf } from './measured'
import { type Clip } from '../model/clip'
import { toNumber } from '../rational/rational'
import { codecLabel, codecName, rateLabel, uprightSizeName } from './labels'

/** A column of the list: what it shows, how it sorts, and how wide it is. */
export interface Column {
  readonly id: string
  readonly title: string
  readonly width: string
  readonly figures?: boolean
  readonly quiet?: boolean
  readonly text: (clip: Clip) => string
  /** What stands in the row with its shapes in place of the text; empty for the text alone. */
  readonly marks?: (clip: Clip) => readonly Measured[]
  /** What rows are ordered by; numbers before words, nothing last. */
  readonly order: (clip: Clip) => number | string | null
}

const video = (clip: Clip) => clip.reading?.video ?? null
function area(clip: Clip): number | null {
  const picture = video(clip)
  return picture && picture.width * picture.height
}

const nameColumn: Column = {
  id: 'name',
  title: 'clip',
  width: 'minmax(152px, 1.4fr)',
  text: (c) => c.name,
  order: (c) => c.name.toLowerCase(),
}

/** What a contradiction is seen by. */
const seenBy: Readonly<Record<Contradiction['about'], Measured['about']>> = {
  scan: 'scan',
  'field order': 'scan',
  pulldown: 'motion',
  repeats: 'motion',
  bars: 'edges',
}

/** What of a clip's measurements is worth a word in a list: what contradicts its claims, and what is not as it should be. */
function tellingOf(clip: Clip): Measured[] {
  const contradicted = contradictionsOf(clip).map(({ about }) => seenBy[about])
  // Fields that are claimed to be there are no news.
  const isHeld = (kind: Measured['kind']) => kind === 'combed' && clip.reading?.video?.scan === 'interlaced'
  return measuredOf(clip).filter(
    ({ about, kind }) =>
      contradicted.includes(about) ||
      (!['clean', 'no repeats', 'full', 'cannot tell'].includes(kind) && !isHeld(kind)),
  )
}

export const columns: readonly Column[] = [
  nameColumn,
  { id: 'size', title: 'size', width: '80px', figures: true, text: uprightSizeName, order: area },
  {
    id: 'rate',
    title: 'rate',
    width: '70px',
    figures: true,
    text: rateLabel,
    order(c) {
      const rate = video(c)?.rate
      return rate ? toNumber(rate) : null
    },
  },
  {
    id: 'time',
    title: 'time',
    width: '44px',
    figures: true,
    text: (c) => clockTime(c.reading?.durationSec),
    order: (c) => c.reading?.durationSec ?? null,
  },
  {
    id: 'codec',
    title: 'codec',
    width: 'minmax(82px, 0.8fr)',
    text: codecName,
    order: (c) => codecLabel(c).toLowerCase(),
  },
  {
    id: 'profile',
    title: 'profile',
    width: 'minmax(82px, 0.8fr)',
    text: (c) => video(c)?.profile ?? '–',
    order: (c) => video(c)?.profile ?? null,
  },
  {
    id: 'wrapper',
    title: 'wrapper',
    width: '76px',
    quiet: true,
    text: (c) => c.reading?.container ?? '',
    order: (c) => c.reading?.container ?? null,
  },
  {
    id: 'start',
    title: 'starts at',
    width: '90px',
    figures: true,
    quiet: true,
    text: (c) => c.reading?.timecode?.start ?? '–',
    order: (c) => c.reading?.timecode?.start ?? null,
  },
  {
    id: 'scan',
    title: 'scan',
    width: '92px',
    text: (c) => video(c)?.scan ?? '',
    order: (c) => video(c)?.scan ?? null,
  },
  {
    id: 'measured',
    title: 'measured',
    width: 'minmax(150px, 1.2fr)',
    text: measuredText,
    marks: tellingOf,
    order: (c) => (c.evidence ? measuredText(c) : null),
  },
  {
    id: 'depth',
    title: 'bits',
    width: '36px',
    figures: true,
    text: (c) => String(video(c)?.bitDepth ?? '–'),
    order: (c) => video(c)?.bitDepth ?? null,
  },
  {
    id: 'chroma',
    title: 'chroma',
    width: '52px',
    figures: true,
    text: (c) => video(c)?.chroma ?? '–',
    order: (c) => video(c)?.chroma ?? null,
  },
  {
    id: 'colour',
    title: 'colour',
    width: '80px',
    text: (c) => video(c)?.colour.primaries ?? '–',
    order: (c) => video(c)?.colour.primaries ?? null,
  },
  {
    id: 'sound',
    title: 'sound',
    width: '90px',
    text: soundText,
    order: (c) => c.reading?.audio[0]?.sampleRate ?? null,
  },
  {
    id: 'reel',
    title: 'reel',
    width: '70px',
    text: (c) => c.reading?.reel ?? '–',
    order: (c) => c.reading?.reel ?? null,
  },
  {
    id: 'date',
    title: 'recorded',
    width: '92px',
    figures: true,
    quiet: true,
    text: (c) => c.reading?.recordedAt?.slice(0, 10) ?? '–',
    order: (c) => c.reading?.recordedAt ?? null,
  },
  {
    id: 'file',
    title: 'file size',
    width: '66px',
    figures: true,
    quiet: true,
    text: (c) => fileSize(c.sizeBytes),
    order: (c) => c.sizeBytes,
  },
  {
    id: 'folder',
    title: 'folder',
    width: '90px',
    quiet: true,
    text: (c) => c.folder || '–',
    order: (c) => c.folder || null,
  },
]

function measuredText(clip: Clip): string {
  if (clip.reading?.kind !== 'video') return '–'
  if (!clip.evidence) return 'not yet'
  const tellings = tellingOf(clip).map(({ short }) => short)
  const { combing, repeats } = clip.evidence
  const open = combing.verdict === 'cannot-tell' && repeats.verdict === 'cannot-tell'
  return tellings.join(', ') || (open ? 'cannot tell' : 'as claimed')
}

function soundText(clip: Clip): string {
  const sound = clip.reading?.audio[0]
  if (!sound) return '–'
  const { sampleRate, channels, codec } = sound
  const parts = [sampleRate && `${sampleRate / 1000} kHz`, channels && `${channels} ch`].filter(Boolean)
  return parts.join(', ') || codec
}

export const defaultColumns = ['name', 'size', 'rate', 'time', 'codec', 'wrapper', 'measured']
export const columnOf = (id: string): Column => columns.find((column) => column.id === id) ?? nameColumn

export interface Sorting {
  readonly by: string
  readonly down: boolean
}

/** Clips in the order of a column; clips without a value come last, ties keep the order of arrival. */
export function sortedClips(clips: readonly Clip[], sorting: Sorting | null): readonly Clip[] {
  if (!sorting) return clips
  const { order } = columnOf(sorting.by)
  const sign = sorting.down ? -1 : 1
  const keyed = clips.map((clip, i) => ({ clip, i, key: order(clip) }))
  keyed.sort((a, b) => {
    if (a.key === b.key) return a.i - b.i
    if (a.key === null) return 1
    if (b.key === null) return -1
    return (a.key < b.key ? -1 : 1) * sign
  })
  return keyed.map(({ clip }) => clip)
}

/** By what clips can be put together. */
export const groupings = ['size', 'rate', 'codec', 'measured', 'reel', 'date', 'folder'] as const
export type Grouping = (typeof groupings)[number]

export interface Group {
  readonly title: string
  readonly clips: readonly Clip[]
  readonly seconds: number
}

/** Clips put together by a column's text, the group with most running time first. */
export function grouped(clips: readonly Clip[], by: Grouping): Group[] {
  const { text } = columnOf(by)
  const groups = new Map<string, Clip[]>()
  for (const clip of clips) {
    const title = text(clip)
    const group = groups.get(title)
    if (group) group.push(clip)
    else groups.set(title, [clip])
  }
  return [...groups]
    .map(([title, members]) => ({
      title,
      clips: members,
      seconds: members.reduce((sum, clip) => sum + (clip.reading?.durationSec ?? 0), 0),
    }))
    .sort((a, b) => b.seconds - a.seconds || (a.title < b.title ? -1 : 1))
}
