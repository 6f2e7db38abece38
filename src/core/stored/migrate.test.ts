import { readFileSync } from 'node:fs'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { parseFormat } from '../format/parse'
import { readProjectFile, writeProjectFile } from './project-file'
import { toNumber } from '../rational/rational'
import { Policy, defaultPolicy } from '../toll/policy'
import type { Override } from '../treatment/treatment'
import { mend } from './mend'
import { canMigrate, migrated, storedVersion } from './migrate'
import { formatOf, timelinesOf } from '../model/project'
import { type Timeline, clipIdOf, placementsIn } from '../model/timeline'

const kept = (name: string) =>
  readFileSync(new URL(`../../../test/fixtures/stored/${name}`, import.meta.url), 'utf8')

type Old = Record<string, unknown>
interface OldPlacement extends Old {
  id: string
  clipId: string
  start: number
  length: number
  treatment: Record<string, unknown>
}
interface OldFile extends Old {
  project: Old & { deliverables: unknown[] }
  clips: Old[]
  timelines: (Old & { tracks: { kind: string; placements: OldPlacement[] }[] })[]
}
const open = (file: unknown) => {
  const opened = readProjectFile(JSON.stringify(file))
  if (!opened.ok) throw new Error(opened.error)
  return opened
}

describe('project files of every version', () => {
  it.each([1, 2])('of version %i open with every clip and every placement where it was', (version) => {
    const old = JSON.parse(kept(`project-${version}.json`)) as OldFile
    const { doc, putAside } = open(old)
    expect(putAside).toEqual([])
    expect(Object.keys(doc.clips)).toHaveLength(old.clips.length)
    const spans = (timelines: { tracks: { placements: unknown[] }[] }[]) =>
      timelines.map(({ tracks }) => tracks.map(({ placements }) => placements.length))
    expect(spans(timelinesOf(doc) as never)).toEqual(spans(old.timelines as never))
    const was = old.timelines.flatMap(({ tracks }) => tracks.flatMap(({ placements }) => placements))
    expect(
      timelinesOf(doc)
        .flatMap(placementsIn)
        .map((p) => [p.id, clipIdOf(p), p.start, p.length]),
    ).toEqual(was.map((p) => [p.id, p.clipId, p.start, p.length]))
    for (const timeline of timelinesOf(doc)) expect(timeline.rate).toEqual(formatOf(doc, timeline)!.rate)
    // What is written today comes back as it is.
    expect(open(JSON.parse(writeProjectFile(doc))).doc).toEqual(doc)
  })

  it('of version 2 keep each treatment, deliveries, what was left aside and what lies in several files', () => {
    const { doc } = open(JSON.parse(kept('project-2.json')))
    const own = doc.timelines['tl-own']!
    expect(own.tracks.map(({ name, kind }) => [name, kind])).toEqual([
      ['V1', 'video'],
      ['A1', 'audio'],
    ])
    expect(own).toMatchObject({ formatOrigin: { setBy: 'clip' }, rate: { num: 25, den: 1 } })
    const treatments = Object.fromEntries(placementsIn(own).map((p) => [p.id, p.treatment]))
    expect(treatments['own-0']).toEqual({})
    expect(treatments['own-1']).toEqual({ motion: { kind: 'blend' } })
    expect(treatments['own-9']).toEqual({
      framing: { mode: { kind: 'fill' } },
      motion: { kind: 'speed', pace: { kind: 'every-frame' }, wanted: true, keepPitch: false },
    })
    expect(treatments['own-3']).toEqual({
      framing: {
        mode: { kind: 'one-to-one' },
        zoom: { num: 5, den: 4 },
        position: { x: { num: 12, den: 1 }, y: { num: -40, den: 1 } },
        crop: { left: 8, right: 8, top: 0, bottom: 4 },
      },
    })
    expect(treatments['own-4']).toEqual({
      framing: { mode: { kind: 'stretch' } },
      fields: { kind: 'weave' },
    })
    const deinterlace = (rate: object) => ({ fields: { kind: 'deinterlace', method: 'adaptive', rate } })
    expect(treatments['own-5']).toEqual(deinterlace({ kind: 'double' }))
    expect(treatments['own-6']).toEqual(deinterlace({ kind: 'same', keep: 'first' }))
    expect(doc.project.deliverables.map(({ id, name, format }) => [id, name, format.width])).toEqual([
      ['delivery-1', '1920×1080 · 25p', 1920],
      ['delivery-2', '1080×1920 · 25p', 1080],
      ['delivery-3', '1920×1080 · 50i', 1920],
    ])
    expect(Object.keys(doc.leftAside)).toEqual(['/CARD/INDEX.XML'])
    expect(doc.clips['st-all']!.parts).toHaveLength(3)
    // A gap that was there is there.
    const [first, second] = own.tracks[0]!.placements.slice(1, 3)
    expect(second!.start).toBeGreaterThan(first!.start + first!.length)
  })

  it('of version 3 weigh as is usual today where they weighed as was usual then, and keep what is their own', () => {
    const { project, clips } = JSON.parse(kept('project-2.json')) as OldFile
    const { detail, ...leans } = defaultPolicy.leans
    const weighing = (policy: Old) => {
      const [leaning, rest] = [{ ...leans, detail: { ...detail, invented: 0.3 } }, defaultPolicy]
      const row = { ...project, policy: { ...rest, skip: 0.05, leans: leaning, ...policy } }
      const old = { deinterlaceAdaptive: undefined, deinterlaceSameRate: 0.15, deinterlaceDoubleRate: 0.08 }
      const rows = {
        project: { ...row, policy: { ...old, ...row.policy } },
        clips,
        timelines: [],
        leftAside: [],
      }
      return Policy.parse((migrated(rows, 3).project as Old).policy)
    }
    expect(weighing({})).toEqual(defaultPolicy)
    expect(weighing({ skip: 0.07, deinterlaceDoubleRate: 0.11 })).toEqual({
      ...defaultPolicy,
      skip: 0.07,
      deinterlaceAdaptive: 0.11,
    })
  })

  it('of a newer or an unknown version are refused with the reason, and nothing is changed', () => {
    const today = JSON.parse(writeProjectFile(open(JSON.parse(kept('project-2.json'))).doc)) as Old
    const refusal = (version: unknown) => {
      const result = readProjectFile(JSON.stringify({ ...today, version }))
      return result.ok ? 'taken in' : result.error
    }
    expect(refusal(storedVersion + 1)).toMatch(/version 5; this Yard Tally reads up to version 4.*Nothing/)
    expect(refusal(0)).toMatch(/does not say its version/)
    expect(refusal(1.5)).toMatch(/does not say its version/)
    expect([0, 1, 2, 3, 4, 5].map(canMigrate)).toEqual([false, true, true, true, true, false])
  })
})

/** Timelines as version 2 wrote them, whatever an editor did. */
const oldTreatment = fc.record({
  framing: fc.constantFrom('fit', 'fill', 'stretch', 'native'),
  zoom: fc.double({ min: 0.01, max: 100, noNaN: true }),
  position: fc.record({
    x: fc.double({ min: -5000, max: 5000, noNaN: true }),
    y: fc.double({ min: -5000, max: 5000, noNaN: true }),
  }),
  crop: fc.record({
    left: fc.double({ min: 0, max: 500, noNaN: true }),
    right: fc.integer({ min: 0, max: 500 }),
    top: fc.constant(0),
    bottom: fc.integer({ min: 0, max: 500 }),
  }),
  motion: fc.constantFrom('hold', 'blend', 'every-frame'),
  speedWanted: fc.boolean(),
  fields: fc.constantFrom('auto', 'same-rate', 'double-rate', 'weave'),
})

describe('random older documents', () => {
  it('keep every placement, where it is and how it was treated', () => {
    const file = JSON.parse(kept('project-2.json')) as OldFile
    const ids = file.clips.map(({ id }) => id as string)
    const placements = fc.array(
      fc.record({
        clipId: fc.constantFrom(...ids),
        gap: fc.integer({ min: 0, max: 50 }),
        length: fc.integer({ min: 1, max: 500 }),
        sourceIn: fc.record({ num: fc.integer({ min: 0, max: 9999 }), den: fc.integer({ min: 1, max: 60 }) }),
        treatment: oldTreatment,
      }),
      { maxLength: 12 },
    )
    fc.assert(
      fc.property(placements, placements, fc.boolean(), (pictures, sounds, follows) => {
        let n = 0
        const track = (kind: string, wanted: typeof pictures) => {
          let end = 0
          return {
            id: kind,
            kind,
            placements: wanted.map(({ gap, ...rest }) => {
              const placement = { ...rest, id: `p${n++}`, start: end + gap }
              end = placement.start + placement.length
              return placement
            }),
          }
        }
        const own = file.timelines.find(({ id }) => id === 'tl-own')!
        const timeline = {
          ...own,
          ...(follows ? { ownFormat: null, formatOrigin: null } : {}),
          tracks: [track('video', pictures), track('audio', sounds)],
        }
        const project = { ...file.project, timelineOrder: ['tl-own'] }
        const { doc } = open({ ...file, project, timelines: [timeline] })
        const all = [...pictures, ...sounds]
        const placements = placementsIn(doc.timelines['tl-own']!)
        expect(placements.map((p) => [clipIdOf(p), p.length])).toEqual(all.map((p) => [p.clipId, p.length]))
        expect(placements.map((p) => toNumber(p.sourceIn))).toEqual(
          all.map(({ sourceIn }) => expect.closeTo(sourceIn.num / sourceIn.den, 9)),
        )
        placements.forEach(({ treatment: { framing = {} } }: { treatment: Override }, i) => {
          const was = all[i]!.treatment
          if (framing.zoom) expect(toNumber(framing.zoom)).toBeCloseTo(was.zoom, 6)
          else expect(was.zoom).toBeCloseTo(1, 6)
          if (framing.position) expect(toNumber(framing.position.x)).toBeCloseTo(was.position.x, 6)
        })
        // The database goes the same way.
        const rows = migrated({ project, clips: file.clips, timelines: [timeline], leftAside: [] }, 2)
        const mended = mend(rows)!
        expect(mended.putAside).toEqual([])
        expect(mended.doc.timelines).toEqual(doc.timelines)
      }),
      { numRuns: 60 },
    )
  })

  it('that say nothing sensible are left to the schema, and end in no exception', () => {
    fc.assert(
      fc.property(
        fc.jsonValue(),
        fc.jsonValue(),
        fc.integer({ min: 1, max: 2 }),
        (project, timeline, version) => {
          const rows = { project, clips: [], timelines: [timeline], leftAside: [] }
          expect(() => mend(migrated(rows, version))).not.toThrow()
        },
      ),
    )
  })

  it('whose frames belonged to no rate are counted at 25 a second', () => {
    const timeline = (ownFormat: unknown, placements: unknown[]) => {
      const rows = {
        project: { id: 'p', format: null },
        clips: [],
        timelines: [{ id: 't', ownFormat, tracks: [{ kind: 'video', placements }] }],
        leftAside: [],
      }
      return migrated(rows, 2).timelines[0] as Partial<Timeline>
    }
    expect(timeline(null, [{ id: 'x', clipId: 'a' }]).rate).toEqual({ num: 25, den: 1 })
    expect(timeline(null, []).rate).toBeNull()
    expect(timeline({ rate: { num: 50, den: 1 } }, []).rate).toEqual({ num: 50, den: 1 })
  })
})

describe('stored rows that are mended', () => {
  const rows = () => migrated(JSON.parse(kept('project-2.json')) as never, 2)

  it('lose a placement of a clip or a timeline that is not there, which is told', () => {
    const stored = rows()
    const clips = stored.clips.filter((clip) => !(clip as { name: string }).name.startsWith('hall_wide_A003'))
    const { doc, putAside } = mend({ ...stored, clips })!
    expect(putAside.map(({ what }) => what)).toContain('timeline')
    expect(putAside[0]!.why).toMatch(/of clips that cannot be read/)
    for (const timeline of timelinesOf(doc))
      for (const p of placementsIn(timeline)) expect(doc.clips[clipIdOf(p)!]).toBeDefined()
  })

  it('lose a ring of timelines, and are carried where frames were counted at another rate', () => {
    const stored = rows()
    const timelines = (stored.timelines as Timeline[]).map((timeline) =>
      timeline.id === 'tl-empty'
        ? { ...timeline, rate: { num: 50, den: 1 } }
        : timeline.id === 'tl-own'
          ? {
              ...timeline,
              tracks: timeline.tracks.map((track) => ({
                ...track,
                placements: track.placements.map((p, i) =>
                  i === 0 ? { ...p, source: { kind: 'timeline', timelineId: 'tl-own' } } : p,
                ),
              })),
            }
          : timeline,
    )
    const { doc, putAside } = mend({ ...stored, timelines })!
    expect(putAside.map(({ why }) => why)).toEqual([
      expect.stringMatching(/^2 of its placements/),
      expect.stringMatching(/counted at another rate/),
    ])
    expect(doc.timelines['tl-empty']!.rate).toEqual({ num: 25, den: 1 })
  })

  it('forget a delivery’s timeline that is lost', () => {
    const stored = rows()
    const project = stored.project as { deliverables: object[] }
    const deliverables = [{ ...project.deliverables[0], timelineId: 'gone' }]
    const { doc } = mend({ ...stored, project: { ...project, deliverables } })!
    expect(doc.project.deliverables[0]!.timelineId).toBeNull()
  })
})

describe('version 1', () => {
  const policy = (old: object) =>
    (
      migrated({ project: { id: 'p', policy: old }, clips: [], timelines: [], leftAside: [] }, 1).project as {
        policy: Record<string, unknown> & { leans: Record<string, Record<string, number>> }
      }
    ).policy

  it('keeps own weights where their charge still is', () => {
    const { leans, crop, repeat, skip, slip } = policy({
      unusedDetail: 0.35,
      barsOrCrop: 0.4,
      evenHold: 0.2,
      evenSkip: 0.04,
      slip: 0.7,
    })
    expect(leans).toEqual({
      balanced: { ...defaultPolicy.leans.balanced, unused: 0.35, bars: 0.4 },
      sharp: { ...defaultPolicy.leans.sharp, bars: 0.4 },
      detail: { ...defaultPolicy.leans.detail, bars: 0.2 },
    })
    expect([crop, repeat, skip, slip]).toEqual([0.4, 0.4, 0.04, 0.7])
    expect(policy({ evenHold: 0.7 }).repeat).toBe(1)
  })

  it('takes what was usual, or is no weight, as it is usual today', () => {
    for (const old of [
      {},
      { barsOrCrop: 0.5 },
      { barsOrCrop: 7, unusedDetail: -1, evenHold: 'much', evenSkip: 2 },
    ])
      expect(Policy.parse(policy(old))).toMatchObject({
        leans: defaultPolicy.leans,
        crop: defaultPolicy.crop,
        repeat: defaultPolicy.repeat,
        skip: defaultPolicy.skip,
      })
    expect(policy({ barsOrCrop: 0 }).leans.balanced!.bars).toBe(0)
    expect(policy({ barsOrCrop: 1, evenSkip: 1 })).toMatchObject({ crop: 1, skip: 1 })
  })

  it('forgets a policy that is none, and leaves a project that is no row', () => {
    const project = (row: unknown) =>
      migrated({ project: row, clips: [], timelines: [], leftAside: [] }, 1).project
    expect(project({ id: 'p', policy: 7 })).toEqual({ id: 'p' })
    expect([project(7), project(null), project([])]).toEqual([7, null, []])
  })
})

describe('version 2, to the letter', () => {
  const timeline = (tracks: unknown, project: unknown = { id: 'p' }) =>
    migrated({ project, clips: [], timelines: [{ id: 't', ownFormat: null, tracks }], leftAside: [] }, 2)
      .timelines[0] as { rate: unknown; tracks: { name: string; placements: { treatment: object }[] }[] }
  const treatment = (old: unknown) =>
    timeline([{ kind: 'video', placements: [{ id: 'x', clipId: 'a', treatment: old }] }]).tracks[0]!
      .placements[0]!.treatment

  it('keeps of a treatment what was not as everybody’s', () => {
    const plain = { framing: 'fit', zoom: 1, position: { x: 0, y: 0 }, motion: 'hold', fields: 'auto' }
    expect([treatment(plain), treatment(null), treatment({})]).toEqual([{}, {}, {}])
    expect(treatment({ zoom: 1.5 })).toEqual({ framing: { zoom: { num: 3, den: 2 } } })
    for (const zoom of [0, -2, Infinity, '2', null]) expect(treatment({ zoom })).toEqual({})
    const at = (x: unknown, y: unknown) => treatment({ position: { x, y } })
    expect(at(5, 0)).toEqual({ framing: { position: { x: { num: 5, den: 1 }, y: { num: 0, den: 1 } } } })
    expect(at(0, -5)).toEqual({ framing: { position: { x: { num: 0, den: 1 }, y: { num: -5, den: 1 } } } })
    expect(at('5', NaN)).toEqual({})
    expect(treatment({ crop: { left: -3, right: 4 } })).toEqual({
      framing: { crop: { left: 0, right: 4, top: 0, bottom: 0 } },
    })
    expect(
      treatment({ framing: 'native', motion: 'every-frame', speedWanted: true, fields: 'same-rate' }),
    ).toEqual({
      framing: { mode: { kind: 'one-to-one' } },
      motion: { kind: 'speed', pace: { kind: 'every-frame' }, wanted: true, keepPitch: false },
      fields: { kind: 'deinterlace', method: 'adaptive', rate: { kind: 'same', keep: 'first' } },
    })
  })

  it('names tracks by kind and number, and leaves what is no track or placement to the schema', () => {
    const { tracks, rate } = timeline([
      { kind: 'video', placements: [7] },
      { kind: 'audio' },
      { kind: 'video', placements: [] },
      7,
    ])
    expect(tracks).toEqual([
      { kind: 'video', name: 'V1', placements: [7] },
      { kind: 'audio', name: 'A1', placements: [] },
      { kind: 'video', name: 'V2', placements: [] },
      7,
    ])
    // Something is placed, be it on one track alone.
    expect(rate).toEqual({ num: 25, den: 1 })
  })

  it('names deliveries by their format, or by their number', () => {
    const project = { id: 'p', deliverables: [parseFormat('1920x1080@25p')!.format, { width: 7 }] }
    const { deliverables } = migrated({ project, clips: [], timelines: [], leftAside: [] }, 2).project as {
      deliverables: { id: string; name: string }[]
    }
    expect(deliverables.map(({ id, name }) => [id, name])).toEqual([
      ['delivery-1', '1920×1080 · 25p'],
      ['delivery-2', 'Delivery 2'],
    ])
  })
})
