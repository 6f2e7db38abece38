import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { counting } from '../edit/cut.fixture'
import { aDoc, aVideo } from '../model/doc.fixture'
import { addTimeline } from '../edit/operations'
import { newTimeline } from '../edit/placing'
import type { Doc } from '../model/project'
import type { Placement, Timeline } from '../model/timeline'
import { parseFormat } from '../format/parse'
import { rational } from '../rational/rational'
import { toEdl } from './edl'
import { fromEdl } from './edl-read'
import { readProjectFile, writeProjectFile } from '../stored/project-file'

const { format } = parseFormat('1920x1080@25p')!
const making = () => ({ name: 'Taken in', at: '2026-06-02T08:00:00Z', newId: counting() })

/** A clip with a start of its own. */
function stamped(id: string, text: string, start: string) {
  const clip = aVideo(id, text, 600)
  return { ...clip, reading: { ...clip.reading!, timecode: { start, dropFrame: false } } }
}
const clips = () => [
  stamped('hall', '3840x2160@25p', '10:04:12:00'),
  stamped('bell', '1920x1080@50p', '14:10:00:00'),
  stamped('pour', '1920x1080@25p', '00:00:00:00'),
]
const placement = (
  id: string,
  clipId: string,
  { start, length, sourceIn }: Record<'start' | 'length' | 'sourceIn', number>,
  more: Partial<Placement> = {},
): Placement => ({
  id,
  source: { kind: 'clip', clipId },
  start,
  length,
  sourceIn: rational(sourceIn, 25),
  treatment: {},
  framingByShape: {},
  gain: 0,
  channels: null,
  pairId: null,
  ...more,
})
function aCut(
  pictures: readonly Placement[],
  sounds: readonly Placement[] = [],
  above: readonly Placement[] = [],
): Doc {
  const doc = aDoc(clips())
  doc.project.format = format
  const timeline = newTimeline('t', 'Main cut', '2026-05-01T10:00:00Z', null)
  const [video, audio] = timeline.tracks as [
    (typeof timeline.tracks)[number],
    (typeof timeline.tracks)[number],
  ]
  addTimeline(doc, {
    ...timeline,
    rate: format.rate,
    startTimecode: '01:00:00:00',
    tracks: [
      { ...video, placements: pictures },
      ...(above.length ? [{ ...video, id: 'v2', name: 'V2', placements: above }] : []),
      { ...audio, placements: sounds },
    ],
  })
  return doc
}
const written = (doc: Doc) => toEdl(doc, doc.timelines.t!)
const read = (text: string, doc = aCut([])) => {
  const result = fromEdl(text, doc, making())
  if (!result.ok) throw new Error(result.error)
  return result
}
const cutOf = (placements: readonly Placement[]) =>
  placements.map(({ source, start, length, sourceIn, treatment }) => ({
    source,
    start,
    length,
    sourceIn,
    treatment,
  }))

const list = (...lines: string[]) => ['TITLE: x', 'FCM: NON-DROP FRAME', ...lines].join('\n')
/** What stands on the first track: the clip, its start and length in frames, its in-point in seconds. */
const stands = ({ tracks }: Timeline) =>
  tracks[0]!.placements.map(({ source, start, length, sourceIn }) => [
    source.kind === 'clip' ? source.clipId : null,
    start,
    length,
    sourceIn.num / sourceIn.den,
  ])
/** The same project at 29.97. */
function at30(): Doc {
  const doc = aCut([])
  return {
    ...doc,
    project: { ...doc.project, format: parseFormat('1920x1080@29.97p')!.format, timelineOrder: [] },
    timelines: {},
  }
}

describe('an edit decision list that goes out', () => {
  it('has an event for each picture, with its sound where they are paired', () => {
    const pair = { pairId: 'pair' }
    const doc = aCut(
      [
        placement('a', 'hall', { start: 0, length: 50, sourceIn: 25 }, pair),
        placement('b', 'bell', { start: 50, length: 25, sourceIn: 0 }),
      ],
      [
        placement('s', 'hall', { start: 0, length: 50, sourceIn: 25 }, pair),
        placement('x', 'pour', { start: 100, length: 10, sourceIn: 0 }),
      ],
    )
    expect(written(doc).text.split('\n')).toEqual([
      'TITLE: Main cut',
      'FCM: NON-DROP FRAME',
      '001  HALL     AA/V  C        10:04:13:00 10:04:15:00 01:00:00:00 01:00:02:00',
      '* FROM CLIP NAME: hall.mp4',
      '002  BELL     V     C        14:10:00:00 14:10:01:00 01:00:02:00 01:00:03:00',
      '* FROM CLIP NAME: bell.mp4',
      '003  POUR     AA    C        00:00:00:00 00:00:00:10 01:00:04:00 01:00:04:10',
      '* FROM CLIP NAME: pour.mp4',
      '',
    ])
  })
  it('says speeds, and what it leaves out', () => {
    const half = {
      motion: {
        kind: 'speed',
        pace: { kind: 'factor', factor: rational(1, 2) },
        wanted: true,
        keepPitch: false,
      },
    } as const
    const doc = aCut(
      [
        placement(
          'a',
          'hall',
          { start: 0, length: 50, sourceIn: 0 },
          { treatment: { ...half, framing: { zoom: rational(2) } }, gain: 3 },
        ),
      ],
      [],
      [placement('o', 'pour', { start: 10, length: 20, sourceIn: 0 })],
    )
    const { text, leavesOut } = written(doc)
    expect(text).toContain('001  HALL     V     C        10:04:12:00 10:04:13:00 01:00:00:00 01:00:02:00')
    expect(text).toContain('M2   HALL     012.5                10:04:12:00')
    expect(leavesOut).toEqual([
      '1 picture on tracks above the first: pour.mp4 at 01:00:00:10',
      'framing, fields, motion or colour of 1 placement',
      'gain of 1 placement',
    ])
  })
})

describe('an edit decision list that comes in', () => {
  it('is the cut that went out, where a list can say it', () => {
    const events = fc.array(
      fc.record({
        clip: fc.constantFrom('hall', 'pour'),
        gap: fc.nat(40),
        length: fc.integer({ min: 1, max: 400 }),
        sourceIn: fc.nat(5000),
        speed: fc.constantFrom(null, rational(1, 2), rational(2)),
        sounds: fc.boolean(),
      }),
      { minLength: 1, maxLength: 12 },
    )
    fc.assert(
      fc.property(events, (drawn) => {
        let end = 0
        const pictures = drawn.map(({ clip, gap, length, sourceIn, speed, sounds }, i) => {
          const start = end + (i ? gap : 0)
          end = start + length
          const motion =
            speed &&
            ({
              kind: 'speed',
              pace: { kind: 'factor', factor: speed },
              wanted: true,
              keepPitch: false,
            } as const)
          return placement(
            `p${i}`,
            clip,
            { start, length, sourceIn },
            {
              treatment: motion ? { motion } : {},
              pairId: sounds ? `pair ${i}` : null,
            },
          )
        })
        const sounds = pictures
          .filter(({ pairId }) => pairId)
          .map((placement) => ({ ...placement, id: `${placement.id} sound` }))
        const doc = aCut(pictures, sounds)
        const { timeline, notes } = read(written(doc).text, doc)
        expect([timeline.name, timeline.startTimecode, notes]).toEqual(['Main cut', '01:00:00:00', []])
        expect(timeline.tracks.map(({ placements }) => cutOf(placements))).toEqual([
          cutOf(pictures),
          cutOf(sounds),
        ])
      }),
      { numRuns: 100 },
    )
  })
  it('is read as others write it: black, dissolves, notes, drop-frame', () => {
    const { timeline, notes } = read(
      [
        'TITLE:  Second casting',
        'FCM: NON-DROP FRAME',
        '',
        '000001 BL       V     C                 00:00:00:00 00:00:01:00 10:00:00:00 10:00:01:00',
        '000002 HALL     V     C                 10:04:12:00 10:04:14:00 10:00:01:00 10:00:03:00',
        '* A WORD ABOUT IT',
        '003  POUR     B     D    025         00:00:10:00 00:00:12:00 10:00:03:00 10:00:05:00',
        '* TO CLIP NAME: pour.mp4',
        'M2   POUR     -025.0                00:00:10:00',
        '004  STRANGER V     C        00:00:00:00 00:00:02:00 10:00:05:00 10:00:07:00',
        '005  HALL     V     W001 010 10:04:12:00 10:04:13:00 10:00:02:00 10:00:04:00',
        'AUD  3 4',
      ].join('\r\n'),
    )
    expect([timeline.name, timeline.startTimecode]).toEqual(['Second casting', '10:00:00:00'])
    expect(
      cutOf(timeline.tracks[0]!.placements).map(({ source, start, length, sourceIn }) => [
        source,
        start,
        length,
        sourceIn,
      ]),
    ).toEqual([
      [{ kind: 'clip', clipId: 'hall' }, 25, 50, rational(0)],
      [{ kind: 'clip', clipId: 'pour' }, 75, 50, rational(10)],
    ])
    expect(timeline.tracks[1]!.placements).toHaveLength(1)
    expect(notes).toEqual([
      'Event 003, line 7: a speed that stands or runs backwards is not understood; it runs forwards.',
      'Event 004, line 10: “STRANGER” is not among the clips: a gap stands in its place.',
      'Event 005, line 11: it lies over another event and was left out.',
      'Not understood: 2 dissolves and wipes, cuts here.',
    ])
  })
  it('counts with dropped numbers where it says so', () => {
    const { timeline } = read(
      ['TITLE: x', 'FCM: DROP FRAME', '001  HALL V C 10:04:12:00 10:05:12:02 01:00:00;00 01:01:00;02'].join(
        '\n',
      ),
      at30(),
    )
    // A minute less two numbers that are not there.
    expect([timeline.dropFrame, timeline.tracks[0]!.placements[0]!.length]).toEqual([true, 1800])
  })
  it('is a dissolve: what comes in is what TO CLIP NAME names', () => {
    const { timeline } = read(
      list(
        '001  AX V C        10:04:12:00 10:04:14:00 01:00:00:00 01:00:02:00',
        '002  AX V C        10:04:14:00 10:04:14:00 01:00:02:00 01:00:02:00',
        '002  AX V D    025 00:00:10:00 00:00:12:00 01:00:02:00 01:00:04:00',
        '* FROM CLIP NAME: hall.mp4',
        '* TO CLIP NAME: pour.mp4',
      ).replace('001  AX', '001  HALL'),
    )
    expect(stands(timeline)).toEqual([
      ['hall', 0, 50, 0],
      ['pour', 50, 50, 10],
    ])
  })
  it('has the speed of the event whose reel M2 names', () => {
    const { timeline, notes } = read(
      list(
        '001  HALL V C      10:04:12:00 10:04:13:00 01:00:00:00 01:00:02:00',
        '002  POUR V C      00:00:10:00 00:00:12:00 01:00:02:00 01:00:04:00',
        'M2   HALL     012.5                10:04:12:00',
        'M2   NOBODY   012.5                10:04:12:00',
      ),
    )
    expect(timeline.tracks[0]!.placements.map(({ treatment }) => treatment.motion?.kind)).toEqual([
      'speed',
      undefined,
    ])
    expect(notes).toEqual(['Line 6: no event before it is of reel NOBODY: its speed is not read.'])
  })
  it('is refused with the line where a label cannot be, or a speed cannot be kept', () => {
    const stated = (...lines: string[]) => {
      const result = fromEdl(list(...lines), aCut([]), making())
      return result.ok ? '' : result.error
    }
    expect(stated('001  HALL V C 10:04:12:00 10:04:13:00 01:00:00:40 01:00:01:40')).toMatch(
      /[Ll]ine 3.*01:00:00:40/,
    )
    expect(
      stated(
        '001  HALL V C 10:04:12:00 10:04:13:00 01:00:00:00 01:00:01:00',
        'M2   HALL 99999.0 10:04:12:00',
      ),
    ).toMatch(/more than a thousand times as fast/)
  })
  it.each([
    ['`;` throughout', 'FCM: NON-DROP FRAME', ';', true],
    ['`NON DROP FRAME` without hyphen', 'FCM: NON DROP FRAME', ':', false],
    ['`;` without FCM', '', ';', true],
    ['DROP FRAME', 'FCM: DROP FRAME', ':', true],
  ])('counts as %s says, and is a project that can be kept', (_, fcm, mark, drops) => {
    const at = (label: string) => label.replaceAll('_', mark)
    const { timeline } = read(
      [
        'TITLE: x',
        ...(fcm ? [fcm] : []),
        at('001  POUR V C 00_00_00_00 00_00_10_00 01_00_00_00 01_00_10_00'),
        at('002  POUR V C 00_00_00_00 00_00_10_00 01_10_00_00 01_10_10_00'),
      ].join('\n'),
      at30(),
    )
    const [, second] = timeline.tracks[0]!.placements
    expect([timeline.dropFrame, second!.start]).toEqual([drops, drops ? 17_982 : 18_000])
    const doc = at30()
    const withIt = { ...doc, timelines: { [timeline.id]: timeline } }
    expect(readProjectFile(writeProjectFile(withIt as Doc)).ok).toBe(true)
  })
  it('has several FCM lines, each for what follows', () => {
    const { timeline } = read(
      [
        'FCM: NON-DROP FRAME',
        '001  POUR V C 00:00:00:00 00:01:00:00 01:00:00:00 01:01:00:00',
        'FCM: DROP FRAME',
        '002  POUR V C 00:00:00:00 00:00:01:00 02:00:00:00 02:00:01:00',
      ].join('\n'),
      at30(),
    )
    // An hour with every number, and twice one without those that are dropped.
    expect(timeline.tracks[0]!.placements.map(({ start }) => start)).toEqual([0, 2 * 107_892 - 108_000])
  })
  it('takes one clip of several of a name or a reel by the timecode that lies within', () => {
    const doc = aCut([])
    const twice = {
      ...doc,
      project: { ...doc.project, clipOrder: ['early', 'late'] },
      clips: {
        early: { ...stamped('early', '1920x1080@25p', '01:00:00:00'), name: 'A001.mp4' },
        late: { ...stamped('late', '1920x1080@25p', '05:00:00:00'), name: 'A001.mp4' },
      },
    } as Doc
    const { timeline, notes } = read(
      list(
        '001  A001 V C 05:00:10:00 05:00:11:00 01:00:00:00 01:00:01:00',
        '002  A001 V C 01:00:02:00 01:00:03:00 01:00:01:00 01:00:02:00',
        '003  A001 V C 09:00:00:00 09:00:01:00 01:00:02:00 01:00:03:00',
      ),
      twice,
    )
    expect(stands(timeline)).toEqual([
      ['late', 0, 25, 10],
      ['early', 25, 25, 2],
    ])
    expect(notes).toHaveLength(1)
    expect(notes[0]).toMatch(/^Event 003, line 5: .*a gap stands in its place\.$/)
  })
  it('goes on beyond midnight, and has sound alone, and A2 beside A', () => {
    const { timeline } = read(
      list(
        '001  HALL V    C 10:04:12:00 10:04:14:00 23:59:59:00 00:00:01:00',
        '002  POUR NONE C 00:00:00:00 00:00:01:00 00:00:01:00 00:00:02:00',
        'AUD  3 4',
        '003  POUR A    C 00:00:01:00 00:00:02:00 00:00:02:00 00:00:03:00',
        '004  POUR A2   C 00:00:01:00 00:00:02:00 00:00:02:00 00:00:03:00',
      ),
    )
    expect(stands(timeline)).toEqual([['hall', 0, 50, 0]])
    const sounds = timeline.tracks.filter(({ kind }) => kind === 'audio')
    expect(sounds.flatMap(({ placements }) => placements.map(({ start }) => start)).sort()).toEqual([
      50, 75, 75,
    ])
  })
  it('reads drop-frame sources and those of another rate as it wrote them', () => {
    const drop = aVideo('drop', '1920x1080@29.97p', 700)
    const doc = aCut([])
    const clips = {
      ...doc.clips,
      drop: { ...drop, reading: { ...drop.reading!, timecode: { start: '01:00:00;00', dropFrame: true } } },
    }
    const withDrop = { ...doc, clips, project: { ...doc.project, clipOrder: Object.keys(clips) } } as Doc
    const { timeline } = read(
      list('001  DROP V C 01:00:00:00 01:10:00:00 01:00:00:00 01:10:00:00', '* FROM CLIP NAME: drop.mp4'),
      withDrop,
    )
    const [placement] = timeline.tracks[0]!.placements
    expect(placement!.length).toBe(15_000)
    expect(placement!.treatment).toEqual({})
  })
  it('is told where it is none', () => {
    const error = 'It holds no event of an edit decision list. Nothing was changed.'
    expect(fromEdl('no list at all', aCut([]), making())).toEqual({ ok: false, error })
  })
})
