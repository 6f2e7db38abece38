import { parseFormat } from '../format/parse'
import { append, newTimeline, placementOf } from './placing'
import { addTimeline } from './operations'
import type { Draft } from './draft'
import { type Clip } from '../model/clip'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { rational } from '../rational/rational'
import { corrected } from './correction'
import { aDoc, aStill, aVideo } from '../model/doc.fixture'
import { joinRecording, partAt, putTogether, splitRecordings, takeApart, timesPlaced } from './parts'
import { joinStills, stillSequences } from './numbered'
import { readAgain } from './rereading'
import type { Doc } from '../model/project'

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

describe('two files of one recording', () => {
  const [ten, eleven] = ['2026-05-01T10:00:00Z', '2026-05-01T10:01:00Z']
  const pair = (a: Recorded, b: Recorded, change: (a: Draft<Clip>, b: Draft<Clip>) => void = () => {}) => {
    const both = [file('A1.mp4', a), file('A2.mp4', b)].map((clip) => structuredClone(clip) as Draft<Clip>)
    change(both[0]!, both[1]!)
    return names(both).length === 1
  }

  it('meet by date within two seconds, however the numbers stand', () => {
    const at = (seconds: number) => new Date(Date.parse(ten) + seconds * 1000).toISOString()
    expect([57, 58, 60, 62, 63, 0].map((seconds) => pair({ at: ten }, { at: at(seconds) }))).toEqual([
      false,
      true,
      true,
      true,
      false,
      false,
    ])
    expect(pair({ at: ten }, { at: 'one fine day' })).toBe(false)
    expect(pair({ at: ten }, { at: eleven }, (a) => (a.reading!.durationSec = null))).toBe(false)
    expect(pair({ at: ten }, {})).toBe(false)
    expect(pair({}, { at: eleven })).toBe(false)
  })

  it('meet by timecode to the frame, over midnight too, and a date must not contradict', () => {
    const codes = (a: string, b: string, more: Recorded = {}) => pair({ code: a, ...more }, { code: b })
    expect(codes('10:00:00:00', '10:01:00:00')).toBe(true)
    expect(codes('10:00:00:00', '10:01:00:01')).toBe(true)
    expect(codes('10:00:00:00', '10:00:59:24')).toBe(true)
    expect(codes('10:00:00:00', '10:01:00:02')).toBe(false)
    expect(codes('10:00:00:00', '10:00:59:23')).toBe(false)
    expect(codes('23:59:30:00', '00:00:30:00')).toBe(true)
    expect(codes('23:59:30:00', '00:00:29:24')).toBe(true)
    expect(codes('23:59:30:00', '00:00:30:02')).toBe(false)
    expect(codes('10:00:00:00', '99:99:99:99')).toBe(false)
    expect(codes('99:99:99:99', '10:01:00:00')).toBe(false)
    expect(pair({ code: '10:00:00:00' }, {})).toBe(false)
    expect(
      pair({ code: '10:00:00:00' }, { code: '10:01:00:00' }, (a) => (a.reading!.video!.frameCount = null)),
    ).toBe(false)
    // All files bear the date of the first: the code decides.
    expect(pair({ code: '10:00:00:00', at: ten }, { code: '10:01:00:00', at: ten })).toBe(true)
    expect(pair({ code: '10:00:00:00', at: ten }, { code: '10:05:00:00', at: eleven })).toBe(false)
  })

  it('are single, whole and as they came, and pictures that move at a known rate', () => {
    const follow = (change: (a: Draft<Clip>, b: Draft<Clip>) => void) =>
      pair({ at: ten }, { at: eleven }, change)
    expect(follow(() => {})).toBe(true)
    expect(follow((a) => (a.fault = { code: 'truncated', message: 'Cut off.', offset: 1 } as never))).toBe(
      false,
    )
    expect(follow((_, b) => (b.corrections = { rotation: 180 }))).toBe(false)
    expect(follow((_, b) => (b.reading = null))).toBe(false)
    expect(follow((a) => (a.parts = [{ ...structuredClone(a), reading: a.reading! }] as never))).toBe(false)
    expect(follow((a, b) => [a, b].forEach((clip) => (clip.reading!.video!.rate = null)))).toBe(false)
    expect(follow((a, b) => [a, b].forEach((clip) => (clip.reading!.video = null)))).toBe(false)
    expect(follow((a, b) => [a, b].forEach((clip) => (clip.reading!.kind = 'still')))).toBe(false)
    // Counts and measured rates belong to one file alone.
    expect(
      follow((a) => Object.assign(a.reading!.video!, { frameCount: 1497, minRate: 24, meanRate: 24.9 })),
    ).toBe(true)
    expect(follow((a) => (a.reading!.reel = 'FOUNDRY_07'))).toBe(false)
    expect(follow((a) => (a.reading!.container = 'QuickTime'))).toBe(false)
  })

  it('are found in runs, each file once, the longest run first', () => {
    const at = (minute: number) => `2026-05-01T10:${String(minute).padStart(2, '0')}:00Z`
    const clips = [
      ...[1, 2].map((n) => file(`B${n}.mp4`, { at: at(30 + n) })),
      ...[1, 2, 3].map((n) => file(`A${n}.mp4`, { at: at(n) })),
      file('A4.mp4', { at: at(9) }),
      file('A5.mp4', { at: at(10) }),
      file('A7.mp4', { at: at(11) }),
      file('noise.mp4', { at: at(1) }),
    ]
    expect(names(clips)).toEqual([
      ['A1.mp4', 'A2.mp4', 'A3.mp4'],
      ['A4.mp4', 'A5.mp4'],
      ['B1.mp4', 'B2.mp4'],
    ])
    // Numbers as long as times of day in nanoseconds count nothing; twelve digits still do.
    const long = (digits: string) => [1, 2].map((n) => file(`A${digits}${n}.mp4`, { at: at(n) }))
    expect(names(long('00000000000'))).toHaveLength(1)
    expect(names(long('000000000000'))).toEqual([])
    // Two digits in front are a chapter only where a number of its own follows.
    expect(names([file('X01034.mp4', { at: at(1) }), file('X02034.mp4', { at: at(2) })])).toHaveLength(1)
    expect(names([file('X0103.mp4', { at: at(1) }), file('X0203.mp4', { at: at(2) })])).toHaveLength(1)
    expect(names([file('X013.mp4', { at: at(1) }), file('X023.mp4', { at: at(2) })])).toEqual([])
  })

  it('are as long as both only where both say how long they are', () => {
    const [a, b] = [file('A1.mp4', { at: ten }), file('A2.mp4', { at: eleven })]
    const silent = {
      ...b,
      reading: { ...b.reading!, durationSec: null, video: { ...b.reading!.video!, frameCount: null } },
    }
    expect(joinRecording([a, silent], 'whole').reading).toMatchObject({
      durationSec: null,
      video: { frameCount: null },
    })
    expect(joinRecording([a], 'whole')).toMatchObject({ name: 'A1.mp4', sizeBytes: 1000, hash: null })
    expect(joinRecording([a, b], 'whole')).toMatchObject({ name: 'A1.mp4 +1', id: 'whole', sizeBytes: 2000 })
    expect(() => joinRecording([], 'whole')).toThrow(/at least one/)
    // A file of which nobody knows how many frames it has holds all that is left.
    const joined = joinRecording([silent, a], 'whole')
    expect(partAt(joined, 1e6)).toMatchObject({ part: { name: 'A2.mp4' }, index: 1e6 })
    const reckoned = { ...silent, reading: { ...silent.reading, durationSec: 2 } }
    expect(partAt(joinRecording([reckoned, a], 'whole'), 50)).toMatchObject({
      part: { name: 'A1.mp4' },
      index: 0,
    })
    expect(partAt(joined, -3)).toMatchObject({ part: { name: 'A2.mp4' }, index: 0 })
  })

  it('of a variable rate list their frames one after the other, on one clock', () => {
    const times = (presentationTimes: number[], end: number, clock = rational(1000)) => ({
      clock,
      presentationTimes,
      end,
    })
    const varied = (clip: Clip, frameTimes: Clip['frameTimes']): Clip => ({
      ...clip,
      frameTimes,
      reading: { ...clip.reading!, video: { ...clip.reading!.video!, rateMode: 'variable' } },
    })
    const [a, b] = [file('A1.mp4', { at: ten }), file('A2.mp4', { at: eleven })]
    const joined = (first: Clip['frameTimes'], second: Clip['frameTimes']) =>
      joinRecording([varied(a, first), varied(b, second)], 'whole')
    const clip = joined(times([0, 30, 70], 100), times([0, 50], 90))
    expect(clip.frameTimes).toEqual(times([0, 30, 70, 100, 150], 190))
    expect(partAt(clip, 2)).toMatchObject({ part: { name: 'A1.mp4' }, index: 2 })
    expect(partAt(clip, 3)).toMatchObject({ part: { name: 'A2.mp4' }, index: 0 })
    expect(joined(times([0, 30], 60), null).frameTimes).toBeNull()
    expect(joined(null, times([0, 30], 60)).frameTimes).toBeNull()
    expect(joined(null, null).frameTimes).toBeNull()
    expect(joined(times([0, 30], 60), times([0, 30], 60, rational(90_000))).frameTimes).toBeNull()
    const steady = { ...a, frameTimes: times([0, 40], 80) }
    expect(joinRecording([steady, { ...b, frameTimes: times([0, 40], 80) }], 'whole').frameTimes).toBeNull()
  })
})

describe('numbered stills', () => {
  const still = (name: string): Clip => ({ ...aStill(name), name })
  it('are alike in picture, read whole, and three at least', () => {
    const three = (change: (clip: Draft<Clip>) => void) => {
      const run = ['a1.png', 'a2.png', 'a3.png'].map((name) => structuredClone(still(name)) as Draft<Clip>)
      change(run[1]!)
      return stillSequences(run).length
    }
    expect(three(() => {})).toBe(1)
    expect(three((clip) => (clip.reading!.video!.width = 1920))).toBe(0)
    expect(three((clip) => (clip.reading!.video!.alpha = false))).toBe(0)
    expect(three((clip) => (clip.reading!.video!.codec = 'JPEG'))).toBe(0)
    expect(three((clip) => (clip.reading = null))).toBe(0)
    expect(three((clip) => (clip.reading!.video = null))).toBe(0)
    expect(three((clip) => (clip.reading!.kind = 'video'))).toBe(0)
    expect(three((clip) => (clip.corrections = { rotation: 180 }))).toBe(0)
    // What is in one run is in no other: a number each in two places.
    const both = [1, 2, 3, 4].map((n) => still(`take1_${n}.png`))
    const other = [2, 3].map((n) => still(`take${n}_1.png`))
    expect(stillSequences([...both, ...other]).map((run) => run.length)).toEqual([4])
  })
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
    )!
    expect(clip.reading).toMatchObject({
      kind: 'video',
      durationSec: 4 / 12,
      video: { rate: { num: 12, den: 1 }, frameCount: 4, scan: 'progressive' },
    })
    expect(clip).toMatchObject({
      name: 'a1–4.png',
      sizeBytes: 4000,
      frameTimes: null,
      reading: { sizeBytes: 4000, video: { rateMode: 'constant', fieldOrder: null } },
    })
    expect(clip.reading!.notes.at(-1)!.message).toBe(
      '4 numbered pictures, a1.png to a4.png, at 12 frames a second, which their headers do not state.',
    )
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
    append(doc, 't', [placementOf(doc.clips.hall!, parseFormat('3840x2160@25p')!.format, 'q')])
    expect([timesPlaced(doc, 'whole'), timesPlaced(doc, 'title')]).toEqual([1, 0])
    takeApart(doc, 'whole')
    expect(doc.clips.whole!.parts).toHaveLength(2)
    const before = structuredClone(doc)
    takeApart(doc, 'hall')
    takeApart(doc, 'nobody')
    expect(doc).toEqual(before)
  })
})

describe('a file that changed on disk', () => {
  it('is read again under its name, with what was corrected', () => {
    const was = corrected(aVideo('take', '1920x1080@25p', 10), { rate: rational(24) })
    const by = readAgain(was, new Map([['take', aVideo('other', '3840x2160@25p', 12)]]))!
    expect([by.id, by.reading!.video!.width, by.reading!.video!.rate, by.corrections]).toEqual([
      'take',
      3840,
      rational(24),
      was.corrections,
    ])
  })

  it('is a recording again with its other files, unless it cannot be read', () => {
    const files = [1, 2].map((n) => aVideo(`A${n}`, '1920x1080@25p', 20))
    const whole = joinRecording(files, 'whole')
    const longer = readAgain(whole, new Map([['A2', aVideo('new', '1920x1080@25p', 30)]]))!
    expect([longer.id, longer.parts.map(({ id }) => id), longer.reading!.durationSec]).toEqual([
      'whole',
      ['A1', 'A2'],
      50,
    ])
    const broken = { ...aVideo('new', '1920x1080@25p', 30), reading: null }
    expect(readAgain(whole, new Map([['A2', broken]]))).toBeNull()
  })
})
