import { describe, expect, it } from 'vitest'
import { pictureOfFormat } from '../format/format'
import { parseFormat } from '../format/parse'
import type { Picture } from '../picture/picture'
import { rational } from '../rational/rational'
import { type Fields, type Override, plainTreatment, treated } from '../treatment/treatment'
import { wayWords } from '../treatment/words'
import { tollSentence } from './sentence'
import { settleToll, tollOf } from './toll'

const format = (text: string) => parseFormat(text)!.format
const settle = (clip: string, runsIn: string, override: Override = {}, more: Partial<Picture> = {}) =>
  settleToll({ ...pictureOfFormat(format(clip)), ...more }, format(runsIn), treated([override]))
const paid = (clip: string, runsIn: string, override: Override = {}, more: Partial<Picture> = {}) =>
  settle(clip, runsIn, override, more).toll.charges.map(
    ({ kind, grade, loss }) => `${kind} ${grade} ${Number(loss.toFixed(4))}`,
  )
const way = (clip: string, runsIn: string, override: Override = {}) =>
  wayWords(settle(clip, runsIn, override).way)
const once = (wanted = false) =>
  ({
    motion: { kind: 'speed', pace: { kind: 'every-frame' }, wanted, keepPitch: false },
  }) as const
const slowed = {
  motion: { kind: 'speed', pace: { kind: 'factor', factor: rational(1, 2) }, wanted: true, keepPitch: true },
} as const
const deinterlace = (rate: { kind: 'double' } | { kind: 'same'; keep: 'first' | 'second' }) =>
  ({ fields: { kind: 'deinterlace', method: 'interpolate', rate } }) as const

describe('nobody’s treatment', () => {
  it('pulls 23.976p down in an interlaced format of 29.97 frames: light, 0.02', () => {
    for (const runsIn of ['1920x1080@59.94i', '1920x1080@29.97i']) {
      expect(paid('1920x1080@23.976p', runsIn)).toEqual(['pulldown light 0.02'])
      expect(way('1920x1080@23.976p', runsIn)).toBe('2:3 pulldown')
    }
    // Not what is near it, and not where frames stay whole.
    expect(way('1920x1080@24p', '1920x1080@59.94i')).not.toBe('2:3 pulldown')
    expect(way('1920x1080@23.976p', '1920x1080@59.94p')).toBe('frames held as they land')
  })

  it('takes a field of each frame where that costs less', () => {
    expect(paid('1920x1080@50p', '1920x1080@50i')).toEqual(['fields-from-frames light 0.02'])
    expect(way('1920x1080@50p', '1920x1080@50i')).toBe('a field from each frame')
    expect(way('1920x1080@25p', '1920x1080@50i')).toBe('frames held as they land')
  })

  it('deinterlaces to one field of two where each frame lands once, else to every field', () => {
    expect(way('1920x1080@50i', '1920x1080@25p')).toBe('the first field of each frame')
    expect(way('1920x1080@50i', '1920x1080@50p')).toBe('each field made a frame')
    // The fields as they land lose less than every second of them with a slip.
    expect(way('1920x1080@59.94i', '1920x1080@30p')).toBe('each field made a frame')
    expect(way('1920x1080@50i', '1920x1080@24p')).toBe('each field made a frame')
    expect(settle('1920x1080@50i', '1920x1080@25p').way).toEqual({
      passing: { kind: 'in-time', factor: rational(1) },
      taking: { kind: 'deinterlaced', method: 'adaptive', keep: 'first', mixed: false },
    })
  })

  it('keeps fields fields, and tells when they are rescaled', () => {
    expect(way('1920x1080@50i', '1920x1080@50i')).toBe('fields stay fields')
    expect(paid('1920x1080@50i', '1920x1080@50i', {}, { fieldOrder: 'bottom-first' })).toEqual([
      'field-order light 0.03',
    ])
    expect(paid('1920x1080@50i', '1920x1080@50i', { shiftOrder: true })).toEqual(['field-order light 0.03'])
    // A turn ends the fields, be it one that keeps the scale.
    expect(paid('1080x1080@50i', '1080x1080@50i', {}, { rotation: 90 })).toEqual([
      'turn free 0',
      'field-rescale heavy 0.15',
    ])
    expect(paid('1920x1080@50i', '1920x1080@59.94i')).toEqual([
      expect.stringMatching(/^uneven/),
      'field-rescale heavy 0.15',
    ])
    expect(paid('1280x720@50i', '1920x1080@50i')).toContain('field-rescale heavy 0.15')
  })

  it('of a still is its one frame', () => {
    expect(settle('1920x1080@25p', '1920x1080@50i', {}, { rate: null })).toMatchObject({
      toll: { charges: [], untouched: true },
      way: { taking: { kind: 'frames', mixed: false } },
    })
  })
})

describe('a treatment', () => {
  it('blends at half of what unevenness costs, and the share that is mixed is told', () => {
    const held = settle('1920x1080@24p', '1920x1080@25p').toll.charges[0]!
    const mixed = settle('1920x1080@24p', '1920x1080@25p', { motion: { kind: 'blend' } })
    const [charge] = mixed.toll.charges
    if (charge?.kind !== 'blend') throw new Error('24 in 25 is mixed')
    expect(charge.share).toBeCloseTo(1, 6)
    expect(charge.loss).toBeCloseTo(held.loss / 2 + 0.1 * charge.share, 9)
    expect(charge.grade).toBe('heavy')
    expect(tollSentence(mixed.toll)).toBe('two frames mixed in 100 % of the frames')
    expect(wayWords(mixed.way)).toBe('neighbouring frames mixed')
  })

  it('holds frames where it says so, whatever would cost less', () => {
    expect(way('1920x1080@50p', '1920x1080@50i', { motion: { kind: 'hold' } })).toBe(
      'frames held as they land',
    )
    expect(paid('1920x1080@50p', '1920x1080@50i', { motion: { kind: 'hold' } })).toEqual([
      'even-skip light 0.04',
    ])
    expect(way('1920x1080@23.976p', '1920x1080@59.94i', { motion: { kind: 'hold' } })).toBe(
      'frames held as they land',
    )
    expect(way('1920x1080@25p', '1920x1080@50i', { fields: { kind: 'from-frames' } })).toBe(
      'a field from each frame',
    )
    expect(way('1920x1080@50p', '1920x1080@50i', { fields: { kind: 'weave' } })).toBe(
      'frames held as they land',
    )
  })

  it('plays every frame once, or so many times as fast', () => {
    expect(paid('1920x1080@50p', '1920x1080@25p', once())).toEqual(['speed heavy 0.2'])
    expect(paid('1920x1080@50p', '1920x1080@25p', once(true))).toEqual(['speed light 0'])
    expect(way('1920x1080@50p', '1920x1080@25p', once())).toBe('every frame once')
    expect(paid('1920x1080@50p', '1920x1080@25p', slowed)).toEqual(['speed light 0'])
    expect(paid('1920x1080@25p', '1920x1080@25p', slowed)).toEqual(['speed light 0', 'even-hold light 0.03'])
    expect(paid('1920x1080@25p', '1920x1080@25p', once())).toEqual([])
    expect(settle('1920x1080@50p', '1920x1080@25p', slowed).way.passing).toEqual({
      kind: 'in-time',
      factor: rational(1, 2),
    })
  })

  it('pulls down and takes pulldown out', () => {
    const down = { motion: { kind: 'pulldown', phase: 3 } } as const
    expect(paid('1920x1080@23.976p', '1920x1080@59.94i', down)).toEqual(['pulldown light 0.02'])
    expect(settle('1920x1080@23.976p', '1920x1080@59.94i', down).way.taking).toEqual({
      kind: 'pulldown',
      phase: 3,
    })
    expect(paid('1920x1080@23.976p', '1920x1080@29.97p', down)).toEqual([
      'pulldown light 0.02',
      'weave severe 0.6',
    ])
    const out = { motion: { kind: 'remove-pulldown', phase: 1 } } as const
    expect(paid('1920x1080@59.94i', '1920x1080@23.976p', out)).toEqual(['remove-pulldown light 0.02'])
    expect(paid('1920x1080@59.94i', '1920x1080@24p', out)).toEqual([
      'remove-pulldown light 0.02',
      expect.stringMatching(/^slip light/),
    ])
    expect(way('1920x1080@29.97p', '1920x1080@23.976p', out)).toBe('2:3 pulldown removed')
    expect(settle('1920x1080@59.94i', '1920x1080@23.976p', out).way.taking).toEqual({
      kind: 'remove-pulldown',
      phase: 1,
    })
  })

  it('of fields is what it says', () => {
    expect(paid('1920x1080@50i', '1920x1080@25p', { fields: { kind: 'weave' } })).toEqual([
      'weave severe 0.6',
    ])
    expect(paid('1920x1080@50i', '1920x1080@25p', { fields: { kind: 'blend' } })).toEqual([
      'even-skip light 0.04',
      'deinterlace heavy 0.13',
    ])
    expect(way('1920x1080@50i', '1920x1080@25p', { fields: { kind: 'blend' } })).toBe('both fields averaged')
    expect(way('1920x1080@50i', '1920x1080@25p', deinterlace({ kind: 'same', keep: 'second' }))).toBe(
      'the second field of each frame',
    )
    expect(paid('1920x1080@50i', '1920x1080@25p', deinterlace({ kind: 'double' }))).toEqual([
      'even-skip light 0.04',
      'deinterlace light 0.1',
    ])
    expect(paid('1920x1080@50i', '1920x1080@50i', deinterlace({ kind: 'double' }))).toContain(
      'deinterlace light 0.1',
    )
    // One price for one result, whatever it is called: both cost what is left out, and the method.
    const methods = ['adaptive', 'interpolate', 'single'] as const
    for (const method of methods) {
      const by = (rate: Extract<Fields, { kind: 'deinterlace' }>['rate']) =>
        settle('1920x1080@50i', '1920x1080@25p', { fields: { kind: 'deinterlace', method, rate } }).toll.loss
      expect(by({ kind: 'same', keep: 'first' })).toBeCloseTo(by({ kind: 'double' }), 12)
    }
    const lossOf = (fields: Fields) => settle('1920x1080@50i', '1920x1080@25p', { fields }).toll.loss
    for (const method of methods)
      expect(lossOf({ kind: 'auto' })).toBeLessThanOrEqual(
        lossOf({ kind: 'deinterlace', method, rate: { kind: 'double' } }) + 1e-12,
      )
    expect(paid('1920x1080@50i', '1920x1080@50i', { fields: { kind: 'weave' } })).toEqual([])
    expect(paid('1280x720@50i', '1920x1080@50i', { fields: { kind: 'weave' } })).toContain('weave severe 0.6')
    expect(way('1920x1080@50i', '1920x1080@50p', once())).toBe('each field made a frame, every frame once')
    expect(way('1920x1080@50i', '1920x1080@24p', { motion: { kind: 'blend' } })).toBe(
      'each field made a frame, mixed',
    )
    const mixedFields = settle('1920x1080@50i', '1920x1080@59.94i', { motion: { kind: 'blend' } })
    expect(mixedFields.way.taking).toMatchObject({ kind: 'deinterlaced', keep: 'each', mixed: true })
    expect(mixedFields.toll.charges.map(({ kind }) => kind)).toEqual(['blend', 'field-rescale'])
  })
})

describe('the way, to the letter', () => {
  const inTime = { kind: 'in-time', factor: rational(1) }
  const framed = { kind: 'frames', mixed: false }
  const [i50, p25, p50] = ['1920x1080@50i', '1920x1080@25p', '1920x1080@50p']
  const same = (keep: 'first' | 'second') => deinterlace({ kind: 'same', keep })
  const deinterlaced = (method: string, keep: string, mixed = false) => ({
    kind: 'deinterlaced',
    method,
    keep,
    mixed,
  })
  const blend = { motion: { kind: 'blend' } } as const

  it.each<[string, string, string, Override, object, object?]>([
    ['frames as frames', '1920x1080@24p', p25, {}, framed],
    ['frames mixed', '1920x1080@24p', p25, blend, { kind: 'frames', mixed: true }],
    ['frames step by step', p50, p25, once(), framed, { kind: 'step-by-step' }],
    ['frames in fields', p50, i50, {}, { kind: 'fields', outOf: 'frames' }],
    ['fields woven', i50, p25, { fields: { kind: 'weave' } }, framed],
    [
      'fields woven and mixed',
      i50,
      '1920x1080@24p',
      { fields: { kind: 'weave' }, ...blend },
      { kind: 'frames', mixed: true },
    ],
    ['fields averaged', i50, p25, { fields: { kind: 'blend' } }, deinterlaced('blend', 'first')],
    ['one field of two', i50, p25, {}, deinterlaced('adaptive', 'first')],
    ['the second field', i50, p25, same('second'), deinterlaced('interpolate', 'second')],
    ['every field', i50, p50, {}, deinterlaced('adaptive', 'each')],
    ['every field, mixed', i50, '1920x1080@24p', blend, deinterlaced('adaptive', 'each', true)],
    [
      'every field, step by step',
      i50,
      p50,
      once(),
      deinterlaced('adaptive', 'each'),
      { kind: 'step-by-step' },
    ],
    ['fields as fields', i50, i50, {}, { kind: 'fields', outOf: 'fields' }],
    ['fields on fields, woven', i50, i50, { fields: { kind: 'weave' } }, framed],
    ['fields on fields, averaged', i50, i50, { fields: { kind: 'blend' } }, deinterlaced('blend', 'first')],
    ['fields on fields, made frames', i50, i50, same('first'), deinterlaced('interpolate', 'first')],
    [
      'fields on fields of another rate, mixed',
      i50,
      '1920x1080@59.94i',
      blend,
      deinterlaced('adaptive', 'each', true),
    ],
    [
      'fields on fields, mixed but woven',
      i50,
      i50,
      { fields: { kind: 'weave' }, ...blend },
      { kind: 'frames', mixed: true },
    ],
    ['film in fields', '1920x1080@23.976p', '1920x1080@59.94i', {}, { kind: 'pulldown', phase: 0 }],
  ])('of %s', (_, clip, runsIn, override, taking, passing = inTime) => {
    expect(settle(clip, runsIn, override).way).toEqual({ passing, taking })
  })

  it('of a still is its frame, whatever is asked', () => {
    expect(settle(p25, p25, once(), { rate: null }).way).toEqual({ passing: inTime, taking: framed })
  })

  it('takes every second field where the rate is half, and each where frames would be uneven', () => {
    const keptIn = (runsIn: string) => (settle(i50, runsIn).way.taking as { keep: string }).keep
    expect(
      ['1920x1080@12.5p', '1920x1080@25p', '1920x1080@24.999p', '1920x1080@30p', '1920x1080@50p'].map(keptIn),
    ).toEqual(['each', 'first', 'first', 'each', 'each'])
    expect((settle('1920x1080@59.94i', '1920x1080@29.97p').way.taking as { keep: string }).keep).toBe('first')
  })

  it('tells what both fields together cost, and each alone', () => {
    const figures = (override: Override) =>
      settle(i50, p25, override).toll.charges.find(({ kind }) => kind === 'deinterlace')
    expect(figures({ fields: { kind: 'blend' } })).toMatchObject({ doubleRate: false, both: true })
    expect(figures(same('first'))).toMatchObject({ doubleRate: false, both: false })
    expect(figures(deinterlace({ kind: 'double' }))).toMatchObject({ doubleRate: true, both: false })
    const out = { motion: { kind: 'remove-pulldown', phase: 1 } } as const
    expect(settle('1920x1080@59.94i', '1920x1080@23.976p', out).toll.charges).toEqual([
      { kind: 'remove-pulldown', measured: false, grade: 'light', loss: 0.02 },
    ])
  })

  it('of a blend is light where few frames are mixed, and costs by their share alone where frames fall evenly', () => {
    const charge = (clip: string, runsIn: string) => settle(clip, runsIn, blend).toll.charges[0]!
    // 25 in 50: every frame of the timeline lies a quarter from the middle of a frame.
    const even = charge(p25, p50)
    expect(even).toMatchObject({ kind: 'blend', share: 1, grade: 'heavy' })
    expect(even.loss).toBeCloseTo(0.1, 12)
    // 75 in 25: each middle falls on a middle, nothing is mixed.
    expect(charge('1920x1080@75p', p25)).toMatchObject({ kind: 'blend', share: 0, grade: 'light', loss: 0 })
    expect(settle(p25, p25, blend).toll.charges).toEqual([])
  })

  it('slips to one side or the other', () => {
    const drops = (clip: string, runsIn: string) => {
      const [charge] = settle(clip, runsIn).toll.charges
      if (charge?.kind !== 'slip') throw new Error('it slips')
      return [charge.drops, Number(charge.seconds.toFixed(3)), Number(charge.loss.toFixed(4))]
    }
    expect(drops('1920x1080@24p', '1920x1080@23.976p')).toEqual([true, 41.708, 0.0344])
    expect(drops('1920x1080@23.976p', '1920x1080@24p')).toEqual([false, 41.708, 0.0344])
  })
})

describe('untouched', () => {
  it('is not what is turned, though a turn costs nothing', () => {
    const turned = settle('1080x1920@25p', '1920x1080@25p', {}, { rotation: 90 }).toll
    expect(turned).toMatchObject({ grade: 'free', loss: 0, untouched: false })
    expect(tollSentence(turned)).toBe('turned by 90°: every pixel kept')
  })
  it('is not what is computed by another matrix, or moved by a part of a pixel', () => {
    const other = tollOf(
      { ...pictureOfFormat(format('1920x1080@25p')), matrix: 'bt601-625' },
      format('1920x1080@25p'),
    )
    expect(other).toMatchObject({ grade: 'free', untouched: false, charges: [] })
    expect(tollSentence(other)).toBe('its colour computed by another matrix, no value lost')
    const crop = { left: 1, right: 0, top: 0, bottom: 0 }
    const off = settle('1921x1080@25p', '1921x1080@25p', {
      framing: { mode: { kind: 'one-to-one' }, crop },
    }).toll
    expect(off.charges.map(({ kind }) => kind)).toEqual(['bars', 'crop', 'between-pixels'])
    const moved = (x: number, y: number) =>
      settle('1280x720@25p', '1920x1080@25p', {
        framing: { mode: { kind: 'one-to-one' }, position: { x: rational(x, 2), y: rational(y, 2) } },
      }).toll.charges.map(({ kind }) => kind)
    expect([moved(0, 0), moved(2, -2), moved(1, 0), moved(0, 1), moved(1, 1)]).toEqual([
      ['bars'],
      ['bars'],
      ['bars', 'between-pixels'],
      ['bars', 'between-pixels'],
      ['bars', 'between-pixels'],
    ])
  })
  it('is what stands pixel on pixel, frame on frame', () => {
    expect(settle('1920x1080@25p', '1920x1080@25p').toll).toEqual({
      grade: 'free',
      loss: 0,
      untouched: true,
      charges: [],
    })
    expect(
      tollOf(pictureOfFormat(format('1920x1080@25p')), format('1920x1080@25p'), plainTreatment).untouched,
    ).toBe(true)
  })
})

describe('what was measured', () => {
  it('of combs costs a weave on whole frames, though the clip counts as progressive; on fields it does not', () => {
    expect(paid('1920x1080@25p', '1920x1080@25p', {}, { combs: true })).toEqual(['weave severe 0.6'])
    expect(paid('1920x1080@25p', '1920x1080@50i', {}, { combs: true })).toEqual(
      paid('1920x1080@25p', '1920x1080@50i'),
    )
  })

  it('of the phase of a pulldown makes taking it out free, at that phase', () => {
    const out = (phase: 0 | 1 | 2 | 3 | 4) => ({ motion: { kind: 'remove-pulldown', phase } }) as const
    const from = (phase: 0 | 1 | 2 | 3 | 4, pulldownPhase: number | null) =>
      paid('1920x1080@29.97i', '1920x1080@23.976p', out(phase), { pulldownPhase })
    expect(from(3, 3)).toEqual(['remove-pulldown free 0'])
    expect(from(2, 3)).toEqual(['remove-pulldown light 0.02'])
    expect(from(3, null)).toEqual(['remove-pulldown light 0.02'])
  })

  it('of true detail: what is reduced loses only what is in it, as it stands upright', () => {
    const loses = (more: Partial<Picture>) => {
      const { charges } = settle('3840x2160@25p', '1920x1080@25p', {}, more).toll
      return charges.find(({ kind }) => kind === 'reduce')!.loss
    }
    const all = loses({})
    expect(all).toBeGreaterThan(0)
    expect(loses({ detail: { width: 1920, height: 1080 } })).toBe(0)
    expect(loses({ detail: { width: 1280, height: 720 } })).toBe(0)
    const reduced = loses({ detail: { width: 2560, height: 1440 } })
    expect(reduced).toBeCloseTo((all * (1 - (1920 * 1080) / (2560 * 1440))) / 0.75, 9)
    // One axis alone was enlarged.
    expect(loses({ detail: { width: 1920, height: 2160 } })).toBeCloseTo((all * 0.5) / 0.75, 9)
    // On its side, what is across the raster stands down the picture.
    const turned = (detail: Picture['detail']) =>
      settle('2160x3840@25p', '1920x1080@25p', {}, { rotation: 90, detail }).toll.charges.find(
        ({ kind }) => kind === 'reduce',
      )!.loss
    expect(turned({ width: 2160, height: 1920 })).toBeCloseTo((all * 0.5) / 0.75, 9)
    expect(
      tollSentence(
        settle('3840x2160@25p', '1920x1080@25p', {}, { detail: { width: 1280, height: 720 } }).toll,
      ),
    ).toBe('reduced to 50 %: room to zoom to 200 %, though no more than 1280×720 is in it')
  })
})
