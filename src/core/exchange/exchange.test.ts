import { describe, expect, it } from 'vitest'
import { checkTimeline } from '../check/check'
import { aDoc, aStill, aVideo } from '../edit/doc.fixture'
import { addTimeline, setProjectFormat } from '../edit/operations'
import { append, newTimeline, placementOf } from '../edit/placing'
import { parseFormat } from '../format/parse'
import { rational } from '../rational/rational'
import { logText } from './log'
import { toOtio } from './otio'
import { readProjectFile, writeProjectFile } from './project-file'
import { tallyRows } from './tally-table'

const film = parseFormat('1920x1080@23.976p')!.format

function cut() {
  const hall = aVideo('hall', '3840x2160@25p', 4)
  hall.reading!.timecode = { start: '10:00:00:00', dropFrame: false }
  const doc = aDoc([hall, aStill('title'), aVideo('bell', '1920x1080@59.94p', 3)])
  setProjectFormat(doc, { at: '2026-05-01T10:00:00Z', setBy: 'typed', format: film, reason: 'as delivered' })
  addTimeline(doc, newTimeline('t', 'Main cut', '2026-05-01T10:01:00Z'))
  append(
    doc,
    't',
    ['hall', 'title', 'bell'].map((id) => placementOf(doc.clips[id]!, film, `p-${id}`)),
  )
  doc.timelines.t!.tracks[0]!.placements[0]!.sourceIn = rational(1)
  doc.timelines.t!.tracks[0]!.placements[2]!.start += 10
  return doc
}

// eslint-disable-next-line @typescript-eslint/no-explicit-any
const otioOf = (doc: ReturnType<typeof cut>) => toOtio(doc, doc.timelines.t!) as any

describe('OpenTimelineIO', () => {
  it('states its schemas and counts time at the exact rates', () => {
    const otio = otioOf(cut())
    expect(otio.OTIO_SCHEMA).toBe('Timeline.1')
    const [video] = otio.tracks.children
    expect([video.OTIO_SCHEMA, video.kind]).toEqual(['Track.1', 'Video'])
    expect(video.children.map((c: { OTIO_SCHEMA: string }) => c.OTIO_SCHEMA)).toEqual([
      'Clip.2',
      'Clip.2',
      'Gap.1',
      'Clip.2',
    ])
    const [hall, title, gap, bell] = video.children
    // An hour-ten start at 25 frames a second, one second in; 4 s last 96 frames of 24000/1001.
    expect(hall.source_range.start_time).toEqual({ OTIO_SCHEMA: 'RationalTime.1', value: 900025, rate: 25 })
    expect(hall.source_range.duration).toEqual({
      OTIO_SCHEMA: 'RationalTime.1',
      value: 96,
      rate: 24000 / 1001,
    })
    expect(hall.media_references.DEFAULT_MEDIA.available_range.duration.value).toBe(100)
    expect(title.source_range.duration.value).toBe(120)
    expect(gap.source_range.duration.value).toBe(10)
    expect(bell.media_references.DEFAULT_MEDIA.available_range.duration).toMatchObject({
      value: 180,
      rate: 60000 / 1001,
    })
  })
})

describe('the tally', () => {
  it('has a line for each placed clip', () => {
    const doc = cut()
    const rows = tallyRows(checkTimeline(doc, doc.timelines.t!)!)
    expect(rows).toHaveLength(4)
    expect(rows[1]!.slice(0, 7)).toEqual([
      'hall.mp4',
      '00:00:00:00',
      '96',
      '3840x2160',
      '25p',
      '1920x1080@23.976p',
      'heavy',
    ])
    expect(rows.every((row) => row.length === rows[0]!.length)).toBe(true)
  })
})

describe('a clip that lies in several files', () => {
  it('is referred to by its first file, the others and the reel told beside it', () => {
    const doc = cut()
    const { hall } = doc.clips
    hall!.reading!.reel = 'FOUNDRY_07'
    const part = (name: string) => ({ ...hall!, id: name, name, folder: 'day 1', reading: hall!.reading! })
    hall!.parts = ['A001.mp4', 'A002.mp4'].map(part)
    const [clip] = otioOf(doc).tracks.children[0].children
    const { target_url, metadata } = clip.media_references.DEFAULT_MEDIA
    expect(target_url).toBe('day%201/A001.mp4')
    expect(metadata).toEqual({
      yard_tally: {
        reel: 'FOUNDRY_07',
        files: [
          { target_url: 'day%201/A001.mp4', seconds: 4 },
          { target_url: 'day%201/A002.mp4', seconds: 4 },
        ],
      },
    })
  })
})

describe('the decision log', () => {
  it('says when, what, from what and why', () => {
    const { project } = cut()
    expect(logText(project.name, project.decisions)).toBe(
      'The Ninth Bell: decisions on the format\n2026-05-01 10:00  1920×1080 · 23.976p (HD), typed. as delivered',
    )
  })
})

describe('the project file', () => {
  it('comes back to the same state', () => {
    const doc = cut()
    expect(readProjectFile(writeProjectFile(doc))).toEqual({ ok: true, doc, putAside: [] })
  })

  const refused = (spoil: (file: Record<string, unknown>) => void) => {
    const file = JSON.parse(writeProjectFile(cut()))
    spoil(file)
    const result = readProjectFile(JSON.stringify(file))
    return result.ok ? 'taken' : result.error
  }
  it.each([
    ['a newer version', (f: Record<string, unknown>) => (f.version = 99), /version 99.*newer/],
    ['another kind', (f: Record<string, unknown>) => (f.kind = 'else'), /not a project/],
    ['a missing part', (f: Record<string, unknown>) => delete f.clips, /damaged at clips/],
    [
      'clips that are not there',
      (f: Record<string, unknown>) => (f.clips = []),
      /listed and not there|not there/,
    ],
  ])('refuses %s, and says why', (_, spoil, reason) => {
    expect(refused(spoil)).toMatch(reason)
  })
  it('refuses what is not JSON', () => {
    expect(readProjectFile('{')).toMatchObject({ ok: false })
  })
})
