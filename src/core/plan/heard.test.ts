import { describe, expect, it } from 'vitest'
import { parseFormat } from '../format/parse'
import { rational, toNumber } from '../rational/rational'
import { nested, slowed } from '../edit/carrying'
import { counting } from '../edit/cut.fixture'
import { aDoc, aVideo } from '../model/doc.fixture'
import { heardIn } from './heard'
import { addTimeline } from '../edit/operations'
import { newTimeline, placementOf } from '../edit/placing'
import type { Doc } from '../model/project'
import type { Timeline } from '../model/timeline'
import { unnested } from '../edit/nesting'

const format = (text: string) => parseFormat(text)!.format
function placed(): Doc {
  const hd = format('1920x1080@25p')
  const doc = aDoc([aVideo('hall', '1920x1080@25p', 20), aVideo('bell', '1920x1080@50p', 20)])
  addTimeline(doc, newTimeline('t', 'Main cut', '', hd))
  const soundClip = (id: string, start: number, more = {}) => ({
    ...placementOf(doc.clips[id]!, hd, `s-${id}`),
    start,
    length: 50,
    ...more,
  })
  doc.timelines.t!.tracks[1]!.placements = [
    soundClip('hall', 0, { sourceIn: rational(1), gain: -3 }),
    soundClip('bell', 50),
  ] as never
  return doc
}
const wish = (text: string) => ({ format: format(text), origin: null, keepPitch: true })
const making = () => ({ name: 'Outer', at: '', newId: counting() })
const soundsIn = (doc: Doc, timeline: Timeline) =>
  heardIn(doc, timeline).map(({ clip, from, to, sourceSeconds, speed, gain }) => [
    clip.id,
    toNumber(from),
    toNumber(to),
    toNumber(sourceSeconds),
    toNumber(speed),
    gain,
  ])

describe('what is heard', () => {
  it('is each clip for its stretch, from its in-point on; nothing of what is muted', () => {
    const doc = placed()
    const t = doc.timelines.t!
    expect(soundsIn(doc, t)).toEqual([
      ['hall', 0, 2, 1, 1, -3],
      ['bell', 2, 4, 0, 1, 0],
    ])
    const muted = { ...t, tracks: t.tracks.map((track) => ({ ...track, muted: true })) }
    expect(soundsIn(doc, muted)).toEqual([])
  })

  it('of a nested cut is what is heard inside, cut off, slowed and as loud as it is placed', () => {
    const doc = placed()
    const { doc: held, timeline } = nested(doc, doc.timelines.t!, wish('1920x1080@25p'), making())
    expect(soundsIn(held, timeline)).toEqual(soundsIn(doc, doc.timelines.t!))
    const half = {
      kind: 'speed',
      pace: { kind: 'factor', factor: rational(1, 2) },
      wanted: true,
      keepPitch: true,
    } as const
    const trimmed: Timeline = {
      ...timeline,
      tracks: timeline.tracks.map((track) => ({
        ...track,
        placements: track.placements.map((placement) => ({
          ...placement,
          start: 25,
          length: 100,
          sourceIn: rational(1),
          gain: 6,
          treatment: { motion: half },
        })),
      })),
    }
    expect(soundsIn(held, trimmed)).toEqual([
      ['hall', 1, 3, 2, 0.5, 3],
      ['bell', 3, 5, 0, 0.5, 6],
    ])
    expect(heardIn(held, trimmed).every(({ keepPitch }) => keepPitch)).toBe(true)
    // And un-nested it sounds the same.
    const [picture] = trimmed.tracks[0]!.placements
    expect(soundsIn(held, unnested(held, trimmed, picture!.id, counting()))).toEqual(soundsIn(held, trimmed))
  })

  it('of a slowed cut follows it', () => {
    const doc = placed()
    const { doc: after, timeline } = slowed(doc, doc.timelines.t!, wish('1920x1080@24p'), null)
    const [hall] = heardIn(after, timeline)
    expect(hall).toMatchObject({
      from: rational(0),
      sourceSeconds: rational(1),
      speed: rational(24, 25),
      keepPitch: true,
      to: rational(50, 24),
    })
  })
})
