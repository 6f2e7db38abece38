import { type Check } from '../check/check'
import { oddities } from '../inspect/marks'
import { findingGroups } from '../check/findings'
import { type Clip } from '../model/clip'
import { formatText, sizeText } from '../format/format'
import { rateWithScan } from '../rate/rate'
import { type Doc, clipsOf } from '../model/project'
import type { Timeline } from '../model/timeline'
import { sentence, shortWords, tollSentence } from '../toll/sentence'
import { figure, ratio, spaced } from '../words/figures'

/** The tally of a timeline as rows of a table, head first: what is placed, and what each clip pays. */
export function tallyRows(check: Check): string[][] {
  const head = [
    'clip',
    'starts at',
    'frames',
    'source size',
    'source rate',
    'timeline format',
    'grade',
    'loss',
    'charges',
  ]
  const rows = check.findings.map(({ clip, name, placement, toll }) => [
    name,
    check.timecode(placement.start),
    String(placement.length),
    ...sizeAndRate(clip),
    formatText(check.format),
    toll.grade,
    figure(toll.loss, 4),
    tollSentence(toll),
  ])
  return [head, ...rows]
}

function sizeAndRate(clip: Clip | null): [string, string] {
  const video = clip?.reading?.video
  if (!video) return ['', '']
  return [sizeText(video), video.rate ? rateWithScan(video.rate, video.scan) : 'still']
}

/** Clips as rows of a table, head first: what each is, and what is odd about it. */
export function clipRows(clips: readonly Clip[]): string[][] {
  const head = ['clip', 'wrapper', 'size', 'pixels', 'rate', 'fields', 'codec', 'seconds', 'sound', 'odd']
  const rows = clips.map(({ name, reading, fault }) => {
    const video = reading?.video
    const sound = (reading?.audio ?? []).map(({ codec, sampleRate, channels }) =>
      [codec, sampleRate && `${sampleRate / 1000} kHz`, channels && `${channels} ch`]
        .filter(Boolean)
        .join(' '),
    )
    return [
      name,
      reading?.container ?? '',
      video ? `${video.width}×${video.height}` : '',
      video ? ratio(video.pixelAspect) : '',
      video?.rate ? rateWithScan(video.rate, video.scan) : video ? 'still' : '',
      video?.fieldOrder ? spaced(video.fieldOrder) : '',
      [video?.codec, video?.profile].filter(Boolean).join(' '),
      reading?.durationSec === null || !reading ? '' : figure(reading.durationSec, 2),
      sound.join(', '),
      fault?.message ??
        (reading
          ? oddities(reading)
              .map((mark) => mark.sentence)
              .join(' ')
          : ''),
    ]
  })
  return [head, ...rows]
}

/** Every charge of every placement as a row, head first. */
export function chargeRows({ findings, timecode }: Check): string[][] {
  const rows = findings.flatMap(({ name, placement, toll }) =>
    toll.charges.map((charge) => [
      name,
      timecode(placement.start),
      String(placement.length),
      charge.kind,
      charge.grade,
      figure(charge.loss, 4),
      shortWords(charge),
      sentence(charge),
    ]),
  )
  return [['clip', 'starts at', 'frames', 'charge', 'grade', 'loss', 'in short', 'what happens'], ...rows]
}

/** What is found on a timeline, by kind, as rows, head first. */
export function findingRows(doc: Doc, timeline: Timeline, check: Check): string[][] {
  const rows = findingGroups(doc, timeline, check).map(
    ({ title, grade, frames, says, cure, accepted, placements }) => [
      title,
      grade,
      String(placements.length),
      String(frames),
      says,
      cure?.does ?? '',
      accepted === null ? '' : accepted || 'accepted',
    ],
  )
  return [
    ['finding', 'grade', 'placements', 'frames', 'the worst of them', 'what helps', 'accepted'],
    ...rows,
  ]
}

/** What is listed in tables. */
export const tableNames = ['placements', 'clips', 'findings', 'charges'] as const
export type TableName = (typeof tableNames)[number]

/** A table of a timeline and its project by its name, head first. */
export function tableRows(name: TableName, doc: Doc, timeline: Timeline, check: Check): string[][] {
  switch (name) {
    case 'placements':
      return tallyRows(check)
    case 'clips':
      return clipRows(clipsOf(doc))
    case 'findings':
      return findingRows(doc, timeline, check)
    case 'charges':
      return chargeRows(check)
  }
}
