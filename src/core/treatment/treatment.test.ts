import { describe, expect, it } from 'vitest'
import { type PictureFacts, pictureOf } from '../picture/picture'
import { rational } from '../rational/rational'
import { Rule, meets } from './rule'
import { Override, Treatment, plainTreatment, treated } from './treatment'
import { wayWords } from './words'
import type { Taking } from './run'

const framing = (set: object) => Override.safeParse({ framing: set }).success
const reason = (set: object) => Override.safeParse({ framing: set }).error?.issues[0]?.message

describe('a treatment', () => {
  it('is read as it is written', () => {
    expect(Treatment.parse(JSON.parse(JSON.stringify(plainTreatment)))).toEqual(plainTreatment)
  })

  it('keeps zooms, scales and places within what a raster can hold, each to its very end', () => {
    const zoom = (num: number, den = 1) => framing({ zoom: { num, den } })
    expect([zoom(1, 1000), zoom(100), zoom(10001, 100), zoom(0), zoom(-1)]).toEqual([
      true,
      true,
      false,
      false,
      false,
    ])
    const placed = (scaleX: number, scaleY: number, x = 0, y = 0) => ({
      mode: {
        kind: 'placed',
        scaleX: rational(scaleX),
        scaleY: rational(scaleY),
        x: rational(x),
        y: rational(y),
      },
    })
    expect(framing(placed(1000, 1))).toBe(true)
    expect(framing(placed(1, 1001))).toBe(false)
    expect(framing(placed(0, 1))).toBe(false)
    expect(framing(placed(1, -1))).toBe(false)
    expect(framing(placed(1, 1, 2 ** 20, -(2 ** 20)))).toBe(true)
    expect(framing(placed(1, 1, 2 ** 20 + 1))).toBe(false)
    expect(framing({ position: { x: rational(0), y: rational(-(2 ** 20) - 1) } })).toBe(false)
    expect(reason({ zoom: rational(0) })).toBe('a zoom is more than 0 and at most 100')
    expect(reason(placed(1, 0))).toBe('a scale is more than 0 and at most 1000')
    expect(reason(placed(1, 1, 2 ** 21))).toBe('it lies off every raster')
  })

  it('keeps crops, sharpening and phases within theirs', () => {
    const crop = (left: number) => framing({ crop: { left, right: 0, top: 0, bottom: 0 } })
    expect([crop(0), crop(12.5), crop(-1)]).toEqual([true, true, false])
    const sharpen = (amount: number, radius: number) => framing({ sharpen: { amount, radius } })
    expect([sharpen(0, 0.1), sharpen(5, 20), sharpen(6, 1), sharpen(1, 0), sharpen(-1, 1)]).toEqual([
      true,
      true,
      false,
      false,
      false,
    ])
    const phase = (value: number) =>
      Override.safeParse({ motion: { kind: 'pulldown', phase: value } }).success
    expect([0, 1, 2, 3, 4, 5, -1].map(phase)).toEqual([true, true, true, true, true, false, false])
  })

  it('takes what is set, fact by fact, the later over the earlier', () => {
    const zoom = rational(3, 2)
    const result = treated([
      { motion: { kind: 'blend' }, framing: { mode: { kind: 'fill' }, filter: 'bicubic' } },
      { framing: { zoom, filter: undefined }, motion: undefined },
      { framing: { mode: { kind: 'stretch' } }, colour: 'none' },
    ])
    expect(result).toEqual({
      ...plainTreatment,
      motion: { kind: 'blend' },
      colour: 'none',
      framing: { ...plainTreatment.framing, mode: { kind: 'stretch' }, zoom, filter: 'bicubic' },
    })
    expect(treated([])).toEqual(plainTreatment)
    expect(treated([{ shiftOrder: true }], result)).toEqual({ ...result, shiftOrder: true })
  })
})

describe('a rule', () => {
  const tapeFacts: PictureFacts = {
    width: 720,
    height: 576,
    pixelAspect: rational(64, 45),
    rotation: 0,
    rate: rational(25),
    rateMode: 'constant',
    scan: 'interlaced',
    fieldOrder: 'top-first',
    bitDepth: 8,
    colour: { primaries: 'bt709', transfer: 'bt709', matrix: null, range: null },
  }
  const tape = pictureOf(tapeFacts)
  const square = pictureOf({ ...tapeFacts, width: 1920, height: 1080, pixelAspect: rational(1) })
  const hlg = { ...square, transfer: 'hlg' as const }

  it('holds for the clips that have all that it names', () => {
    expect(meets(tape, {})).toBe(true)
    expect(meets(tape, { rate: rational(25), scan: 'interlaced' })).toBe(true)
    expect(meets(tape, { rate: rational(25), scan: 'progressive' })).toBe(false)
    expect(meets(tape, { rate: rational(50), scan: 'interlaced' })).toBe(false)
    const { width, height, pixelAspect } = tape
    expect(meets(tape, { size: { width, height, pixelAspect } })).toBe(true)
    expect(meets(tape, { size: { width, height, pixelAspect: rational(1) } })).toBe(false)
    expect(meets(tape, { size: { width: 1920, height: 1080, pixelAspect }, rate: rational(25) })).toBe(false)
    expect(meets({ ...tape, rate: null }, { rate: rational(25) })).toBe(false)
  })

  it('means the size as it stands upright, and the range of light', () => {
    const upright = { ...square, rotation: 90 as const }
    const size = { width: 1080, height: 1920, pixelAspect: rational(1) }
    expect(meets(upright, { size })).toBe(true)
    expect(meets(upright, { size: { ...size, width: 1920, height: 1080 } })).toBe(false)
    expect([meets(hlg, { hdr: true }), meets(hlg, { hdr: false })]).toEqual([true, false])
    expect([meets(upright, { hdr: true }), meets(upright, { hdr: false })]).toEqual([false, true])
  })

  it('has a name and says whether it is on', () => {
    const rule = { id: 'r', when: { scan: 'interlaced' }, set: { fields: { kind: 'blend' } }, on: true }
    expect(Rule.parse(rule)).toEqual(rule)
    expect(Rule.safeParse({ ...rule, id: '' }).success).toBe(false)
    expect(Rule.safeParse({ ...rule, on: undefined }).success).toBe(false)
  })
})

describe('the way of a placement, in words', () => {
  const words = (taking: Taking, steps = false) =>
    wayWords({ passing: steps ? { kind: 'step-by-step' } : { kind: 'in-time', factor: rational(1) }, taking })
  const deinterlaced = (
    method: 'interpolate' | 'blend',
    keep: 'first' | 'second' | 'each',
    mixed = false,
  ): Taking => ({
    kind: 'deinterlaced',
    method,
    keep,
    mixed,
  })

  it('says how frames are taken', () => {
    expect(words({ kind: 'frames', mixed: false })).toBe('frames held as they land')
    expect(words({ kind: 'frames', mixed: true })).toBe('neighbouring frames mixed')
    expect(words({ kind: 'frames', mixed: false }, true)).toBe('every frame once')
  })

  it('says how fields are made frames, and frames fields', () => {
    expect(words(deinterlaced('interpolate', 'each'))).toBe('each field made a frame')
    expect(words(deinterlaced('interpolate', 'second', true))).toBe('the second field of each frame, mixed')
    expect(words(deinterlaced('interpolate', 'first'), true)).toBe(
      'the first field of each frame, every frame once',
    )
    expect(words(deinterlaced('blend', 'each'))).toBe('both fields averaged')
    expect(words({ kind: 'fields', outOf: 'frames' })).toBe('a field from each frame')
    expect(words({ kind: 'fields', outOf: 'fields' })).toBe('fields stay fields')
    expect(words({ kind: 'pulldown', phase: 0 })).toBe('2:3 pulldown')
    expect(words({ kind: 'remove-pulldown', phase: 2 })).toBe('2:3 pulldown removed')
  })
})
