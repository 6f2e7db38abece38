import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { counting, cuts, docOf } from '../edit/cut.fixture'
import { aDoc, aVideo } from '../model/doc.fixture'
import { nestedIn } from '../edit/nesting'
import type { Doc } from '../model/project'
import { parseFormat } from '../format/parse'
import { rational, toNumber } from '../rational/rational'
import { toOtio } from './otio'
import { fromOtio } from './otio-read'
import {
  AnyObject,
  OtioClip,
  OtioGap,
  LinearTimeWarp,
  Marker,
  MediaReference,
  OtioTimeline,
  RationalTime,
  OtioStack,
  TimeRange,
  OtioTrack,
} from './otio-schema'

const making = () => ({ name: 'Taken in', at: '2026-06-02T08:00:00Z', newId: counting() })
const read = (value: unknown, doc: Doc) => {
  const result = fromOtio(typeof value === 'string' ? value : JSON.stringify(value), doc, making())
  if (!result.ok) throw new Error(result.error)
  return result
}

const schemas: Record<string, { safeParse(value: unknown): { success: boolean } }> = {
  Timeline: OtioTimeline,
  Stack: OtioStack,
  Track: OtioTrack,
  Clip: OtioClip,
  Gap: OtioGap,
  RationalTime,
  TimeRange,
  LinearTimeWarp,
  Marker,
  ExternalReference: MediaReference,
  GeneratorReference: MediaReference,
}
/** All objects of a file that name a schema. */
function* objectsOf(value: unknown): Generator<AnyObject> {
  if (!value || typeof value !== 'object') return
  if ('OTIO_SCHEMA' in value) yield value as AnyObject
  for (const part of Object.values(value)) yield* objectsOf(part)
}

describe('our own timelines', () => {
  it('go out and come in as they were, whatever is cut and treated', () => {
    fc.assert(
      fc.property(cuts, (drawn) => {
        const doc = docOf(drawn) as Doc
        const { timelines, notes } = read(toOtio(doc, doc.timelines.t!), doc)
        expect(timelines).toEqual([doc.timelines.t])
        expect(notes).toEqual([])
      }),
      { numRuns: 150 },
    )
  })
  it('come in with those that they show, nested as deep as they were', () => {
    fc.assert(
      fc.property(cuts, fc.constantFrom('1920x1080@50p', '1920x1080@23.976p'), (drawn, format) => {
        const doc = docOf(drawn) as Doc
        const inner = doc.timelines.t!
        const outer = nestedIn(inner, parseFormat(format)!.format, null, { ...making(), newId: counting() })
        const outermost = nestedIn(outer, parseFormat('1920x1080@25p')!.format, null, {
          ...making(),
          newId: (() => {
            let n = 0
            return () => `far-${n++}`
          })(),
        })
        const all = { ...doc, timelines: { t: inner, [outer.id]: outer, [outermost.id]: outermost } }
        expect(
          read(toOtio(all, outermost), {
            ...doc,
            timelines: {},
            project: { ...doc.project, timelineOrder: [] },
          }).timelines,
        ).toEqual([inner, outer, outermost])
      }),
      { numRuns: 40 },
    )
  })
  it('go out as the published format has every object', () => {
    fc.assert(
      fc.property(cuts, (drawn) => {
        const doc = docOf(drawn) as Doc
        for (const object of objectsOf(toOtio(doc, doc.timelines.t!))) {
          const [kind = ''] = object.OTIO_SCHEMA.split('.')
          expect(schemas[kind]?.safeParse(object).success, object.OTIO_SCHEMA).toBe(true)
        }
      }),
      { numRuns: 30 },
    )
  })
})

const time = (value: number, rate = 25) => ({ OTIO_SCHEMA: 'RationalTime.1', value, rate })
const range = (start: number, duration: number, rate = 25) => ({
  OTIO_SCHEMA: 'TimeRange.1',
  start_time: time(start, rate),
  duration: time(duration, rate),
})
const media = (url: string, available: object | null = null) => ({
  OTIO_SCHEMA: 'ExternalReference.1',
  target_url: url,
  available_range: available,
})
const clip = (url: string, source_range: object | null, more: object = {}) => ({
  OTIO_SCHEMA: 'Clip.2',
  name: url,
  source_range,
  media_references: { DEFAULT_MEDIA: media(url) },
  active_media_reference_key: 'DEFAULT_MEDIA',
  ...more,
})
const timelineOf = (children: object[], more: object = {}) => ({
  OTIO_SCHEMA: 'Timeline.1',
  name: 'From elsewhere',
  global_start_time: time(90_000),
  tracks: { OTIO_SCHEMA: 'Stack.1', children: [{ OTIO_SCHEMA: 'Track.1', kind: 'Video', children }] },
  ...more,
})
const doc = () => aDoc([aVideo('hall', '1920x1080@25p', 60), aVideo('bell', '1920x1080@50p', 20)]) as Doc
const shown = (value: unknown) => {
  const { timelines, notes } = read(value, doc())
  const timeline = timelines.at(-1)!
  return { timelines, timeline, notes, placements: timeline.tracks[0]?.placements ?? [] }
}
const lies = (placements: readonly { start: number; length: number }[]) =>
  placements.map(({ start, length }) => [start, length])

describe('timelines of others', () => {
  it('have clips by where they lie, gaps, and a start', () => {
    const { timeline, placements, notes } = shown(
      timelineOf([
        clip('file:///card/hall.mp4', range(50, 25)),
        { OTIO_SCHEMA: 'Gap.1', source_range: range(0, 10) },
        clip('bell.mp4', range(100, 50, 50)),
      ]),
    )
    expect([timeline.name, timeline.rate, timeline.startTimecode]).toEqual([
      'From elsewhere',
      rational(25),
      '01:00:00:00',
    ])
    expect(lies(placements)).toEqual([
      [0, 25],
      [35, 25],
    ])
    expect(placements.map(({ source, sourceIn }) => [source, sourceIn])).toEqual([
      [{ kind: 'clip', clipId: 'hall' }, rational(2)],
      [{ kind: 'clip', clipId: 'bell' }, rational(2)],
    ])
    expect(notes).toEqual([])
  })
  it('count from the first frame of the media where they say which that is', () => {
    const children = [
      clip('hall.mp4', range(90_050, 25), {
        media_references: { DEFAULT_MEDIA: media('hall.mp4', range(90_000, 1500)) },
      }),
    ]
    expect(shown(timelineOf(children)).placements[0]!.sourceIn).toEqual(rational(2))
  })
  it('last as long as their media where they say no length, and are left out where nothing does', () => {
    const known = clip('hall.mp4', null, {
      media_references: { DEFAULT_MEDIA: media('hall.mp4', range(0, 75)) },
    })
    const { placements, notes } = shown(timelineOf([known, clip('bell.mp4', null)]))
    expect(lies(placements)).toEqual([[0, 75]])
    expect(notes).toEqual(['“bell.mp4” does not say how long it is and was left out.'])
  })
  it('are read in their older versions: clips of one reference, sequences and fillers', () => {
    const old = {
      OTIO_SCHEMA: 'Timeline.1',
      name: 'Old',
      tracks: {
        OTIO_SCHEMA: 'Stack.1',
        children: [
          {
            OTIO_SCHEMA: 'Sequence.1',
            kind: 'Video',
            children: [
              { OTIO_SCHEMA: 'Filler.1', source_range: range(0, 5) },
              {
                OTIO_SCHEMA: 'Clip.1',
                name: 'hall.mp4',
                source_range: range(0, 20),
                media_reference: media('hall.mp4'),
              },
            ],
          },
        ],
      },
    }
    expect(lies(shown(old).placements)).toEqual([[5, 20]])
  })
  it('have speeds, one on another; what stands or runs backwards is listed', () => {
    const warp = (time_scalar: number) => ({ OTIO_SCHEMA: 'LinearTimeWarp.1', time_scalar })
    const { placements, notes } = shown(
      timelineOf([
        clip('hall.mp4', range(0, 20), { effects: [warp(0.5), warp(0.5)] }),
        clip('hall.mp4', range(0, 20), {
          effects: [
            warp(-1),
            { OTIO_SCHEMA: 'Effect.1', effect_name: 'glow' },
            { OTIO_SCHEMA: 'FreezeFrame.1', time_scalar: 0 },
          ],
        }),
      ]),
    )
    expect(placements[0]!.treatment.motion).toMatchObject({ kind: 'speed', pace: { factor: rational(1, 4) } })
    expect(placements[1]!.treatment).toEqual({})
    expect(notes).toEqual([
      'Not understood: 1 speed that stands or runs backwards.',
      'Not understood: 1 Effect.1.',
      'Not understood: 1 FreezeFrame.1.',
    ])
  })
  it('have cuts for transitions, and lists for markers and for what nobody knows', () => {
    const { placements, notes } = shown(
      timelineOf([
        clip('hall.mp4', range(0, 20), {
          markers: [{ OTIO_SCHEMA: 'Marker.2', color: 'RED' }, { OTIO_SCHEMA: 'Marker.1' }],
        }),
        { OTIO_SCHEMA: 'Transition.1', in_offset: time(5), out_offset: time(5) },
        clip('bell.mp4', range(0, 20)),
        { OTIO_SCHEMA: 'Hologram.7', name: 'x' },
      ]),
    )
    expect(lies(placements)).toEqual([
      [0, 20],
      [20, 20],
    ])
    expect([...notes].sort()).toEqual([
      'Not understood: 1 Hologram.7.',
      'Not understood: 1 transition, a cut here.',
      'Not understood: 2 of the markers, which are not kept here.',
    ])
  })
  it('have a gap for what is not among the clips, and for what is switched off', () => {
    const { placements, notes } = shown(
      timelineOf([
        clip('stranger.mp4', range(0, 20)),
        clip('hall.mp4', range(0, 20), { enabled: false }),
        clip('hall.mp4', range(0, 20)),
        {
          OTIO_SCHEMA: 'Clip.2',
          name: 'lost',
          source_range: range(0, 5),
          media_references: { DEFAULT_MEDIA: { OTIO_SCHEMA: 'MissingReference.1' } },
        },
      ]),
    )
    expect(lies(placements)).toEqual([[40, 20]])
    expect(notes).toEqual([
      '“stranger.mp4” is not among the clips: a gap stands in its place.',
      '“lost” is not among the clips: a gap stands in its place.',
      'Not understood: 1 item that is switched off, a gap here.',
    ])
  })
  it('have timelines for stacks within them', () => {
    const stack = {
      OTIO_SCHEMA: 'Stack.1',
      name: 'Opening',
      source_range: range(5, 30),
      children: [{ OTIO_SCHEMA: 'Track.1', kind: 'Video', children: [clip('hall.mp4', range(0, 50))] }],
    }
    const { timelines, timeline, placements } = shown(timelineOf([stack]))
    expect(timelines.map(({ name }) => name)).toEqual(['Opening', 'From elsewhere'])
    expect(placements[0]).toMatchObject({
      source: { kind: 'timeline', timelineId: timelines[0]!.id },
      length: 30,
      sourceIn: rational(1, 5),
    })
    expect(timeline.tracks).toHaveLength(1)
  })
  it('have of a track, and of all tracks, what their source_range says', () => {
    const track = (source_range: object | null) => ({
      OTIO_SCHEMA: 'Track.1',
      kind: 'Video',
      source_range,
      children: [clip('hall.mp4', range(0, 50)), clip('bell.mp4', range(0, 50, 50))],
    })
    const read = (inner: object | null, outer: object | null) =>
      shown({
        ...timelineOf([]),
        tracks: { OTIO_SCHEMA: 'Stack.1', source_range: outer, children: [track(inner)] },
      }).placements.map(({ start, length, sourceIn }) => [start, length, toNumber(sourceIn)])
    expect(read(range(25, 40), null)).toEqual([
      [0, 25, 1],
      [25, 15, 0],
    ])
    expect(read(null, range(60, 10))).toEqual([[0, 10, 0.4]])
  })
  it('have a track within a track, and stacks without a range, as timelines of their own, placed', () => {
    const inner = {
      OTIO_SCHEMA: 'Track.1',
      kind: 'Video',
      name: 'Second reel',
      children: [clip('bell.mp4', range(0, 20))],
    }
    const stack = { OTIO_SCHEMA: 'Stack.1', name: 'Opening', children: [inner] }
    const { timelines, placements } = shown(timelineOf([clip('hall.mp4', range(0, 25)), inner, stack]))
    expect(placements.map(({ start, source }) => [start, source.kind])).toEqual([
      [0, 'clip'],
      [25, 'timeline'],
      [timelines.length > 1 ? placements[2]!.start : 0, 'timeline'],
    ])
    const placed = new Set(
      placements.flatMap(({ source }) => (source.kind === 'timeline' ? [source.timelineId] : [])),
    )
    expect(timelines.slice(0, -1).every(({ id }) => placed.has(id))).toBe(true)
    expect(placements[2]!.start).toBe(25 + placements[1]!.length)
  })
  it('never count at the rate of a sound', () => {
    const sound = {
      OTIO_SCHEMA: 'Track.1',
      kind: 'Audio',
      children: [clip('hall.mp4', range(0, 96_000, 48_000))],
    }
    const picture = { OTIO_SCHEMA: 'Track.1', kind: 'Video', children: [clip('hall.mp4', range(0, 50))] }
    const { timeline } = shown({
      ...timelineOf([]),
      global_start_time: null,
      tracks: { OTIO_SCHEMA: 'Stack.1', children: [sound, picture] },
    })
    expect(toNumber(timeline.rate!)).toBe(25)
    expect(timeline.tracks.map(({ placements: [placement] }) => placement!.length)).toEqual([50, 50])
  })
  it('pair picture and sound of one clip that stand beside each other', () => {
    const track = (kind: string) => ({
      OTIO_SCHEMA: 'Track.1',
      kind,
      children: [clip('hall.mp4', range(0, 20))],
    })
    const { timeline } = shown({
      ...timelineOf([]),
      tracks: {
        OTIO_SCHEMA: 'Stack.1',
        children: [track('Video'), track('Audio'), { ...track('Subtitle') }],
      },
    })
    const [picture, sound] = timeline.tracks.map(({ placements }) => placements[0]!.pairId)
    expect(picture).not.toBeNull()
    expect(sound).toBe(picture)
  })
  it('keep the cut whole in frames where others count otherwise', () => {
    const third = clip('hall.mp4', {
      OTIO_SCHEMA: 'TimeRange.1',
      start_time: time(0, 1000),
      duration: time(333, 1000),
    })
    const { placements } = shown(timelineOf([third, third, third]))
    expect(lies(placements)).toEqual([
      [0, 8],
      [8, 9],
      [17, 8],
    ])
  })
  it('are taken out of a collection', () => {
    const many = {
      OTIO_SCHEMA: 'SerializableCollection.1',
      children: [{ OTIO_SCHEMA: 'Clip.2' }, timelineOf([clip('hall.mp4', range(0, 20))])],
    }
    expect(shown(many).placements).toHaveLength(1)
  })
  it.each([
    ['no JSON', '{', 'It is no JSON'],
    ['no OpenTimelineIO', '{"a":1}', 'it names no schema'],
    ['a clip alone', JSON.stringify({ OTIO_SCHEMA: 'Clip.2' }), 'Clip.2 cannot be read as a timeline'],
    [
      'a broken timeline',
      JSON.stringify({ OTIO_SCHEMA: 'Timeline.1', tracks: { OTIO_SCHEMA: 'Stack.1' } }),
      'at tracks.children',
    ],
  ])('are told where they are %s', (_, text, words) => {
    const result = fromOtio(text, doc(), making())
    expect(result.ok).toBe(false)
    if (!result.ok) expect(result.error).toContain(words)
  })
})
