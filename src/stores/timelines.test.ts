import { type Placement, clipIdOf } from '../core/model/timeline'
import 'fake-indexeddb/auto'
import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import { toRaw } from 'vue'
import { aStill, aVideo } from '../core/model/doc.fixture'
import { addTimeline, setProjectFormat, takeIn } from '../core/edit/operations'
import { toEdl } from '../core/exchange/edl'
import { toOtio } from '../core/exchange/otio'
import { formatText } from '../core/format/format'
import { parseFormat } from '../core/format/parse'
import { useProject } from './document/project'
import { useTimelines } from './timelines'

const clips = {
  hall: aVideo('hall', '1920x1080@25p', 4),
  bell: aVideo('bell', '1920x1080@50p', 2),
  reel: aVideo('reel', '720x576/64:45@50i', 3),
  title: aStill('title'),
}
const names = (list: readonly Placement[]) => list.map(clipIdOf)

/** A project in HD 25p with four clips and a timeline that follows it. */
async function begun() {
  const project = useProject()
  const timelines = useTimelines()
  await project.create({ name: 'The Ninth Bell' })
  project.edit('begin', (doc) => {
    takeIn(doc, Object.values(clips))
    const format = parseFormat('1920x1080@25p')!.format
    setProjectFormat(doc, { at: '', setBy: 'typed', format, reason: '' })
  })
  timelines.create()
  const placed = () => names(timelines.current!.tracks[0]!.placements)
  return { project, timelines, placed }
}

beforeEach(() => setActivePinia(createPinia()))

describe('placing clips', () => {
  it('asks where one does not match, and the others wait behind it', async () => {
    const { timelines, placed } = await begun()
    timelines.place([clips.hall, clips.bell, clips.title])
    expect(placed()).toEqual(['hall'])
    expect(timelines.question?.differsIn).toEqual(['rate'])
    timelines.answer('keep')
    expect(placed()).toEqual(['hall', 'bell', 'title'])
    expect(timelines.question).toBeNull()
  })

  it('takes the clip’s format on wish, says from what, and the name goes along', async () => {
    const { project, timelines, placed } = await begun()
    timelines.place([clips.bell])
    timelines.answer('take')
    expect(placed()).toEqual(['bell'])
    expect(timelines.current).toMatchObject({
      name: 'Cut 1920×1080 · 50p',
      formatOrigin: { setBy: 'clip', clip: 'bell.mp4' },
    })
    expect(formatText(timelines.format!)).toBe('1920x1080@50p')
    expect(formatText(project.format!)).toBe('1920x1080@25p')
    expect(timelines.check?.countByGrade.free).toBe(1)
    // One answer is one step.
    project.undo()
    expect([placed(), timelines.current?.ownFormat, timelines.current?.name]).toEqual([
      [],
      null,
      'Cut 1920×1080 · 25p',
    ])
  })

  it('checks again only what an edit touched', async () => {
    const { project, timelines } = await begun()
    timelines.place([clips.bell])
    timelines.answer('keep')
    const first = timelines.current!
    timelines.create(null, null, 'Second')
    const checkOf = (id: string) => timelines.checks.find((c) => c.timeline.id === id)!.check
    const before = checkOf(first.id)
    timelines.place([clips.hall])
    expect(checkOf(first.id)).toBe(before)
    expect(timelines.check?.findings).toHaveLength(1)
    // Another price of the same charge is another check.
    project.edit('weigh', (doc) => void (doc.project.policy.skip = 0.5))
    expect(checkOf(first.id)).not.toBe(before)
    expect(checkOf(first.id)?.findings[0]!.toll.loss).toBeCloseTo(0.25, 9)
  })

  it('does not place at all on wish, nor what waited', async () => {
    const { timelines, placed } = await begun()
    timelines.place([clips.bell, clips.hall])
    timelines.answer('leave')
    expect([placed(), timelines.question]).toEqual([[], null])
  })

  it('remembers the answer, until it is to ask again', async () => {
    const { project, timelines, placed } = await begun()
    timelines.place([clips.bell, clips.reel])
    timelines.answer('keep', true)
    expect(placed()).toEqual(['bell', 'reel'])
    expect(project.doc?.project.onMismatch).toBe('keep')
    timelines.setAsking(true)
    timelines.place([clips.reel])
    expect(timelines.question?.differsIn).toEqual(['size', 'pixel shape', 'scan'])
  })

  it('is undone step by step', async () => {
    const { project, timelines, placed } = await begun()
    timelines.place([clips.hall, clips.title])
    project.undo()
    expect(placed()).toEqual(['hall'])
    project.redo()
    expect(placed()).toEqual(['hall', 'title'])
    timelines.remove([timelines.current!.tracks[0]!.placements[0]!.id])
    expect(placed()).toEqual(['title'])
    expect(timelines.current!.tracks[0]!.placements[0]!.start).toBe(0)
  })
})

describe('timelines', () => {
  it('are made with a name of their own or one that proposes itself', async () => {
    const { project, timelines } = await begun()
    timelines.create()
    timelines.create(parseFormat('1080x1920@25p')!.format, { setBy: 'standard', clip: null })
    timelines.create(null, null, 'Festival cut')
    expect(project.timelines.map((t) => t.name)).toEqual([
      'Cut 1920×1080 · 25p',
      'Cut 1920×1080 · 25p (2)',
      'Cut 1080×1920 · 25p',
      'Festival cut',
    ])
    expect(timelines.current?.name).toBe('Festival cut')
    expect(timelines.checks.map(({ check }) => formatText(check!.format))).toEqual([
      '1920x1080@25p',
      '1920x1080@25p',
      '1080x1920@25p',
      '1920x1080@25p',
    ])
  })

  it('are all counted for what pays a severe toll, in turns where they are many', async () => {
    const { project, timelines } = await begun()
    timelines.setAsking(false)
    timelines.place([clips.reel])
    await vi.waitFor(() => expect(timelines.severe).toBe(1))
    const [model] = timelines.current!.tracks[0]!.placements
    project.edit('many of it', (doc) => {
      for (const n of [0, 1, 2, 3, 4]) {
        const timeline = structuredClone(toRaw(project.opened.timelines[timelines.current!.id]!))
        const placements = Array.from({ length: 1500 }, (_, i) => ({
          ...structuredClone(toRaw(model!)),
          id: `${n}-${i}`,
          start: i * model!.length,
        }))
        const tracks = timeline.tracks.map((track, i) => ({ ...track, placements: i ? [] : placements }))
        addTimeline(doc, { ...timeline, id: `many-${n}`, tracks })
      }
    })
    await vi.waitFor(() => expect(timelines.severe).toBe(1 + 5 * 1500), { timeout: 10_000 })
  })

  it('change name and format in one step', async () => {
    const { project, timelines } = await begun()
    const timeline = timelines.current!
    timelines.change(timeline, {
      name: 'Portrait cut',
      format: parseFormat('1080x1920@25p')!.format,
      origin: { setBy: 'typed', clip: null },
    })
    expect(timelines.current).toMatchObject({ name: 'Portrait cut', formatOrigin: { setBy: 'typed' } })
    timelines.change(timelines.current!, { format: null })
    expect(timelines.current).toMatchObject({ name: 'Portrait cut', ownFormat: null, formatOrigin: null })
    project.undo()
    project.undo()
    expect(timelines.current).toMatchObject({ name: 'Cut 1920×1080 · 25p', ownFormat: null })
  })
})

describe('cuts of other programs', () => {
  it('stand beside what they were, in one step, and say what was not understood', async () => {
    const { project, timelines } = await begun()
    timelines.place([clips.hall])
    const cut = timelines.current!
    const file = toOtio(project.opened, cut) as { tracks: { children: { children: unknown[] }[] } }
    expect(timelines.takeIn(JSON.stringify(file), 'Cut')).toEqual({ ok: true, notes: [] })
    expect(timelines.current).toMatchObject({ name: `${cut.name}, taken in` })
    expect(timelines.current!.id).not.toBe(cut.id)
    expect(names(timelines.current!.tracks[0]!.placements)).toEqual(['hall'])
    project.undo()
    expect(project.timelines).toEqual([cut])
    file.tracks.children[0]!.children.push({ OTIO_SCHEMA: 'Transition.1' })
    expect(timelines.takeIn(JSON.stringify(file), 'Cut')).toEqual({
      ok: true,
      notes: ['Not understood: 1 transition, a cut here.'],
    })
    expect(timelines.takeIn(toEdl(project.opened, cut).text, 'List')).toEqual({ ok: true, notes: [] })
    expect(names(timelines.current!.tracks[0]!.placements)).toEqual(['hall'])
    project.undo()
    expect(timelines.takeIn('[]', 'Cut')).toMatchObject({
      error: expect.stringContaining('Nothing was changed'),
    })
    expect(project.timelines).toHaveLength(2)
  })
})
