import { describe, expect, it } from 'vitest'
import { deliverableOf } from '../src/core/model/deliverable'
import { aVideo } from '../src/core/model/doc.fixture'
import { heardIn } from '../src/core/plan/heard'
import { layersAt } from '../src/core/plan/layers'
import { timelinesOf } from '../src/core/model/project'
import { lengthOf } from '../src/core/model/timeline'
import { parseFormat } from '../src/core/format/parse'
import { everyKind, sounding } from '../src/core/laws/kinds.fixture'
import { toNumber } from '../src/core/rational/rational'
import { editing } from './steps'

/** A project with one timeline, after steps that are all done. */
function after(format: string, ...steps: object[]) {
  const doc = everyKind()
  for (const clip of [
    sounding(aVideo('bell', '1920x1080@25p', 20)),
    sounding(aVideo('film', '1920x1080@23.976p', 700)),
    { ...sounding(aVideo('quick', '1920x1080@50p', 20)), sizeBytes: 2000 },
  ])
    Object.assign(doc.clips, { [clip.id]: clip })
  doc.project.clipOrder = Object.keys(doc.clips)
  const project = editing(doc)
  const does = (...more: object[]) => more.map((step) => project.step(step))
  expect(does({ do: 'timeline', name: 'Main', format }, ...steps).filter(Boolean)).toEqual([])
  const timeline = (name = 'Main') => timelinesOf(project.doc()).find((timeline) => timeline.name === name)!
  return {
    project,
    does,
    timeline,
    /** Where placements begin and end, and where in their source, by track. */
    cut: (name?: string) =>
      Object.fromEntries(
        timeline(name).tracks.map((track) => [
          track.name,
          track.placements.map((placement) => [
            placement.start,
            placement.start + placement.length,
            Number(toNumber(placement.sourceIn).toFixed(4)),
          ]),
        ]),
      ),
    heard: (name?: string) => heardIn(project.doc(), timeline(name)),
  }
}
const v = (index: number) => ({ track: 'V1', index })
const bell = { do: 'place', clip: 'bell', from: 0, to: 249 }
const halves = [bell, { do: 'cut', frame: 100 }]
const whole = [
  [0, 100, 0],
  [100, 250, 4],
]

describe('a cut of a clip with its sound', () => {
  it('leaves two linked pairs, of which one can be removed', () => {
    const { cut, does, timeline } = after('1920x1080@25p', ...halves)
    expect(cut()).toEqual({ V1: whole, A1: whole })
    const links = timeline().tracks.map(({ placements }) => placements.map(({ pairId }) => pairId))
    expect(links[0]).toEqual(links[1])
    expect(new Set(links[0]).size).toBe(2)
    does({ do: 'remove', placements: [v(1)] })
    expect(cut()).toEqual({ V1: [[0, 100, 0]], A1: [[0, 100, 0]] })
  })

  it.each([
    ['trimmed', { do: 'trim', placement: v(1), edge: 'start', frames: 10 }, [whole[0], [110, 250, 4.4]]],
    ['slipped', { do: 'slip', placement: v(1), frames: 25 }, [whole[0], [100, 250, 5]]],
    ['moved', { do: 'move', placement: v(1), to: 400 }, [whole[0], [400, 550, 4]]],
  ])('has the one half %s, sound and all, and the other left alone', (_, step, stands) => {
    const { cut, does } = after('1920x1080@25p', ...halves)
    expect(does(step)).toEqual([null])
    expect(cut()).toEqual({ V1: stands, A1: stands })
  })
})

describe('the speed of a sound is that of its picture', () => {
  const everyFrame = { kind: 'speed', pace: { kind: 'every-frame' }, wanted: false, keepPitch: true }
  it.each([
    ['23.976 in 24, every frame once', '1920x1080@24p', 'film', everyFrame, 1001 / 1000, 1.001],
    ['50i in 50p, every frame once', '1920x1080@50p', 'fields', everyFrame, 1, 2],
    ['at twice the speed', '1920x1080@25p', 'bell', factor(2), 2, 2],
  ])('%s', (_, format, clip, motion, least, most) => {
    const { heard, timeline, project } = after(
      format,
      { do: 'place', clip },
      { do: 'treat', placements: [v(0)], set: { motion } },
    )
    const [sound] = heard()
    expect(toNumber(sound!.speed)).toBeGreaterThanOrEqual(least)
    expect(toNumber(sound!.speed)).toBeLessThanOrEqual(most)
    // As far into its source at the end as the picture is.
    const last = lengthOf(timeline()) - 2
    const [layer] = layersAt(project.doc(), timeline(), last)
    const { rate } = project.doc().clips[clip]!.reading!.video!
    const shown = layer!.shown
    const index = shown.kind === 'frame' ? shown.index : shown.kind === 'field' ? shown.frame : NaN
    const moment = toNumber(sound!.speed) * (last / toNumber(timeline().rate!))
    expect(Math.abs(moment - index / toNumber(rate!))).toBeLessThan(1.1 / toNumber(rate!))
  })

  it('of a variable clip, frame for frame', () => {
    const { heard } = after(
      '1920x1080@25p',
      { do: 'place', clip: 'phone', from: 0, to: 200 },
      { do: 'treat', placements: [v(0)], set: { motion: everyFrame } },
    )
    const parts = heard()
    expect(parts.length).toBeGreaterThan(10)
    // A frame that lasts a tenth of a second is on for a 25th: its sound passes as much faster.
    expect(Math.max(...parts.map(({ speed }) => toNumber(speed)))).toBeCloseTo(2.5, 5)
  })

  it.each([
    ['bell', '1920x1080@24p', '24', 24 / 25],
    ['quick', '1920x1080@25p', '25', 1 / 2],
  ])('of %s after its rate was corrected', (clip, format, rate, speed) => {
    const { heard, does } = after(format, { do: 'place', clip })
    expect(does({ do: 'correct', clip, set: { rate } })).toEqual([null])
    expect(heard().map((heard) => toNumber(heard.speed))).toEqual([speed])
  })
})

const factor = (num: number, den = 1) => ({
  kind: 'speed',
  pace: { kind: 'factor', factor: { num, den } },
  wanted: true,
  keepPitch: true,
})

describe('a step', () => {
  it('that plays every frame once is as long as there are frames', () => {
    const { cut } = after(
      '1920x1080@50p',
      { do: 'place', clip: 'bell' },
      {
        do: 'treat',
        placements: [v(0)],
        set: { motion: { kind: 'speed', pace: { kind: 'every-frame' }, wanted: false, keepPitch: true } },
      },
    )
    expect(cut()).toEqual({ V1: [[0, 500, 0]], A1: [[0, 500, 0]] })
  })

  it('never trims a variable clip to before its source', () => {
    const { cut, does } = after(
      '1920x1080@25p',
      { do: 'place', clip: 'phone', from: 20, to: 200 },
      {
        do: 'treat',
        placements: [v(0)],
        set: { motion: { kind: 'speed', pace: { kind: 'every-frame' }, wanted: false, keepPitch: true } },
      },
      { do: 'move', placement: v(0), to: 100 },
    )
    does({ do: 'trim', placement: v(0), edge: 'start', frames: -60 })
    const [[start, , sourceIn]] = cut().V1 as [[number, number, number]]
    expect(sourceIn).toBeGreaterThanOrEqual(0)
    expect(start).toBeGreaterThanOrEqual(79)
  })

  it('that un-nests loud sound in loud sound keeps within what a project can hold', () => {
    const { does, project, timeline } = after('1920x1080@25p', bell, {
      do: 'timeline',
      name: 'Outer',
      format: '1920x1080@25p',
    })
    does({ do: 'nest', timeline: 'Main', in: 'Outer' })
    const louder = structuredClone(project.doc()) as never as {
      timelines: Record<string, { tracks: { kind: string; placements: { gain: number }[] }[] }>
    }
    for (const { tracks } of Object.values(louder.timelines))
      for (const { kind, placements } of tracks)
        if (kind === 'audio') for (const placement of placements) placement.gain = 150
    const again = editing(louder as never)
    expect(again.step({ do: 'unnest', placement: { track: 'V1', index: 0, timeline: 'Outer' } })).toBeNull()
    const sounds = timelinesOf(again.doc())
      .find(({ name }) => name === 'Outer')!
      .tracks.filter(({ kind }) => kind === 'audio')
    expect(sounds.flatMap(({ placements }) => placements.map(({ gain }) => gain))).toEqual([200])
    expect(timeline('Outer').tracks).toBeDefined()
  })

  it('that restores a point brings back a file that was replaced since', () => {
    const { does, cut, project } = after('1920x1080@25p', bell, { do: 'point', name: 'before' })
    const stood = cut()
    expect(does({ do: 'replace', clip: 'bell', with: 'quick' }, { do: 'restore', name: 'before' })).toEqual([
      null,
      null,
    ])
    expect(cut()).toEqual(stood)
    expect(toNumber(project.doc().clips.bell!.reading!.video!.rate!)).toBe(25)
  })

  it('that adds a timeline leaves a deliverable with the one that it was for', () => {
    const { project, timeline } = after('1920x1080@25p', bell)
    const deliverable = deliverableOf('d', 'For the hall', parseFormat('1920x1080@25p')!.format)
    const doc = project.doc()
    const again = editing({ ...doc, project: { ...doc.project, deliverables: [deliverable] } })
    expect(deliverable.timelineId).toBeNull()
    expect(again.step({ do: 'timeline', name: 'Second' })).toBeNull()
    expect(again.doc().project.deliverables[0]!.timelineId).toBe(timeline().id)
  })

  it('is undone and done again', () => {
    const { does, cut } = after('1920x1080@25p', ...halves)
    does({ do: 'undo' })
    expect(cut().V1).toEqual([[0, 250, 0]])
    does({ do: 'redo' })
    expect(cut().V1).toEqual(whole)
    expect(does({ do: 'redo' })).toEqual(['There is nothing to redo.'])
  })

  it.each([
    [{ do: 'jump' }, /^The step cannot be read: /],
    [{ do: 'cut', frame: 9999 }, /^Nothing lies across frame 9999/],
    [{ do: 'trim', placement: 'none', edge: 'end', frames: 1 }, /no placement “none”/],
    [{ do: 'trim', placement: v(0), edge: 'end', frames: 9999 }, /^$/],
    [{ do: 'place', clip: 'nobody' }, /no clip “nobody”/],
    [{ do: 'nest', timeline: 'Main', in: 'Main' }, /cannot hold it/],
    [{ do: 'restore', name: 'never' }, /no restore point/],
    [{ do: 'correct', clip: 'bell', set: { rate: 'fast' } }, /not a rate/],
    [{ do: 'correct', clip: 'bell', set: { mood: null } }, /“mood” is nothing that is corrected/],
    [{ do: 'move', placement: v(0), to: 10, track: 'V7' }, /no track “V7”/],
    [{ do: 'unnest', placement: v(0) }, /shows no timeline/],
    [{ do: 'link', placements: [v(0)] }, /select both/],
  ])('%j is told why not, or goes as far as it can', (step, why) => {
    const { does, project } = after('1920x1080@25p', bell)
    const before = project.doc()
    const [said] = does(step)
    expect(said ?? '').toMatch(why)
    if (said) expect(project.doc()).toBe(before)
  })
})
