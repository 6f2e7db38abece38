import { checkTimeline } from '../check/check'
import { deliveryCheck } from '../dispatch/delivery-check'
import { settingsSheet } from '../dispatch/sheet'
import { wrapped } from '../dispatch/usual'
import type { Deliverable } from '../model/deliverable'
import { type Doc, clipsOf, formatOf, timelinesOf } from '../model/project'
import { holdsWords, verdictWords } from '../model/proof'
import type { Timeline } from '../model/timeline'
import { formatName, tradeName } from '../format/format'
import { frameToTimecode } from '../rate/timecode'
import { grades } from '../toll/grade'
import { tollSentence } from '../toll/sentence'
import { counted, pays, percent } from '../words/figures'
import { setByWords } from './log'
import { clipRows, findingRows, tallyRows } from './tables'

/** A part of a report: sentences, and a table with its head first. */
export interface ReportPart {
  readonly heading: string
  readonly says: readonly string[]
  readonly rows: readonly (readonly string[])[] | null
}

/** A project on paper: its format and why, its footage, what that pays, what was found, and what goes out. */
export interface Report {
  readonly title: string
  readonly parts: readonly ReportPart[]
}

/** The report of a project. It says nothing that the document does not hold. */
export function reportOf(doc: Doc): Report {
  const { project } = doc
  const clips = clipsOf(doc)
  return {
    title: project.name,
    parts: [
      formatPart(doc),
      { heading: `Footage: ${counted(clips.length, 'clip')}`, says: [], rows: worn(clipRows(clips)) },
      ...timelinesOf(doc).flatMap((timeline) => timelineParts(doc, timeline)),
      ...project.deliverables.flatMap((deliverable) => deliverableParts(doc, deliverable)),
    ],
  }
}

/** A table without the columns in which nothing stands; null where there is no row. */
function worn([head = [], ...rows]: readonly (readonly string[])[]): string[][] | null {
  if (rows.length === 0) return null
  const kept = head.flatMap((_, i) => (rows.some((row) => row[i]) ? [i] : []))
  return [head, ...rows].map((row) => kept.map((i) => row[i] ?? ''))
}

function formatPart({ project }: Doc): ReportPart {
  const { format, decisions } = project
  const trade = format && tradeName(format)
  return {
    heading: 'Format',
    says: [
      format
        ? `The project runs in ${formatName(format)}${trade ? ` (${trade})` : ''}.`
        : 'The project has no format yet.',
    ],
    rows: worn([
      ['decided', 'format', 'from', 'why'],
      ...[...decisions]
        .reverse()
        .map(({ at, format: format, setBy, clip, reason }) => [
          at.slice(0, 16).replace('T', ' '),
          formatName(format),
          clip ? `${setByWords[setBy]}: ${clip}` : setByWords[setBy],
          reason,
        ]),
    ]),
  }
}

function timelineParts(doc: Doc, timeline: Timeline): ReportPart[] {
  const check = checkTimeline(doc, timeline)
  const format = formatOf(doc, timeline)
  const heading = `Timeline “${timeline.name}”`
  if (!check || !format) return [{ heading, says: ['It has no format yet.'], rows: null }]
  const byGrade = grades.filter((grade) => check.countByGrade[grade] > 0)
  return [
    {
      heading,
      says: [
        `${formatName(format)}, ${frameToTimecode(check.frames, format.rate)} long; ${percent(check.untouchedShare)} of ${frameToTimecode(check.placedFrames, format.rate)} of placed pictures untouched.`,
        ...(byGrade.length
          ? [`Placements: ${byGrade.map((grade) => `${check.countByGrade[grade]} ${grade}`).join(', ')}.`]
          : []),
      ],
      rows: worn(tallyRows(check)),
    },
    {
      heading: `Found on “${timeline.name}”`,
      says: [],
      rows: worn(findingRows(doc, timeline, check)),
    },
  ].filter(({ says, rows }) => says.length > 0 || rows !== null)
}

function deliverableParts(doc: Doc, stored: Deliverable): ReportPart[] {
  const deliverable = wrapped(stored)
  const check = deliveryCheck(doc, deliverable)
  const { proof } = stored
  const says = !check
    ? ['It has no timeline yet.']
    : [
        check.same ? 'The same as its timeline.' : `Beyond its timeline: ${check.grade}.`,
        ...check.conversion.map((charge) => `${tollSentence({ ...noToll, charges: [charge] })}.`),
        ...(check.paysMore.length
          ? [`${counted(check.paysMore.length, 'placement')} ${pays(check.paysMore.length)} more.`]
          : []),
        ...check.breaches.map((breach) => breach.says),
      ]
  const sheet = settingsSheet(deliverable, check?.out ?? null)
  const parts: ReportPart[] = [
    {
      heading: `Deliverable “${deliverable.name}”`,
      says,
      rows: worn([['set', 'to', ''], ...sheet.map(({ name, value, note }) => [name, value, note])]),
    },
  ]
  if (proof)
    parts.push({
      heading: `Proof of “${deliverable.name}”`,
      says: [
        `${proof.file}, read back ${proof.at.slice(0, 16).replace('T', ' ')}: ${verdictWords(proof)}; ${proof.framesCompared} of ${counted(proof.frames, 'frame')} compared.`,
      ],
      rows: [
        ['', 'asked', 'found in the file', ''],
        ...proof.lines.map(({ what, asked, found, holds }) => [what, asked, found, holdsWords(holds)]),
      ],
    })
  return parts
}

const noToll = { grade: 'free', loss: 0, untouched: false } as const

const escaped = (text: string): string =>
  text.replace(/[&<>"]/g, (c) => ({ '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' })[c] as string)

/** Black on white, in the fonts of the reader; headings stay with what follows. */
const style = `body{font:13px/1.4 sans-serif;max-width:1100px;margin:2em auto;padding:0 1em;color:#1d2733}
h1{font-size:20px}h2{font-size:15px;margin:1.6em 0 .4em;break-after:avoid}
table{border-collapse:collapse;width:100%}tr{break-inside:avoid}thead{display:table-header-group}
th,td{text-align:left;vertical-align:top;padding:2px 10px 2px 0;border-bottom:1px solid #ccc;font-variant-numeric:tabular-nums}
th{font-weight:600;border-color:#1d2733}@page{margin:15mm}`

/** A report as one HTML file that needs nothing else, to be read and printed. */
export function reportHtml({ title, parts }: Report): string {
  const row = (cells: readonly string[], cell: 'th' | 'td') =>
    `<tr>${cells.map((text) => `<${cell}>${escaped(text)}</${cell}>`).join('')}</tr>`
  const table = ([head = [], ...rows]: readonly (readonly string[])[]) =>
    `<table><thead>${row(head, 'th')}</thead><tbody>${rows.map((cells) => row(cells, 'td')).join('\n')}</tbody></table>`
  const section = ({ heading, says, rows }: ReportPart) =>
    `<section><h2>${escaped(heading)}</h2>${says.map((text) => `<p>${escaped(text)}</p>`).join('')}${rows ? table(rows) : ''}</section>`
  return [
    '<!doctype html><html lang="en"><head><meta charset="utf-8">',
    `<title>${escaped(title)}</title><style>${style}</style></head><body>`,
    `<h1>${escaped(title)}</h1>`,
    ...parts.map(section),
    '</body></html>',
    '',
  ].join('\n')
}
