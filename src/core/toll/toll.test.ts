import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { type Format, makeFormat, pictureOfFormat } from '../format/format'
import { parseFormat } from '../format/parse'
import { rational } from '../rational/rational'
import { standardRates } from '../rate/rate'
import { type Picture } from '../picture/picture'
import { type Treatment, plainTreatment } from '../treatment/treatment'
import { defaultPolicy, weightsForRanking } from './policy'
import { sentence, tollSentence } from './sentence'
import { tollOf } from './toll'

const format = (text: string): Format => parseFormat(text)!.format
const clip = (text: string, more: Partial<Picture> = {}): Picture => ({
  ...pictureOfFormat(format(text)),
  ...more,
})
const everyFrame = (wanted: boolean) =>
  ({ kind: 'speed', pace: { kind: 'every-frame' }, wanted, keepPitch: false }) as const
const framed = (kind: 'fill' | 'stretch'): Partial<Treatment> => ({
  framing: { ...plainTreatment.framing, mode: { kind } },
})
const charges = (
  source: string,
  timeline: string,
  treatment: Partial<Treatment> = {},
  more: Partial<Picture> = {},
) =>
  tollOf(clip(source, more), format(timeline), { ...plainTreatment, ...treatment }).charges.map((c) => [
    c.kind,
    c.grade,
    Number(c.loss.toFixed(4)),
  ])

describe('tolls', () => {
  it('are free in a clip’s own format', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 2, max: 8192 }),
        fc.integer({ min: 2, max: 8192 }),
        fc.constantFrom(...standardRates),
        fc.constantFrom('progressive' as const, 'interlaced' as const),
        (width, height, rate, scan) => {
          const own = makeFormat({ width, height, pixelAspect: rational(4, 3) }, rate, scan)
          expect(tollOf(pictureOfFormat(own), own)).toEqual({
            grade: 'free',
            loss: 0,
            untouched: true,
            charges: [],
          })
        },
      ),
    )
  })

  it.each([
    ['1920x1080@25p', '3840x2160@25p', [['enlarge', 'severe', 0.75]]],
    ['1440x1080/4:3@25p', '1920x1080@25p', [['enlarge', 'heavy', 0.25]]],
    ['3840x2160@25p', '1920x1080@25p', [['reduce', 'light', 0.225]]],
    [
      '4096x2160@25p',
      '3840x2160@25p',
      [
        ['reduce', 'light', 0.0363],
        ['bars', 'heavy', 0.0313],
      ],
    ],
    [
      '1080x1920@25p',
      '1920x1080@25p',
      [
        ['reduce', 'light', 0.2051],
        ['bars', 'severe', 0.3418],
      ],
    ],
    ['1920x1080@25p', '1920x1080@50p', [['even-hold', 'light', 0.03]]],
    ['1920x1080@50p', '1920x1080@25p', [['even-skip', 'light', 0.04]]],
    ['1920x1080@23.976p', '1920x1080@24p', [['slip', 'light', 0.0344]]],
    ['1920x1080@24p', '1920x1080@60p', [['uneven', 'heavy', 0.3693]]],
    ['1920x1080@30p', '1920x1080@25p', [['uneven', 'severe', 0.5467]]],
    [
      '1920x1080@50i',
      '1920x1080@25p',
      [
        ['even-skip', 'light', 0.04],
        ['deinterlace', 'light', 0.08],
      ],
    ],
    ['1920x1080@50i', '1920x1080@50p', [['deinterlace', 'light', 0.08]]],
    ['1920x1080@25p', '1920x1080@50i', []],
    [
      '720x576/64:45@50i',
      '1920x1080@50i',
      [
        ['enlarge', 'severe', 0.8],
        ['field-rescale', 'heavy', 0.15],
      ],
    ],
    ['1440x1080/4:3@50i', '1920x1080@50i', [['enlarge', 'heavy', 0.25]]],
  ])('%s in %s', (source, timeline, expected) => {
    expect(charges(source, timeline)).toEqual(expected)
  })

  it('follow the treatment', () => {
    const once = { motion: everyFrame(false) }
    expect(charges('1920x1080@60p', '1920x1080@24p', once)).toEqual([['speed', 'heavy', 0.2]])
    expect(charges('1920x1080@60p', '1920x1080@24p', { motion: everyFrame(true) })).toEqual([
      ['speed', 'light', 0],
    ])
    expect(charges('1920x1080@23.976p', '1920x1080@24p', once)).toEqual([['speed', 'light', 0.005]])
    expect(charges('1920x1080@50i', '1920x1080@25p', { fields: { kind: 'weave' } })).toEqual([
      ['weave', 'severe', 0.6],
    ])
    expect(charges('640x480@25p', '1920x1080@25p', framed('stretch')).at(-1)).toEqual([
      'distort',
      'severe',
      0.5754,
    ])
    expect(charges('4096x2160@25p', '3840x2160@25p', framed('fill'))).toEqual([['crop', 'heavy', 0.0313]])
  })

  it('count variable rate, colour, depth and field order', () => {
    const hd = '1920x1080@25p'
    expect(charges(hd, hd, {}, { offNominalShare: 0.25 })).toEqual([['variable-rate', 'heavy', 0.22]])
    expect(charges(hd, hd, {}, { offNominalShare: 0.004 })).toEqual([['variable-rate', 'light', 0.024]])
    expect(charges(hd, hd, {}, { transfer: 'pq', primaries: 'bt2020' })).toEqual([['colour', 'heavy', 0.1]])
    expect(charges(hd, hd, {}, { primaries: 'bt601-625' })).toEqual([['colour', 'light', 0.01]])
    expect(charges(hd, hd, {}, { primaries: null, transfer: null, bitDepth: null })).toEqual([])
    expect(charges(hd, hd, {}, { bitDepth: 10 })).toEqual([['depth', 'light', 0.02]])
    // What is made for no display is told in every format alike.
    const uhd = '3840x2160@25p'
    for (const to of [hd, uhd])
      for (const [transfer, grade, loss] of [
        ['linear', 'light', 0.02],
        ['log', 'heavy', 0.05],
        ['raw', 'heavy', 0.05],
      ] as const)
        expect(charges(to, to, {}, { transfer })).toEqual([['not-for-display', grade, loss]])
    // Three of a hundred numbered pictures are missing.
    expect(charges(hd, hd, {}, { leftOutShare: 0.03 })).toEqual([
      ['pictures-left-out', 'heavy', expect.closeTo(0.0018, 9)],
    ])
    const i50 = '1920x1080@50i'
    expect(charges(i50, i50, {}, { fieldOrder: 'bottom-first' })).toEqual([['field-order', 'light', 0.03]])
  })

  it('multiply what is kept', () => {
    const toll = tollOf(clip('1920x1080@50p'), format('3840x2160@25p'))
    expect(toll.loss).toBeCloseTo(1 - 0.25 * 0.96, 12)
    expect(toll.grade).toBe('severe')
  })

  it('weigh unused detail by the lean', () => {
    const uhdInHd = (lean: Parameters<typeof weightsForRanking>[1]) =>
      tollOf(
        clip('3840x2160@25p'),
        format('1920x1080@25p'),
        plainTreatment,
        weightsForRanking(defaultPolicy, lean),
      ).loss
    expect(uhdInHd('sharp')).toBeCloseTo(0.09, 12)
    expect(uhdInHd('balanced')).toBeCloseTo(0.225, 12)
    expect(uhdInHd('detail')).toBeCloseTo(0.75, 12)
  })

  it('say what they mean with figures', () => {
    const said = (source: string, timeline: string) => tollSentence(tollOf(clip(source), format(timeline)))
    expect(said('1920x1080@25p', '1920x1080@25p')).toBe('untouched')
    expect(said('1920x1080@50p', '3840x2160@25p')).toBe(
      'enlarged 2.0: 75 % of the pixels invented; 1 frame in 2 shown, evenly',
    )
    expect(said('1920x1080@23.976p', '1920x1080@25p')).toMatch(
      /^1 frame in 23\.\d+|1 frame in 23 shown twice/,
    )
    expect(said('1920x1080@25p', '1920x1080@30p')).toBe('1 frame in 5 shown twice, judder 13.3 ms')
    expect(said('1920x1080@24p', '1920x1080@60p')).toBe('frames shown 2 and 3 times in turn, judder 8.3 ms')
    expect(said('1920x1080@59.94p', '1920x1080@25p')).toBe('1 frame in 2 or 3 shown, judder 8.2 ms')
    expect(said('2704x1520@25p', '1920x1080@25p')).toContain('bars of 0.36 px above and below')
    const faster = tollOf(clip('1920x1080@23.976p'), format('1920x1080@24p'), {
      ...plainTreatment,
      motion: everyFrame(false),
    })
    expect(tollSentence(faster)).toBe('every frame once, 0.1 % faster: running time × 0.999')
    const slow = tollOf(clip('1920x1080@60p'), format('1920x1080@24p'), {
      ...plainTreatment,
      motion: everyFrame(false),
    })
    expect(tollSentence(slow)).toBe('every frame once, at 40 % speed: running time × 2.5')
    expect(sentence({ kind: 'slip', seconds: 41.708, drops: false })).toBe(
      'one frame shown twice every 41.7 s',
    )
  })
})
