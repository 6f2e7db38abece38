import { type Check } from '../check/check'
import { type Clip } from '../edit/clip'
import { formatText, sizeText } from '../format/format'
import { frameToTimecode } from '../rate/timecode'
import { rateWithScan } from '../rate/rate'
import { tollSentence } from '../toll/sentence'
import { figure } from '../words/figures'

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
    frameToTimecode(placement.start, check.format.rate),
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
