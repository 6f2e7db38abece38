import { describe, expect, it } from 'vitest'
import { aDoc, aVideo } from '../model/doc.fixture'
import { addTimeline, setProjectFormat } from '../edit/operations'
import { correct } from '../edit/correction'
import { append, newTimeline, placementOf } from '../edit/placing'
import { parseFormat } from '../format/parse'
import { rational } from '../rational/rational'
import { applyCorrections, consequences } from './correct'

const reading = (format: string, seconds: number) => aVideo('c', format, seconds).reading!

describe('corrections', () => {
  it('of the rate keep the frames and change the time', () => {
    const claimed = reading('1920x1080@50p', 4)
    const corrected = applyCorrections(claimed, { rate: rational(25) })
    expect(corrected.durationSec).toBe(8)
    expect(corrected.video).toMatchObject({
      rate: { num: 25, den: 1 },
      frameCount: 200,
      rateMode: 'constant',
    })
    expect(claimed.durationSec).toBe(4)
    expect(consequences(claimed, { rate: rational(25) })[0]).toMatch(
      /Slow motion from real frames: 50 % speed, 4.00 s become 8.00 s. No frame is created/,
    )
    expect(consequences(claimed, { rate: rational(100) })[0]).toMatch(/200 % speed, 4.00 s become 2.00 s/)
  })

  it('take all that the file holds for the picture, before bars are taken off, and say so', () => {
    const claimed = reading('1920x1080@24p', 4)
    Object.assign(claimed.video!, { dataWindow: { left: -20, top: -10, width: 1960, height: 1100 } })
    const held = applyCorrections(claimed, { window: 'data' }).video!
    expect([held.width, held.height]).toEqual([1960, 1100])
    const cropped = applyCorrections(claimed, {
      window: 'data',
      crop: { left: 0, right: 0, top: 10, bottom: 20 },
    }).video!
    expect([cropped.width, cropped.height]).toEqual([1960, 1070])
    expect(consequences(claimed, { window: 'data' })).toEqual([
      'All that the file holds is the picture: 1960×1100 instead of 1920×1080.',
    ])
    // Where both are one there is nothing to take.
    expect(applyCorrections(reading('1920x1080@24p', 4), { window: 'data' }).video!.width).toBe(1920)
  })

  it('of a variable rate make it steady', () => {
    const claimed = reading('1920x1080@30p', 4)
    Object.assign(claimed.video!, {
      rateMode: 'variable',
      minRate: 24,
      maxRate: 31,
      meanRate: 29,
      offNominalShare: 0.1,
    })
    const { video } = applyCorrections(claimed, { rate: rational(30) })
    expect(video!.rateMode).toBe('constant')
    expect(video!.minRate).toBeUndefined()
  })

  it('of shape, turn, scan and order say what they do', () => {
    const claimed = reading('720x576@25p', 2)
    const corrections = {
      pixelAspect: rational(64, 45),
      scan: 'interlaced',
      fieldOrder: 'top-first',
      rotation: 180,
    } as const
    const { video } = applyCorrections(claimed, corrections)
    expect(video).toMatchObject({
      pixelAspect: { num: 64, den: 45 },
      scan: 'interlaced',
      fieldOrder: 'top-first',
      rotation: 180,
    })
    expect(consequences(claimed, corrections)).toHaveLength(4)
    expect(consequences(claimed, corrections)[0]).toBe('Shows as 1024×576, 16:9, instead of 5:4.')
    expect(consequences(claimed, {})).toEqual([])
  })

  it('of progressive forget the field order', () => {
    expect(
      applyCorrections(reading('1920x1080@50i', 1), { scan: 'progressive' }).video!.fieldOrder,
    ).toBeNull()
  })

  it('say whether colours are multiplied by alpha, where there is any', () => {
    const alphaOf = (alpha: boolean, premultiplied: boolean) => {
      const claimed = reading('1920x1080@25p', 1)
      const video = { ...claimed.video!, alpha, ...(premultiplied ? { premultiplied: true as const } : {}) }
      return { ...claimed, video }
    }
    expect(applyCorrections(alphaOf(true, false), { premultiplied: true }).video!.premultiplied).toBe(true)
    expect(applyCorrections(alphaOf(true, true), { premultiplied: false }).video).not.toHaveProperty(
      'premultiplied',
    )
    expect(applyCorrections(alphaOf(true, true), { rotation: 90 }).video!.premultiplied).toBe(true)
    expect(applyCorrections(alphaOf(false, false), { premultiplied: true }).video).not.toHaveProperty(
      'premultiplied',
    )
    expect(consequences(alphaOf(true, true), { premultiplied: false })).toEqual([
      'Its colours are taken as they are: bright edges go.',
    ])
  })

  it('keep the claim, can be taken back, and leave placements at their frames', () => {
    const format = parseFormat('1920x1080@25p')!.format
    const doc = aDoc([aVideo('bell', '1920x1080@50p', 4)])
    setProjectFormat(doc, { at: '', setBy: 'typed', format, reason: '' })
    addTimeline(doc, newTimeline('t', 'Cut', ''))
    append(doc, 't', [{ ...placementOf(doc.clips.bell!, format, 'p'), sourceIn: rational(1) }])
    const claimed = doc.clips.bell!.reading
    correct(doc, ['bell'], { rate: rational(25) })
    expect(doc.clips.bell!.claimed).toEqual(claimed)
    expect(doc.clips.bell!.reading!.durationSec).toBe(8)
    // Frame 50 stood at 1 s and stands at 2 s now.
    expect(doc.timelines.t!.tracks[0]!.placements[0]!.sourceIn).toEqual({ num: 2, den: 1 })
    correct(doc, ['bell'], { rate: null })
    expect(doc.clips.bell!.reading).toEqual(claimed)
    expect(doc.clips.bell!.claimed).toBeNull()
    expect(doc.timelines.t!.tracks[0]!.placements[0]!.sourceIn).toEqual({ num: 1, den: 1 })
  })
})
