import { describe, expect, it } from 'vitest'
import { makeFormat } from '../format/format'
import { parseFormat } from '../format/parse'
import { rational } from '../rational/rational'
import type { Charge, ChargeKind, Grade } from './charge'
import { cadenceCharges } from './motion-charges'
import type { Picture } from './picture'
import { defaultPolicy } from './policy'
import { pictureOfFormat, tollOf } from './toll'
import { type Treatment, plainTreatment } from './treatment'

const hd = parseFormat('1920x1080@25p')!.format
const clip = (width: number, height: number, more: Partial<Picture> = {}): Picture => ({
  ...pictureOfFormat(makeFormat({ width, height }, rational(25))),
  ...more,
})
const charge = (picture: Picture, kind: ChargeKind, treatment: Partial<Treatment> = {}): Charge =>
  tollOf(picture, hd, { ...plainTreatment, ...treatment }).charges.find((c) => c.kind === kind)!
const motion = (S: [number, number?], T: [number, number?], treatment: Partial<Treatment> = {}) =>
  cadenceCharges(rational(...S), rational(...T), { ...plainTreatment, ...treatment }, defaultPolicy)[0]

describe('the weights of the table of charges', () => {
  it('stand in one value', () => {
    expect(defaultPolicy).toEqual({
      unusedDetail: 0.3,
      barsOrCrop: 0.5,
      distortion: 2,
      evenHold: 0.03,
      evenSkip: 0.05,
      slip: 0.02,
      slipPerMinute: 0.01,
      slipMost: 0.1,
      judderPerMs: 0.04,
      judderMost: 0.6,
      speedSlight: 0.005,
      speed: 0.2,
      deinterlaceSameRate: 0.15,
      deinterlaceDoubleRate: 0.08,
      weave: 0.6,
      fieldOrder: 0.03,
      fieldRescale: 0.15,
      variableRate: 0.02,
      variableMost: 0.2,
      dynamicRange: 0.1,
      primaries: 0.01,
      depth: 0.02,
    })
  })
})

describe('the limits of the grades', () => {
  it.each<[number, Grade]>([
    [1.1, 'light'],
    [1.11, 'heavy'],
    [1.5, 'heavy'],
    [1.51, 'severe'],
  ])('enlarged %f is %s', (zoom, grade) => {
    const { grade: given, loss } = charge(clip(1920, 1080), 'enlarge', { zoom })
    expect(given).toBe(grade)
    expect(loss).toBeCloseTo(1 - 1 / zoom ** 2, 12)
  })

  it.each<[number, Grade]>([
    [0.05, 'light'],
    [0.051, 'heavy'],
    [0.35, 'heavy'],
    [0.351, 'severe'],
  ])('bars and crop of %f are %s', (share, grade) => {
    // A picture of the frame's height that leaves the share of its width empty, and one that hangs out by it.
    const narrow = tollOf(
      clip(2000 * (1 - share), 1000),
      { ...hd, width: 2000, height: 1000 },
      plainTreatment,
    ).charges.find((c) => c.kind === 'bars')!
    expect([narrow.grade, narrow.loss]).toEqual([grade, expect.closeTo(0.5 * share, 12)])
    const wide = tollOf(
      clip(2000, 1000),
      { ...hd, width: 2000 * (1 - share), height: 1000 },
      {
        ...plainTreatment,
        framing: 'native',
      },
    ).charges.find((c) => c.kind === 'crop')!
    expect([wide.grade, wide.loss]).toEqual([grade, expect.closeTo(0.5 * share, 12)])
  })

  it.each<[number, Grade]>([
    [1.009, 'light'],
    [1.011, 'heavy'],
    [1.029, 'heavy'],
    [1.031, 'severe'],
  ])('distortion of %f is %s', (ratio, grade) => {
    const stretched = tollOf(
      clip(10_000, 10_000),
      { ...hd, width: ratio * 10_000, height: 10_000 },
      {
        ...plainTreatment,
        framing: 'stretch',
      },
    ).charges.find((c) => c.kind === 'distort')!
    expect(stretched.grade).toBe(grade)
    expect(stretched.loss).toBeCloseTo(2 * Math.log(ratio), 9)
  })

  it('judder is light to 4 ms, heavy to 10 ms, then severe, and never loses more than 0.6', () => {
    expect(motion([100], [24000, 1001])).toMatchObject({ kind: 'uneven', grade: 'light' })
    expect(motion([25], [24])).toMatchObject({ kind: 'uneven', grade: 'heavy' })
    expect(motion([25], [30])).toMatchObject({ kind: 'uneven', grade: 'severe' })
    expect(motion([25], [30]).loss).toBeCloseTo(0.04 * 13.333, 4)
    expect(motion([9], [12]).loss).toBe(0.6)
  })

  it('a slip loses 0.02 and a hundredth for each in a minute, at most a tenth', () => {
    // One each 41.7 s is 1.44 a minute.
    expect(motion([24000, 1001], [24]).loss).toBeCloseTo(0.02 + 0.01 * (60 / 41.708), 5)
    expect(motion([119_800, 1000], [120]).loss).toBeCloseTo(0.02 + 0.1, 12)
  })

  it('every second frame left out loses half of 0.05, four of five four fifths', () => {
    expect(motion([50], [25])).toMatchObject({ kind: 'even-skip', grade: 'light', loss: 0.025 })
    expect(motion([120_000, 1001], [24_000, 1001]).loss).toBeCloseTo(0.04, 12)
  })

  it('another speed is slight within 0.1 %, else dear unless it is wanted', () => {
    const every = { motion: 'every-frame' } as const
    expect(motion([24000, 1001], [24], every)).toMatchObject({ grade: 'light', loss: 0.005 })
    expect(motion([24], [25], every)).toMatchObject({ grade: 'heavy', loss: 0.2 })
    expect(motion([60], [24], { ...every, speedWanted: true })).toMatchObject({ loss: 0 })
  })

  it('a variable rate is light to one frame in a hundred, and loses at most 0.22', () => {
    const varying = (offNominalShare: number) =>
      charge(clip(1920, 1080, { offNominalShare, minRate: 20, maxRate: 30 }), 'variable-rate')
    expect(varying(0.01)).toMatchObject({ grade: 'light', loss: 0.03 })
    expect(varying(0.011).grade).toBe('heavy')
    expect(varying(0.6).loss).toBeCloseTo(0.22, 12)
  })

  it('fields are kept only in the same lines, rate and order', () => {
    const fields = (text: string, more: Partial<Picture> = {}, format = '1920x1080@50i') =>
      tollOf(
        { ...pictureOfFormat(parseFormat(text)!.format), ...more },
        parseFormat(format)!.format,
      ).charges.map((c) => `${c.kind} ${c.loss}`)
    expect(fields('1920x1080@50i')).toEqual([])
    expect(fields('1920x1080@25p')).toEqual([])
    expect(fields('1920x1080@50i', { fieldOrder: 'bottom-first' })).toEqual(['field-order 0.03'])
    expect(fields('1440x1080/4:3@50i')).toEqual(['enlarge 0.25'])
    expect(fields('1920x540@50i').at(-1)).toMatch(/^(bars|field)/)
    expect(fields('1280x720@50i')).toContain('field-rescale 0.15')
    expect(fields('1920x1080@50i', {}, '1920x1080@25p')).toEqual(['deinterlace 0.15'])
    expect(fields('1920x1080@50i', {}, '1920x1080@50p')).toEqual(['deinterlace 0.08'])
  })
})
