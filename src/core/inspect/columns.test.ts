import { describe, expect, it } from 'vitest'
import { withEvidence } from '../edit/correction'
import { aStill, aVideo } from '../model/doc.fixture'
import type { Evidence } from '../evidence/evidence'
import { combedEvidence, evidenceWith } from '../evidence/evidence.fixture'
import { columnOf, grouped, sortedClips } from './columns'
import { matches } from './filter'

const clips = [
  aVideo('pour', '1920x1080@50p', 4),
  aStill('title'),
  aVideo('hall', '3840x2160@25p', 12),
  aVideo('archive', '720x576/64:45@50i', 3),
]
const ids = (list: readonly { id: string }[]) => list.map((clip) => clip.id)

describe('the list of arrivals', () => {
  it('sorts by any fact, with clips that lack it last in both directions', () => {
    expect(ids(sortedClips(clips, null))).toEqual(['pour', 'title', 'hall', 'archive'])
    expect(ids(sortedClips(clips, { by: 'name', down: false }))).toEqual(['archive', 'hall', 'pour', 'title'])
    expect(ids(sortedClips(clips, { by: 'time', down: true }))).toEqual(['hall', 'pour', 'archive', 'title'])
    expect(ids(sortedClips(clips, { by: 'rate', down: false }))).toEqual(['hall', 'archive', 'pour', 'title'])
    expect(ids(sortedClips(clips, { by: 'rate', down: true }))).toEqual(['pour', 'hall', 'archive', 'title'])
  })
  it('groups by a fact, most running time first', () => {
    const groups = grouped(clips, 'size')
    expect(groups.map((g) => [g.title, g.clips.length, g.seconds])).toEqual([
      ['3840×2160', 1, 12],
      ['1920×1080', 1, 4],
      ['720×576', 1, 3],
      ['1280×720', 1, 0],
    ])
  })
  it('finds by name and by facts, all words at once', () => {
    const found = (query: string) => ids(clips.filter((clip) => matches(clip, query, null)))
    expect(found('50')).toEqual(['pour', 'archive'])
    expect(found('interlaced')).toEqual(['archive'])
    expect(found('h.264 3840x2160')).toEqual(['hall'])
    expect(found('alpha')).toEqual(['title'])
    expect(found('alpha 50p')).toEqual([])
  })
})

describe('what is measured, in a list', () => {
  it('is never “as claimed” where the picture contradicts a claim', () => {
    const seen = (text: string, change: Partial<Evidence>) =>
      withEvidence(aVideo('bell', text, 4), evidenceWith(change))
    const words = columnOf('measured').text
    expect(words(seen('1920x1080@25p', {}))).toBe('as claimed')
    const whole = seen('1920x1080@50i', { fieldOrder: { verdict: 'progressive', confidence: 0.9 } })
    expect(words(whole)).toBe('whole frames')
    expect(matches(whole, 'contradicts', null)).toBe(true)
    const other = seen('1920x1080@50i', combedEvidence('bottom-first'))
    expect(words(other)).toContain('bottom first')
  })
})
