import { describe, expect, it } from 'vitest'
import { aDoc, aVideo } from '../../core/model/doc.fixture'
import { addTimeline } from '../../core/edit/operations'
import { newTimeline, placementOf } from '../../core/edit/placing'
import type { Doc } from '../../core/model/project'
import { parseFormat } from '../../core/format/parse'
import { burntWords } from './burn-in'

const { format } = parseFormat('1920x1080@25p')!
const doc = aDoc([aVideo('tower', '1920x1080@50p', 4)])
const timeline = {
  ...newTimeline('t', 'Main cut', '2026-05-01T10:00:00Z', format),
  startTimecode: '10:00:00:00',
}
const placed = [{ ...placementOf(doc.clips.tower!, format, 'p'), start: 5, length: 50 }]
addTimeline(doc, {
  ...timeline,
  tracks: timeline.tracks.map((t, i) => (i ? t : { ...t, placements: placed })),
})

describe('what is written into the picture', () => {
  it('is the timecode, and which frame of which source is seen', () => {
    const at = (n: number) => burntWords(doc, doc.timelines.t as never, n)
    expect(at(5)).toEqual(['10:00:00:05', 'tower.mp4 1'])
    expect(at(30)).toEqual(['10:00:01:05', 'tower.mp4 51'])
  })
  it('is the timecode alone in a gap', () => {
    expect(burntWords(doc as Doc, doc.timelines.t as never, 0)).toEqual(['10:00:00:00', ''])
  })
})
