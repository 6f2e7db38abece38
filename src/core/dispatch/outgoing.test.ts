import { describe, expect, it } from 'vitest'
import { deliverableOf } from '../model/deliverable'
import { aDoc, aVideo } from '../model/doc.fixture'
import { compose } from '../compose/compose'
import { drawnPlanes, ground, plain, raster } from '../compose/compose.fixture'
import type { StoredPicture } from '../compose/stored'
import { layersAt } from '../plan/layers'
import { addTimeline } from '../edit/operations'
import { newTimeline, placementOf } from '../edit/placing'
import type { Doc } from '../model/project'
import { lengthOf } from '../model/timeline'
import { parseFormat } from '../format/parse'
import { motionLine } from '../motion/line'
import { framesShown } from '../motion/shown'
import { toNumber } from '../rational/rational'
import type { Override } from '../treatment/treatment'
import { framesOfCut, outgoing } from './outgoing'

const formatOf = (text: string) => parseFormat(text)!.format

/** A cut of clips one after the other in a format of its own, of so many frames each. */
function aCut(format: string, clips: readonly string[], length = 50): Doc {
  const doc = aDoc(clips.map((kind, i) => aVideo(`c${i}`, kind, 20)))
  const timeline = newTimeline('t', 'Main cut', '2026-05-01T10:00:00Z', formatOf(format))
  const placements = clips.map((_, i) => ({
    ...placementOf(doc.clips[`c${i}`]!, formatOf(format), `p${i}`),
    start: i * length,
    length,
  }))
  addTimeline(doc, {
    ...timeline,
    tracks: timeline.tracks.map((t, i) => (i ? t : { ...t, placements })),
  })
  return doc
}
const outOf = (cut: string, to: string, treatment: Override = {}, clips = [cut]) =>
  outgoing(aCut(cut, clips), { ...deliverableOf('d', 'Out', formatOf(to)), timelineId: 't', treatment })!

/** The first frames that go out, as short as they are told. */
const list = (cut: string, to: string, treatment: Override = {}, count = 10) => {
  const out = outOf(cut, to, treatment)
  const frames = Array.from({ length: count }, (_, n) => ({ n, id: 'x', shown: framesOfCut(out, n) }))
  return motionLine(frames).map(({ text, below }) => (below ? `${text} ${below}` : text))
}

describe('the frames that go out', () => {
  it('are those of the cut where rate and scan are the same', () => {
    expect(list('3840x2160@25p', '1920x1080@25p', {}, 3)).toEqual(['0', '1', '2'])
  })
  it('of 23.976p as 29.97i are pulled down: each frame two fields and three in turn', () => {
    expect(list('1920x1080@23.976p', '1920x1080@29.97i')).toEqual([
      ...['0', '1', '1t 2b', '2t 3b', '3'],
      ...['4', '5', '5t 6b', '6t 7b', '7'],
    ])
  })
  it('of 25p as 50i are whole frames', () => {
    expect(list('1920x1080@25p', '1920x1080@50i', {}, 4)).toEqual(['0', '1', '2', '3'])
  })
  it('of 50p as 50i are a frame for each field, the first one first', () => {
    expect(list('1920x1080@50p', '1920x1080@50i', {}, 3)).toEqual(['0t 1b', '2t 3b', '4t 5b'])
  })
  it('of 59.94p as 29.97p are every second one', () => {
    const shown = list('1920x1080@59.94p', '1920x1080@29.97p', {}, 4).map(Number)
    expect(shown.slice(1).map((n, i) => n - shown[i]!)).toEqual([2, 2, 2])
  })
  it('of 25p as 24p leave one out a second, unless each is shown and all runs slower', () => {
    expect(new Set(list('1920x1080@25p', '1920x1080@24p', {}, 24)).size).toBe(24)
    expect(list('1920x1080@25p', '1920x1080@24p', {}, 25).at(-1)).toBe('25')
    const slower: Override = {
      motion: { kind: 'speed', pace: { kind: 'every-frame' }, wanted: false, keepPitch: true },
    }
    expect(list('1920x1080@25p', '1920x1080@24p', slower, 26).map(Number)).toEqual(
      Array.from({ length: 26 }, (_, n) => n),
    )
  })
})

describe('what goes out', () => {
  it('scales each picture once: HD in a UHD cut goes into HD as it was filmed', () => {
    const out = outOf('3840x2160@25p', '1920x1080@25p', {}, ['1920x1080@25p', '3840x2160@25p'])
    const scales = [0, 50].map((n) => layersAt(out.doc, out.timeline, n)[0]!.rasterMap.scaleX)
    expect(scales).toEqual([
      { num: 1, den: 1 },
      { num: 1, den: 2 },
    ])
    const alsoSlower = outOf('3840x2160@50p', '1920x1080@25p', {}, ['1920x1080@50p'])
    expect(layersAt(alsoSlower.doc, alsoSlower.timeline, 3)[0]!.rasterMap.scaleX).toEqual({ num: 1, den: 1 })
  })
  it('lasts as long as the cut, and no longer than its range', () => {
    expect(outOf('1920x1080@25p', '1920x1080@50p').range).toEqual({ from: 0, to: 100 })
    const doc = aCut('1920x1080@25p', ['1920x1080@25p'])
    const deliverable = {
      ...deliverableOf('d', 'Out', formatOf('1920x1080@25p')),
      range: { from: 10, to: 99 },
    }
    expect(outgoing(doc, deliverable)?.range).toEqual({ from: 10, to: 50 })
  })
  it('fills another shape, or fits into it, as the deliverable says', () => {
    const [fill, fit] = (['fill', 'fit'] as const).map((kind) => {
      const out = outOf('1920x1080@25p', '1080x1920@25p', { framing: { mode: { kind } } })
      return layersAt(out.doc, out.timeline, 0)[0]!.rasterMap.scaleX
    })
    expect(fill).toEqual({ num: 16, den: 9 })
    expect(fit).toEqual({ num: 9, den: 16 })
  })
  it('is not known before a timeline is, where there are several', () => {
    const doc = aCut('1920x1080@25p', ['1920x1080@25p'])
    const two = {
      ...doc,
      project: { ...doc.project, timelineOrder: ['t', 'u'] },
      timelines: { ...doc.timelines, u: { ...doc.timelines.t!, id: 'u' } },
    }
    const open = deliverableOf('d', 'Out', formatOf('1920x1080@25p'))
    expect(outgoing(two, open)).toBeNull()
    expect(outgoing(two, { ...open, timelineId: 'u' })?.source.id).toBe('u')
    expect(lengthOf(outgoing(doc, open)!.timeline)).toBe(50)
  })
})

describe('what goes out is scaled once and deinterlaced once', () => {
  it('has all frames of the cut where each is shown once', () => {
    const everyFrame: Override = {
      motion: { kind: 'speed', pace: { kind: 'every-frame' }, wanted: true, keepPitch: true },
    }
    for (const [from, to, frames] of [
      ['25p', '24p', 250],
      ['24p', '25p', 250],
      ['50p', '25p', 250],
    ] as const) {
      const doc = aCut(`1920x1080@${from}`, [`1920x1080@${from}`], 250)
      const deliverable = {
        ...deliverableOf('d', 'Out', formatOf(`1920x1080@${to}`)),
        timelineId: 't',
        treatment: everyFrame,
      }
      const out = outgoing(doc, deliverable)!
      expect([out.range.to, ...framesShown(framesOfCut(out, frames - 1))]).toEqual([frames, frames - 1])
    }
  })

  it('takes each field of an interlaced cut from its source, made whole and scaled to the deliverable', () => {
    const out = outOf('1920x1080@50i', '1280x720@50p', {}, [
      '720x576/64:45@50i',
      '1920x1080@25p',
      '1920x1080@50p',
    ])
    const at = (n: number) =>
      layersAt(out.doc, out.timeline, n).map(({ source, shown, inFields }) => [source.kind, shown, inFields])
    const field = (frame: number, parity: 'top' | 'bottom') => ({
      kind: 'field',
      frame,
      parity,
      method: 'adaptive',
    })
    expect([at(0), at(1), at(7)]).toEqual([
      [['clip', field(0, 'top'), null]],
      [['clip', field(0, 'bottom'), null]],
      [['clip', field(3, 'bottom'), null]],
    ])
    // What was whole in the cut is whole, and of a field from each frame that frame.
    expect([at(101), at(201), at(204)]).toEqual([
      [['clip', { kind: 'frame', index: 0 }, null]],
      [['clip', { kind: 'frame', index: 1 }, null]],
      [['clip', { kind: 'frame', index: 4 }, null]],
    ])
    const [layer] = layersAt(out.doc, out.timeline, 0)
    expect(toNumber(layer!.rasterMap.scaleY)).toBe(720 / 576)
  })

  it('comes out as its source deinterlaced and scaled, not as its cut deinterlaced again', () => {
    // A texture that moves across, two lines higher with each field.
    const [width, height] = [96, 64]
    const moment = (t: number, x: number, y: number) =>
      128 + 60 * Math.sin((x - 3 * t) / 5) + 40 * Math.sin(y / 3 + t / 2)
    const interlaced = (frame: number): StoredPicture => ({
      ...drawnPlanes(width, height, false),
      planes: {
        ...drawnPlanes(width, height, false).planes,
        luma: Uint8Array.from({ length: width * height }, (_, i) => {
          const y = Math.floor(i / width)
          return moment(2 * frame + (y % 2), i % width, y)
        }),
      },
    })
    const out = outOf(`${width}x${height}@50i`, '72x48@50p', {}, [`${width}x${height}@50i`])
    const ideal = (t: number, x: number, y: number) =>
      moment(t, ((x + 0.5) * width) / 72 - 0.5, ((y + 0.5) * height) / 48 - 0.5)
    for (const n of [6, 7, 12]) {
      const layers = layersAt(out.doc, out.timeline, n)
      const planes = compose(
        layers.map((layer) => ({ ...layer, frameOf: interlaced })),
        ground,
        raster(72, 48),
        plain,
      )
      let error = 0
      for (let y = 4; y < 44; y++)
        for (let x = 4; x < 68; x++) error += (planes.luma[y * 72 + x]! - ideal(n, x, y)) ** 2
      expect(10 * Math.log10((255 ** 2 * 40 * 64) / error), `frame ${n}`).toBeGreaterThan(34)
    }
  })
})
