import { plainTreatment, type ColourConversion } from '../treatment/treatment'
import { describe, expect, it } from 'vitest'
import { makeFormat, pictureOfFormat } from '../format/format'
import { parseFormat } from '../format/parse'
import { exactly, rational } from '../rational/rational'
import type { Charge, ChargeKind } from './charge'
import { type Grade } from './grade'
import { cadenceCharges } from './kinds/motion'
import { type Picture } from '../picture/picture'
import { type Motion, type Override, treated } from '../treatment/treatment'
import { defaultPolicy, defaultWeights } from './policy'
import { tollOf } from './toll'

const everyFrame = (wanted: boolean) =>
  ({ kind: 'speed', pace: { kind: 'every-frame' }, wanted, keepPitch: false }) as const
const hd = parseFormat('1920x1080@25p')!.format
const clip = (width: number, height: number, more: Partial<Picture> = {}): Picture => ({
  ...pictureOfFormat(makeFormat({ width, height }, rational(25))),
  ...more,
})
const charge = (picture: Picture, kind: ChargeKind, override: Override = {}): Charge =>
  tollOf(picture, hd, treated([override])).charges.find((c) => c.kind === kind)!
const motion = (S: [number, number?], T: [number, number?], way: Motion = { kind: 'hold' }) =>
  cadenceCharges(rational(...S), rational(...T), way, defaultWeights)[0]

describe('the weights of the table of charges', () => {
  it('stand in one value', () => {
    expect(defaultPolicy).toEqual({
      leans: {
        balanced: { unused: 0.3, invented: 1, bars: 0.5 },
        sharp: { unused: 0.12, invented: 1, bars: 0.5 },
        detail: { unused: 1, invented: 0.25, bars: 0.25 },
        motion: { unused: 0.3, invented: 1, bars: 0.5, skip: 0.3 },
      },
      crop: 0.5,
      distortion: 2,
      repeat: 0.06,
      skip: 0.08,
      slip: 0.02,
      slipPerMinute: 0.01,
      slipMost: 0.1,
      judderPerMs: 0.04,
      judderMost: 0.6,
      pulldown: 0.02,
      blend: 0.1,
      speedSlight: 0.005,
      speedNear: 0.05,
      speed: 0.2,
      deinterlaceAdaptive: 0.08,
      deinterlaceInterpolate: 0.1,
      deinterlaceSingle: 0.13,
      weave: 0.6,
      fieldsFromFrames: 0.02,
      fieldOrder: 0.03,
      fieldRescale: 0.15,
      variableRate: 0.02,
      variableMost: 0.2,
      dynamicRange: 0.1,
      transfer: 0.02,
      primaries: 0.01,
      dynamicRangeWrong: 0.4,
      primariesWrong: 0.05,
      matrixWrong: 0.15,
      depth: 0.02,
      linear: 0.02,
      undeveloped: 0.05,
      screen: 0.6,
      interlacedOut: 0.06,
      foreignRate: 0.03,
      shares: {
        proposes: 0.1,
        orientation: 0.25,
        oddSize: 0.9,
        oddSizeMajority: 0.5,
        interlaced: 0.5,
        fields: 1 / 3,
        otherRate: 0.5,
        usualRates: 0.05,
        filmedOtherwise: 0.1,
      },
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
    const { grade: given, loss } = charge(clip(1920, 1080), 'enlarge', { framing: { zoom: exactly(zoom) } })
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
    const narrow = tollOf(clip(2000 * (1 - share), 1000), { ...hd, width: 2000, height: 1000 }).charges.find(
      (c) => c.kind === 'bars',
    )!
    expect([narrow.grade, narrow.loss]).toEqual([grade, expect.closeTo(0.5 * share, 12)])
    const wide = tollOf(
      clip(2000, 1000),
      { ...hd, width: 2000 * (1 - share), height: 1000 },
      treated([{ framing: { mode: { kind: 'one-to-one' } } }]),
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
      { ...hd, width: Math.round(ratio * 10_000), height: 10_000 },
      treated([{ framing: { mode: { kind: 'stretch' } } }]),
    ).charges.find((c) => c.kind === 'distort')!
    expect(stretched.grade).toBe(grade)
    expect(stretched.loss).toBeCloseTo(2 * Math.log(ratio), 9)
  })

  it('judder is light to 4 ms, heavy to 10 ms, then severe, and never loses more than 0.6', () => {
    expect(motion([100], [24000, 1001])).toMatchObject({ kind: 'uneven', grade: 'light' })
    expect(motion([25], [24])).toMatchObject({ kind: 'uneven', grade: 'heavy' })
    expect(motion([25], [30])).toMatchObject({ kind: 'uneven', grade: 'severe' })
    // What is repeated or left out is in the same charge.
    expect(motion([25], [30])!.loss).toBeCloseTo(0.04 * 13.3333 + 0.06 * (1 - 25 / 30), 5)
    expect(motion([30], [25])!.loss).toBeCloseTo(0.04 * 13.3333 + 0.08 * (1 - 25 / 30), 5)
    expect(motion([9], [12])!.loss).toBeCloseTo(0.6 + 0.06 * 0.25, 12)
  })

  it('a slip loses 0.02 and a hundredth for each in a minute, at most a tenth', () => {
    // One each 41.7 s is 1.44 a minute.
    expect(motion([24000, 1001], [24])!.loss).toBeCloseTo(0.02 + 0.01 * (60 / 41.708), 5)
    expect(motion([119_800, 1000], [120])!.loss).toBeCloseTo(0.02 + 0.1, 12)
  })

  it('every frame shown again loses by how many are', () => {
    expect(motion([25], [50])).toMatchObject({ kind: 'even-hold', grade: 'light', loss: 0.03 })
    expect(motion([25], [100])!.loss).toBeCloseTo(0.045, 12)
  })

  it('frames mixed lose half of what unevenness costs, and a tenth of what is softened', () => {
    const blend = { kind: 'blend' } as const
    // 50 in 25 lies between two frames everywhere, evenly.
    expect(motion([50], [25], blend)).toMatchObject({ kind: 'blend', share: 1, grade: 'heavy' })
    expect(motion([50], [25], blend)!.loss).toBeCloseTo(0.1, 12)
    const uneven = motion([24], [60])
    const mixed = motion([24], [60], blend)
    if (mixed!.kind !== 'blend') throw new Error('24 in 60 is mixed')
    expect(mixed!.loss).toBeCloseTo(uneven!.loss / 2 + 0.1 * mixed!.share, 12)
  })

  it('every second frame left out loses half of 0.08, four of five four fifths', () => {
    expect(motion([50], [25])).toMatchObject({ kind: 'even-skip', grade: 'light', loss: 0.04 })
    expect(motion([120_000, 1001], [24_000, 1001])!.loss).toBeCloseTo(0.064, 12)
  })

  it('another speed is slight within 0.11 %, near within 4.3 %, else dear unless it is wanted', () => {
    const every = everyFrame(false)
    expect(motion([24000, 1001], [24], every)).toMatchObject({ grade: 'light', loss: 0.005 })
    // 23.976, 24 and 25 in each other.
    expect(motion([24], [25], every)).toMatchObject({ grade: 'light', loss: 0.05 })
    expect(motion([25], [24000, 1001], every)).toMatchObject({ grade: 'light', loss: 0.05 })
    expect(motion([30000, 1001], [25], every)).toMatchObject({ grade: 'heavy', loss: 0.2 })
    expect(motion([60], [24], everyFrame(true))).toMatchObject({ loss: 0 })
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
    // Of fifty moments every second is left out, whichever way it is asked for.
    expect(fields('1920x1080@50i', {}, '1920x1080@25p')).toEqual(['even-skip 0.04', 'deinterlace 0.08'])
    expect(fields('1920x1080@50i', {}, '1920x1080@50p')).toEqual(['deinterlace 0.08'])
    // Every field where a frame of the timeline is not one of the clip's: 50 fields held in 59.94.
    expect(fields('1920x1080@50i', {}, '1920x1080@23.976p')[1]).toBe('deinterlace 0.08')
    expect(fields('1920x1080@59.94i', {}, '1920x1080@30p')[1]).toBe('deinterlace 0.08')
    // Another rate moves fields: 50 of them in 59.94, deinterlaced and interlaced again.
    expect(fields('1920x1080@50i', {}, '1920x1080@59.94i').map((f) => f.split(' ')[0])).toEqual([
      'uneven',
      'field-rescale',
    ])
  })

  it('interlaced timelines show progressive clips whole, by pulldown or field by field, whichever costs less', () => {
    const in50i = (text: string) =>
      tollOf(pictureOfFormat(parseFormat(text)!.format), parseFormat('1920x1080@50i')!.format)
    expect(in50i('1920x1080@50p')).toMatchObject({
      charges: [{ kind: 'fields-from-frames', grade: 'light', loss: 0.02 }],
    })
    // A field from each second frame loses less (0.04 and 0.02) than one frame in four (0.06).
    expect(in50i('1920x1080@100p').charges.map((c) => c.kind)).toEqual(['even-skip', 'fields-from-frames'])
    // Field by field, 60 in 50 stutters a fifth as much as frame by frame.
    expect(in50i('1920x1080@60p').charges.map((c) => c.kind)).toEqual(['uneven', 'fields-from-frames'])
    const film = pictureOfFormat(parseFormat('1920x1080@23.976p')!.format)
    const ntsc = parseFormat('1920x1080@59.94i')!.format
    expect(tollOf(film, ntsc).charges).toEqual([{ kind: 'pulldown', grade: 'light', loss: 0.02 }])
    expect(tollOf({ ...film, rate: rational(24) }, ntsc).charges.map((c) => c.kind)).not.toContain('pulldown')
    // The same pattern held in frames costs what it looks like.
    expect(tollOf(film, parseFormat('1920x1080@59.94p')!.format).loss).toBeCloseTo(0.37, 2)
  })

  it('a variable clip pays no slip, and half of what unevenness costs', () => {
    const vary = { offNominalShare: 0.005 }
    const at = (text: string, more: Partial<Picture> = {}) =>
      tollOf({ ...pictureOfFormat(parseFormat(text)!.format), ...more }, hd).charges
    expect(at('1920x1080@24.99p', vary).map((c) => c.kind)).toEqual(['variable-rate'])
    expect(at('1920x1080@30p', vary)[0]!.loss).toBeCloseTo(at('1920x1080@30p')[0]!.loss / 2, 12)
  })

  it('colour is charged by its dearest step, and SD is brought to BT.709 for nothing', () => {
    const colour = (primaries: string, transfer: string, size = '1920x1080') =>
      tollOf(
        { ...pictureOfFormat(parseFormat(`${size}@25p`)!.format), primaries, transfer },
        {
          ...parseFormat(`${size}@25p`)!.format,
        },
      ).charges.map((c) => `${c.kind} ${c.grade} ${c.loss}`)
    expect(colour('bt2020', 'pq')).toEqual(['colour heavy 0.1'])
    expect(colour('bt2020', 'bt709')).toEqual(['colour light 0.01'])
    expect(colour('bt601-625', 'bt709')).toEqual(['colour light 0.01'])
    expect(colour('bt601-625', 'bt709', '720x576/64:45')).toEqual([])
    // Film’s primaries are not computed.
    expect(colour('film', 'bt709')).toEqual(['colour-wrong heavy 0.05'])
    const hlg = { ...hd, colour: { primaries: 'bt2020', transfer: 'hlg', bitDepth: 10 } }
    const pq = { ...pictureOfFormat(hd), primaries: 'bt2020', transfer: 'pq' }
    expect(tollOf(pq, hlg).charges).toMatchObject([{ kind: 'colour', step: 'transfer', loss: 0.02 }])
  })

  it('colour that is left wrong costs more than what would put it right', () => {
    const picture = (more: object) => ({ ...pictureOfFormat(hd), matrix: 'bt709', ...more })
    const left = (more: object, colour: ColourConversion, to = hd) =>
      tollOf(picture(more), to, { ...plainTreatment, colour }).charges.map(
        (c) => `${c.kind} ${c.grade} ${c.loss}`,
      )
    const hlg = { primaries: 'bt2020', transfer: 'hlg', matrix: 'bt2020' }
    expect(left(hlg, 'hdr-to-sdr')).toEqual(left(hlg, 'auto'))
    for (const colour of ['none', 'matrix', 'pq-to-hlg'] as const)
      expect(left(hlg, colour)).toEqual(['colour-wrong severe 0.4'])
    const wide = { primaries: 'bt2020', transfer: 'bt709', matrix: 'bt2020' }
    expect(left(wide, 'auto')).toEqual(['colour light 0.01'])
    expect(left(wide, 'matrix')).toEqual(['colour-wrong heavy 0.05'])
    expect(left(wide, 'none')).toEqual(['colour-wrong heavy 0.05', 'colour-wrong heavy 0.15'])
    expect(left({ matrix: 'ycgco' }, 'auto')).toEqual(['colour-wrong heavy 0.15'])
    expect(left({ matrix: 'bt601-625' }, 'auto')).toEqual([])
    expect(left({ matrix: 'bt601-625' }, 'none')).toEqual(['colour-wrong heavy 0.15'])
  })

  it('fields pay for the lines on which they come to lie', () => {
    const { format: i50 } = parseFormat('1920x1080@50i')!
    const fields = (y: number, more: object = {}, framing: object = {}) =>
      tollOf({ ...pictureOfFormat(i50), ...more }, i50, {
        ...plainTreatment,
        framing: { ...plainTreatment.framing, position: { x: rational(0), y: rational(y, 2) }, ...framing },
      })
        .charges.filter(({ kind }) => kind.startsWith('field'))
        .map(({ kind }) => kind)
    // In halves of a line: an odd line is the other order, half a line no line at all.
    expect([0, 2, 4, 1].map((y) => fields(y))).toEqual([[], ['field-order'], [], ['field-rescale']])
    const other = { fieldOrder: 'bottom-first' }
    expect([0, 2, 4, 1].map((y) => fields(y, other))).toEqual([
      ['field-order'],
      [],
      ['field-order'],
      ['field-rescale'],
    ])
    // Seven baked lines above: the picture begins with a line of the other field.
    expect([0, 2].map((y) => fields(y, { firstLine: 1 }))).toEqual([['field-order'], []])
  })
})
