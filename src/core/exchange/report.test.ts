import { describe, expect, it } from 'vitest'
import { checkTimeline } from '../check/check'
import { deliverableOf } from '../model/deliverable'
import { aDoc, aVideo } from '../model/doc.fixture'
import { addTimeline } from '../edit/operations'
import { newTimeline, placementOf } from '../edit/placing'
import type { Doc } from '../model/project'
import { parseFormat } from '../format/parse'
import { reportHtml, reportOf } from './report'
import { tableNames, tableRows } from './tables'

const format = (text: string) => parseFormat(text)!.format
const hd = format('1920x1080@25p')

function aProject(): Doc {
  const doc = aDoc([aVideo('hall & pour', '3840x2160@25p', 4), aVideo('tower', '1920x1080@50p', 4)])
  const timeline = newTimeline('t', 'Main cut', '2026-05-01T10:00:00Z', hd)
  const placements = Object.values(doc.clips).map((clip, i) => ({
    ...placementOf(clip, hd, `p${i}`),
    start: i * 100,
  }))
  addTimeline(doc, {
    ...timeline,
    tracks: timeline.tracks.map((t, i) => (i ? t : { ...t, placements })),
  })
  const proof = {
    ...{ at: '2026-05-02T09:30:00Z', file: 'bell.mp4', holds: false, framesCompared: 4, frames: 200 },
    lines: [{ what: 'length', asked: '200 frames', found: '199 frames', holds: false }],
  }
  doc.project.format = hd
  doc.project.decisions = [
    { at: '2026-05-01T09:00:00Z', setBy: 'typed', format: hd, reason: 'most of it is HD' },
  ]
  doc.project.deliverables = [
    { ...deliverableOf('d', 'For the founder', format('1920x1080@50i')), proof },
  ] as never
  return doc
}

describe('a report', () => {
  const report = reportOf(aProject())
  const part = (heading: string) => report.parts.find((reportPart) => reportPart.heading.startsWith(heading))!

  it('has the format and why, the footage, the cut with its tolls, what was found, and what goes out', () => {
    expect(report.parts.map(({ heading }) => heading)).toEqual([
      'Format',
      'Footage: 2 clips',
      'Timeline “Main cut”',
      'Found on “Main cut”',
      'Deliverable “For the founder”',
      'Proof of “For the founder”',
    ])
    expect(part('Format').rows![1]).toEqual([
      '2026-05-01 09:00',
      '1920×1080 · 25p',
      'typed',
      'most of it is HD',
    ])
    expect(part('Timeline').rows!.map(([name]) => name)).toEqual(['clip', 'hall & pour.mp4', 'tower.mp4'])
    expect(part('Deliverable').rows!.find(([name]) => name === 'codec')![1]).toBe('MPEG-2 4:2:2')
    expect(part('Proof').rows!.at(-1)).toEqual(['length', '200 frames', '199 frames', 'differs'])
    expect(part('Proof').says[0]).toContain('differs: length')
  })
  it('leaves out columns in which nothing stands', () => {
    expect(part('Footage').rows![0]).not.toContain('fields')
  })
  it('is one page of HTML in which every word is text', () => {
    const html = reportHtml({ ...report, title: '<b>Bells</b>' })
    expect(html).toContain('<h1>&lt;b&gt;Bells&lt;/b&gt;</h1>')
    expect(html).toContain('hall &amp; pour.mp4')
    expect(html.match(/<section>/g)).toHaveLength(report.parts.length)
    expect(html).not.toMatch(/src=|href=|<script/)
  })
  it('says what is not yet decided', () => {
    const doc = aDoc([])
    expect(reportOf(doc).parts[0]!.says).toEqual(['The project has no format yet.'])
  })
})

describe('tables', () => {
  const doc = aProject()
  const timeline = doc.timelines.t!
  const rows = (name: (typeof tableNames)[number]) =>
    tableRows(name, doc, timeline, checkTimeline(doc, timeline)!)

  it.each(tableNames)('%s have a head, and a cell under each of its words', (name) => {
    const [head, ...lines] = rows(name)
    expect(lines.length).toBeGreaterThan(0)
    for (const line of lines) expect(line).toHaveLength(head!.length)
  })
  it('list every charge with its loss', () => {
    expect(rows('charges').some(([clip, , , , , loss]) => clip === 'tower.mp4' && Number(loss) > 0)).toBe(
      true,
    )
    expect(rows('clips').map(([name]) => name)).toEqual(['clip', 'hall & pour.mp4', 'tower.mp4'])
  })
})
