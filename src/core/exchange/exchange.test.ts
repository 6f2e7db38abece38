import type { Override } from '../treatment/treatment'
import { mend } from '../stored/mend'
import { correct } from '../edit/correction'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { checkTimeline } from '../check/check'
import { aDoc, aStill, aVideo } from '../model/doc.fixture'
import { addTimeline, setProjectFormat } from '../edit/operations'
import { append, newTimeline, placementOf } from '../edit/placing'
import { parseFormat } from '../format/parse'
import { rational } from '../rational/rational'
import { logText } from './log'
import { toOtio } from './otio'
import { readProjectFile, writeProjectFile } from '../stored/project-file'
import { tallyRows } from './tables'

const offset = fc.integer({ min: -999, max: 999 }).map((n) => rational(n, 4))
/** Anything that can be set on a placement, in the shape in which it is stored. */
const anyOverride: fc.Arbitrary<Override> = fc.record(
  {
    framing: fc.record(
      {
        mode: fc.oneof(
          fc
            .constantFrom('fit' as const, 'fill' as const, 'stretch' as const, 'one-to-one' as const)
            .map((kind) => ({ kind })),
          fc.record({
            kind: fc.constant('placed' as const),
            scaleX: fc.constant(rational(3, 4)),
            scaleY: fc.constant(rational(2, 3)),
            x: offset,
            y: offset,
          }),
        ),
        zoom: fc.integer({ min: 1, max: 40 }).map((n) => rational(n, 4)),
        position: fc.record({ x: offset, y: offset }),
        crop: fc.constant({ left: 1, right: 2, top: 3.5, bottom: 0 }),
        cropToShape: fc.boolean(),
        reduction: fc.constantFrom('kept' as const, 'baked' as const),
        filter: fc.constantFrom('nearest' as const, 'bicubic' as const),
        sharpen: fc.option(fc.constant({ amount: 0.5, radius: 1 })),
      },
      { requiredKeys: [] },
    ),
    motion: fc.oneof(
      fc.constantFrom({ kind: 'hold' } as const, { kind: 'blend' } as const),
      fc.constantFrom(0 as const, 4 as const).map((phase) => ({ kind: 'pulldown' as const, phase })),
      fc.record({
        kind: fc.constant('speed' as const),
        pace: fc.constantFrom(
          { kind: 'every-frame' } as const,
          { kind: 'factor', factor: rational(2) } as const,
        ),
        wanted: fc.boolean(),
        keepPitch: fc.boolean(),
      }),
    ),
    fields: fc.constantFrom(
      { kind: 'weave' } as const,
      {
        kind: 'deinterlace',
        method: 'single',
        rate: { kind: 'same', keep: 'second' },
      } as const,
    ),
    shiftOrder: fc.boolean(),
    colour: fc.constantFrom('none' as const, 'pq-to-hlg' as const),
  },
  { requiredKeys: [] },
)

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

/** What of a clip is asked about in OpenTimelineIO. */
const first = (doc: ReturnType<typeof cut>) => otioOf(doc).tracks.children[0].children[0]
const media = (clip: ReturnType<typeof first>) => clip.media_references.DEFAULT_MEDIA

describe('a cut in OpenTimelineIO', () => {
  it('calls tracks by their names and kinds, and says which are switched off', () => {
    const doc = cut()
    const t = doc.timelines.t!
    t.tracks.splice(1, 0, {
      ...structuredClone(t.tracks[0]!),
      id: 'v2',
      name: 'V2',
      hidden: true,
      placements: [],
    })
    t.tracks[2]!.muted = true
    const tracks = otioOf(doc).tracks.children
    expect(
      tracks.map((track: { name: string; kind: string; enabled: boolean }) => [
        track.name,
        track.kind,
        track.enabled,
      ]),
    ).toEqual([
      ['V1', 'Video', true],
      ['V2', 'Video', false],
      ['A1', 'Audio', false],
    ])
  })

  it('writes out every character that means something in a URL', () => {
    const doc = cut()
    Object.assign(doc.clips.hall!, { name: 'take #3 50%?.mp4', folder: 'day 1/card & co' })
    expect(media(first(doc)).target_url).toBe('day%201/card%20%26%20co/take%20%233%2050%25%3F.mp4')
  })

  it('counts a drop-frame start by its labels, and starts the timeline at its own', () => {
    const doc = cut()
    const { hall } = doc.clips
    Object.assign(hall!.reading!.video!, { rate: { num: 30000, den: 1001 } })
    hall!.reading!.timecode = { start: '00:01:00;02', dropFrame: true }
    doc.timelines.t!.tracks[0]!.placements[0]!.sourceIn = rational(0)
    expect(media(first(doc)).available_range.start_time.value).toBe(1800)
    hall!.reading!.timecode = { start: '00:01:00:02', dropFrame: false }
    expect(media(first(doc)).available_range.start_time.value).toBe(1802)
    doc.timelines.t!.startTimecode = '01:00:00:00'
    expect(otioOf(doc).global_start_time).toMatchObject({ value: 86400, rate: 24000 / 1001 })
    const ntsc = parseFormat('1920x1080@29.97p')!.format
    setProjectFormat(doc, { at: '', setBy: 'typed', format: ntsc, reason: '' })
    Object.assign(doc.timelines.t!, { startTimecode: '00:01:00;02', dropFrame: true })
    expect(otioOf(doc).global_start_time.value).toBe(1800)
  })

  it('keeps a clip’s own timecode and rate after its rate was corrected: a time warp says the speed', () => {
    const doc = cut()
    correct(doc, ['hall'], { rate: rational(24) })
    const clip = first(doc)
    expect(media(clip).available_range).toMatchObject({
      start_time: { value: 900000, rate: 25 },
      duration: { value: 100, rate: 25 },
    })
    // Frame 25 still stands at the in-point.
    expect(clip.source_range.start_time).toEqual({ OTIO_SCHEMA: 'RationalTime.1', value: 900025, rate: 25 })
    expect(clip.effects).toMatchObject([{ OTIO_SCHEMA: 'LinearTimeWarp.1', time_scalar: 24 / 25 }])
    expect(first(cut()).effects).toEqual([])
  })

  it('says a speed as a linear time warp', () => {
    const doc = cut()
    const [hall, , bell] = doc.timelines.t!.tracks[0]!.placements
    const speed = (pace: object) =>
      ({ motion: { kind: 'speed', pace, wanted: true, keepPitch: false } }) as never
    hall!.treatment = speed({ kind: 'factor', factor: rational(1, 2) })
    bell!.treatment = speed({ kind: 'every-frame' })
    const children = otioOf(doc).tracks.children[0].children
    expect(children[0].effects[0].time_scalar).toBe(0.5)
    expect(children.at(-1).effects[0].time_scalar).toBeCloseTo(0.4, 12)
    expect(children[0].metadata.yard_tally.treatment).toEqual(hall!.treatment)
  })

  it('writes a timeline within it as a stack, and the test figure as generated', () => {
    const doc = cut()
    addTimeline(doc, newTimeline('outer', 'Trailer', '', film))
    append(doc, 'outer', [
      {
        ...placementOf(doc.clips.hall!, film, 'n'),
        source: { kind: 'timeline', timelineId: 't' },
        sourceIn: rational(1001, 1000),
        length: 24,
      },
      {
        ...placementOf(doc.clips.hall!, film, 'f'),
        source: { kind: 'figure', size: film, rate: film.rate, scan: 'progressive' },
      },
    ])
    // eslint-disable-next-line @typescript-eslint/no-explicit-any
    const [stack, figure] = (toOtio(doc, doc.timelines.outer!) as any).tracks.children[0].children
    expect(stack).toMatchObject({
      OTIO_SCHEMA: 'Stack.1',
      name: 'Main cut',
      source_range: { start_time: { value: 24 }, duration: { value: 24 } },
    })
    expect(stack.children).toHaveLength(2)
    expect(figure.media_references.DEFAULT_MEDIA).toMatchObject({
      OTIO_SCHEMA: 'GeneratorReference.1',
      generator_kind: 'test figure',
      parameters: { width: 1920, height: 1080, scan: 'progressive' },
    })
  })

  it('is refused without a format', () => {
    const doc = aDoc([])
    addTimeline(doc, newTimeline('t', 'Main cut', ''))
    expect(() => toOtio(doc, doc.timelines.t!)).toThrow(/without a format/)
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

  it('of any document comes back as it was, through the store too', () => {
    const placement = fc.record({
      gap: fc.integer({ min: 0, max: 40 }),
      length: fc.integer({ min: 1, max: 300 }),
      source: fc.constantFrom(
        { kind: 'clip', clipId: 'hall' } as const,
        { kind: 'clip', clipId: 'bell' } as const,
        { kind: 'timeline', timelineId: 'inner' } as const,
        {
          kind: 'figure',
          size: { width: 1440, height: 1080, pixelAspect: rational(4, 3) },
          rate: rational(25),
          scan: 'interlaced',
        } as const,
      ),
      sourceIn: fc.integer({ min: 0, max: 9999 }).map((ms) => rational(ms, 1000)),
      treatment: anyOverride,
      framingByShape: fc.dictionary(
        fc.constantFrom('9:16', '1:1'),
        anyOverride.map((o) => o.framing ?? {}),
      ),
      gain: fc.integer({ min: -60, max: 12 }),
      channels: fc.option(fc.array(fc.integer({ min: 0, max: 7 }), { maxLength: 4 })),
      pairId: fc.option(fc.constantFrom('pair-1', 'pair-2')),
    })
    fc.assert(
      fc.property(
        fc.array(fc.array(placement, { maxLength: 6 }), { maxLength: 4 }),
        anyOverride,
        fc.boolean(),
        fc.array(fc.record({ on: fc.boolean(), set: anyOverride }), { maxLength: 3 }),
        (tracks, treatment, flag, rules) => {
          const doc = cut()
          addTimeline(doc, newTimeline('inner', 'Inner', '', film))
          let n = 0
          Object.assign(doc.timelines.t!, {
            treatment,
            dropFrame: flag,
            soundLayout: flag ? '5.1' : 'mono',
            startTimecode: '10:00:00:00',
            rules: rules.map((rule, i) => ({
              id: `r${i}`,
              when: { scan: 'interlaced', hdr: flag },
              ...rule,
            })),
            tracks: tracks.map((placements, i) => {
              let end = 0
              return {
                id: `track-${i}`,
                kind: i % 2 ? 'audio' : 'video',
                name: `T${i}`,
                hidden: flag,
                muted: !flag,
                locked: flag,
                placements: placements.map(({ gap, ...rest }) => {
                  const placed = { ...rest, id: `p-${n++}`, start: end + gap }
                  end = placed.start + placed.length
                  return placed
                }),
              }
            }),
          })
          const opened = readProjectFile(writeProjectFile(doc))
          expect(opened).toEqual({ ok: true, doc, putAside: [] })
          const rows = {
            project: doc.project,
            clips: Object.values(doc.clips),
            timelines: Object.values(doc.timelines),
            leftAside: [],
          }
          expect(mend(JSON.parse(JSON.stringify(rows)))).toEqual({ doc, putAside: [] })
        },
      ),
      { numRuns: 60 },
    )
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
