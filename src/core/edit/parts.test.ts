import { parseFormat } from '../format/parse'
import { append, newTimeline, placementOf } from './placing'
import { addTimeline } from './operations'
import type { Draft } from './draft'
import { type Clip } from './clip'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { rational } from '../rational/rational'
import { aDoc, aStill, aVideo } from './doc.fixture'
import {
  joinRecording,
  joinStills,
  partAt,
  putTogether,
  splitRecordings,
  stillSequences,
  takeApart,
  timesPlaced,
} from './parts'
import type { Doc } from './project'

interface Recorded {
  readonly at?: string
  readonly code?: string
  readonly format?: string
  readonly seconds?: number
  readonly folder?: string
}
const file = (
  name: string,
  { at, code, format = '1920x1080@25p', seconds = 60, folder = '' }: Recorded,
): Clip => {
  const clip = aVideo(name, format, seconds)
  return {
    ...clip,
    name,
    folder,
    reading: {
      ...clip.reading!,
      recordedAt: at ?? null,
      timecode: code ? { start: code, dropFrame: false } : null,
    },
  }
}
const names = (clips: readonly Clip[]) => splitRecordings(clips).map((run) => run.map((clip) => clip.name))

describe('a recording split over files', () => {
  const follow = (n: number): Recorded => ({ at: `2026-05-01T10:0${n}:00Z` })

  it('is told by the camera, numbers that follow and times that meet', () => {
    const run = [1, 2, 3].map((n) => file(`A00${n}.mp4`, follow(n - 1)))
    expect(names([...run].reverse())).toEqual([['A001.mp4', 'A002.mp4', 'A003.mp4']])
    const coded = [1, 2].map((n) => file(`A00${n}.mp4`, { code: `10:0${n}:00:00` }))
    expect(names(coded)).toEqual([['A001.mp4', 'A002.mp4']])
    // Chapters count in front, and all bear the date of the first.
    const chapters = [1, 2].map((n) =>
      file(`X0${n}0034.mp4`, { at: '2026-05-01T10:00:00Z', code: `10:0${n}:00:00` }),
    )
    expect(names(chapters)).toEqual([['X010034.mp4', 'X020034.mp4']])
  })

  it.each<[string, Clip[]]>([
    ['times that do not meet', [file('A1.mp4', follow(0)), file('A2.mp4', follow(2))]],
    ['no times at all', [file('A1.mp4', {}), file('A2.mp4', {})]],
    ['the same date alone', [file('A1.mp4', follow(0)), file('A2.mp4', follow(0))]],
    ['numbers that do not follow', [file('A1.mp4', follow(0)), file('A3.mp4', follow(1))]],
    ['other names', [file('A1.mp4', follow(0)), file('B2.mp4', follow(1))]],
    ['other folders', [file('A1.mp4', follow(0)), file('A2.mp4', { ...follow(1), folder: 'day 2' })]],
    [
      'another picture',
      [file('A1.mp4', follow(0)), file('A2.mp4', { ...follow(1), format: '1280x720@25p' })],
    ],
    [
      // A camera that counts while it records runs on between takes; its dates tell them apart.
      'timecode that runs on between takes',
      [
        file('A1.mp4', { code: '10:00:00:00', at: '2026-05-01T10:00:00Z' }),
        file('A2.mp4', { code: '10:01:00:00', at: '2026-05-01T11:30:00Z' }),
      ],
    ],
  ])('is not assumed from %s', (_why, clips) => expect(names(clips)).toEqual([]))

  it('is as long as all its files, and knows where each moment lies', () => {
    const run = [0, 1, 2].map((n) => file(`A00${n}.mp4`, follow(n)))
    const clip = joinRecording(run, 'whole')
    expect(clip.reading).toMatchObject({ durationSec: 180, video: { frameCount: 4500 }, sizeBytes: 3000 })
    expect(clip.reading!.notes.at(-1)!.message).toBe('One recording in 3 files, A000.mp4 to A002.mp4.')
    expect(partAt(clip, 1499)).toMatchObject({ part: { name: 'A000.mp4' }, index: 1499 })
    expect(partAt(clip, 1500)).toMatchObject({ part: { name: 'A001.mp4' }, index: 0 })
    expect(partAt(clip, 99_999)).toMatchObject({ part: { name: 'A002.mp4' }, index: 1499 })
    expect(partAt(run[0]!, 3)).toBeNull()
  })
})

describe('numbered stills', () => {
  const still = (name: string): Clip => ({ ...aStill(name), name })
  it('are found by their numbers, whatever the order they came in', () => {
    fc.assert(
      fc.property(fc.shuffledSubarray([7, 8, 9, 10, 11], { minLength: 5 }), (order) => {
        const [run] = stillSequences(order.map((n) => still(`strike_${String(n).padStart(4, '0')}.png`)))
        expect(run!.map((clip) => clip.name)).toEqual(
          [7, 8, 9, 10, 11].map((n) => `strike_${String(n).padStart(4, '0')}.png`),
        )
      }),
    )
    expect(stillSequences([still('a1.png'), still('a2.png')])).toEqual([])
    expect(stillSequences([still('a1.png'), still('a3.png'), still('a5.png')])).toEqual([])
  })

  it('become a clip at the rate that is asked, one still a frame', () => {
    const clip = joinStills(
      [1, 2, 3, 4].map((n) => still(`a${n}.png`)),
      'run',
      rational(12),
    )
    expect(clip.reading).toMatchObject({
      kind: 'video',
      durationSec: 4 / 12,
      video: { rate: { num: 12, den: 1 }, frameCount: 4, scan: 'progressive' },
    })
    for (let frame = 0; frame < 4; frame++) expect(partAt(clip, frame)!.part.name).toBe(`a${frame + 1}.png`)
  })
})

describe('joined clips in a project', () => {
  const begun = (): Draft<Doc> => {
    const run = [0, 1].map((n) => file(`A00${n}.mp4`, { at: `2026-05-01T10:0${n}:00Z` }))
    return aDoc([aVideo('hall', '3840x2160@25p', 4), ...run, aStill('title')])
  }
  it('stand where the first file stood, and come apart to what they were', () => {
    const doc = begun()
    const before = structuredClone(doc)
    const [run] = splitRecordings(Object.values(doc.clips))
    putTogether(doc, joinRecording(run!, 'whole'))
    expect(doc.project.clipOrder).toEqual(['hall', 'whole', 'title'])
    expect(Object.keys(doc.clips).sort()).toEqual(['hall', 'title', 'whole'])
    takeApart(doc, 'whole')
    expect(doc).toEqual(before)
  })

  it('stay together while they are placed', () => {
    const doc = begun()
    const [run] = splitRecordings(Object.values(doc.clips))
    putTogether(doc, joinRecording(run!, 'whole'))
    addTimeline(doc, newTimeline('t', 'Main cut', '', parseFormat('3840x2160@25p')!.format))
    append(doc, 't', [placementOf(doc.clips.whole!, parseFormat('3840x2160@25p')!.format, 'p')])
    expect(timesPlaced(doc, 'whole')).toBe(1)
    takeApart(doc, 'whole')
    expect(doc.clips.whole!.parts).toHaveLength(2)
  })
})
