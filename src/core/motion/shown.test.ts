import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { standardRates } from '../rate/rate'
import { divide, rational, toNumber } from '../rational/rational'
import { frameTimesFrom } from '../reading/frame-times'
import type { Taking } from '../treatment/run'
import { filmFrame, pulldownFrame } from './pulldown'
import { type Running, type Shown, framesLeft, shownAt } from './shown'
import { type ClipTiming, countOf, endOfSteps, fieldsOf, timeOf } from './timing'
import { shownWords } from './words'
import { rate, frames, mixed, running, constant, table, list, indices, pairs } from './running.fixture'

describe('frames as they land', () => {
  it('show what is on in the middle of each frame of the timeline, counted from the in-point', () => {
    expect(indices(list(running(frames), constant('24', 100), '60', 6))).toEqual([0, 0, 1, 1, 1, 2])
    expect(indices(list(running(frames), constant('50', 100), '25', 3))).toEqual([1, 3, 5])
    const later = running(frames, { sourceIn: rational(2) })
    expect(indices(list(later, constant('25', 100), '25', 2))).toEqual([50, 51])
  })

  it('hold the last frame at the very end, and show nothing only beyond it', () => {
    // 101 frames of 50p are 50½ of 25p: the last one asks for the end itself.
    expect(indices(list(running(frames), constant('50', 101), '25', 52)).slice(49)).toEqual([
      99,
      100,
      'nothing',
    ])
    expect(shownAt(running(frames), constant('25', 4), rate('25'), 4)).toEqual({ kind: 'nothing' })
    expect(shownAt(running(frames, { sourceIn: rational(-1, 5) }), constant('25', 4), rate('25'), 0)).toEqual(
      {
        kind: 'nothing',
      },
    )
  })

  it('show a still for ever', () => {
    expect(shownAt(running(mixed), { kind: 'still' }, rate('25'), 1e9)).toEqual({ kind: 'frame', index: 0 })
  })

  it('take a clip that has to be walked at its nominal rate meanwhile', () => {
    const walking: ClipTiming = { kind: 'to-walk', rate: rate('25'), count: 2 }
    expect(indices(list(running(frames), walking, '25', 3))).toEqual([0, 1, 'nothing'])
  })
})

describe('a variable clip', () => {
  // Frames of 20, 60, 20 and 100 ms.
  const varied = table([0, 20, 80, 100], 200)

  it('shows the frame that is on at each time, never one at a nominal rate', () => {
    // Middles of 25p lie at 20, 60, 100, 140, 180 ms.
    expect(indices(list(running(frames), varied, '25', 6))).toEqual([1, 1, 3, 3, 3, 'nothing'])
  })

  it('holds its last frame at the very end', () => {
    // The middle of frame 1 of 7.5p lies at 200 ms.
    expect(indices(list(running(frames), varied, '7.5', 3))).toEqual([1, 3, 'nothing'])
  })

  it('mixes by the distance between middles, its ends held', () => {
    const blended = list(running(mixed), varied, '100', 20)
    // Middles at 10, 50, 90, 150 ms; timeline middles at 5, 15, 25 …
    expect(blended[0]).toEqual({ kind: 'frame', index: 0 })
    expect(blended[1]).toMatchObject({ kind: 'mix', a: { index: 0 }, b: { index: 1 }, weightOfB: 0.125 })
    expect(blended[6]).toMatchObject({ kind: 'mix', a: { index: 1 }, b: { index: 2 }, weightOfB: 0.375 })
    expect(blended[17]).toEqual({ kind: 'frame', index: 3 })
  })

  it('plays every frame once, whatever it lasts', () => {
    const once = running(frames, { passing: { kind: 'step-by-step' } })
    expect(indices(list(once, varied, '25', 5))).toEqual([0, 1, 2, 3, 'nothing'])
    expect(framesLeft(once, varied, rate('25'))).toBe(4)
  })

  it('has fields in the middle of its frames', () => {
    const fields = fieldsOf(varied)
    expect(countOf(fields)).toBe(8)
    expect(Array.from({ length: 8 }, (_, i) => toNumber(timeOf(fields, i)))).toEqual([
      0, 0.01, 0.02, 0.05, 0.08, 0.09, 0.1, 0.15,
    ])
    expect(toNumber(endOfSteps(fields)!)).toBe(0.2)
    expect(fieldsOf(varied)).toBe(fields)
  })

  it('has no times where two frames come at once, and begins at 0', () => {
    expect(frameTimesFrom([0, 20, 20], rational(1000), 60)).toBeNull()
    expect(frameTimesFrom([], rational(1000), null)).toBeNull()
    expect(frameTimesFrom([140, 100, 120], rational(1000), null)).toEqual({
      clock: rational(1000),
      presentationTimes: [0, 20, 40],
      end: 60,
    })
    expect(frameTimesFrom([7], rational(1000), null)).toMatchObject({ presentationTimes: [0], end: 1 })
  })
})

describe('mixtures', () => {
  it('are weighed by distance in time', () => {
    expect(shownAt(running(mixed), constant('25', 9), rate('25'), 3)).toEqual({ kind: 'frame', index: 3 })
    // 50 in 25: the middle of a timeline frame lies between two source frames.
    expect(shownAt(running(mixed), constant('50', 99), rate('25'), 3)).toEqual({
      kind: 'mix',
      a: { kind: 'frame', index: 6 },
      b: { kind: 'frame', index: 7 },
      weightOfB: 0.5,
    })
    expect(list(running(mixed), constant('25', 2), '50', 5)).toEqual([
      { kind: 'frame', index: 0 },
      { kind: 'mix', a: { kind: 'frame', index: 0 }, b: { kind: 'frame', index: 1 }, weightOfB: 0.25 },
      { kind: 'mix', a: { kind: 'frame', index: 0 }, b: { kind: 'frame', index: 1 }, weightOfB: 0.75 },
      { kind: 'frame', index: 1 },
      { kind: 'nothing' },
    ])
  })

  it('follow the definition at any rates', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 1_000_000 }),
        fc.constantFrom(...standardRates),
        fc.constantFrom(...standardRates),
        (n, S, T) => {
          const timing: ClipTiming = { kind: 'constant', rate: S, count: 2 ** 40, counted: true }
          const shown = shownAt(running(mixed), timing, T, n)
          const x = ((n + 0.5) * toNumber(S)) / toNumber(T) - 0.5
          fc.pre(x > 0)
          const [a, w] =
            shown.kind === 'mix' && shown.a.kind === 'frame'
              ? [shown.a.index, shown.weightOfB]
              : [shown.kind === 'frame' ? shown.index : NaN, 0]
          expect(a + w).toBeCloseTo(x, 5)
        },
      ),
    )
  })
})

describe('fields', () => {
  const interlaced = { fieldOrder: 'bottom-first' } as const
  const each: Taking = { kind: 'deinterlaced', method: 'adaptive', keep: 'each', mixed: false }

  it('are made whole, each in turn in their order', () => {
    expect(list(running(each, interlaced), constant('25', 2), '50', 5)).toEqual([
      { kind: 'field', frame: 0, parity: 'bottom', method: 'adaptive' },
      { kind: 'field', frame: 0, parity: 'top', method: 'adaptive' },
      { kind: 'field', frame: 1, parity: 'bottom', method: 'adaptive' },
      { kind: 'field', frame: 1, parity: 'top', method: 'adaptive' },
      { kind: 'nothing' },
    ])
  })

  it('are kept one of two where a frame lands on each frame', () => {
    const kept = (keep: 'first' | 'second') =>
      list(running({ ...each, keep, method: 'single' }, interlaced), constant('25', 2), '25', 2)
    expect(kept('first').map((s) => s.kind === 'field' && s.parity)).toEqual(['bottom', 'bottom'])
    expect(kept('second').map((s) => s.kind === 'field' && s.parity)).toEqual(['top', 'top'])
  })

  it('are mixed as fields', () => {
    const [, shown] = list(running({ ...each, mixed: true }, interlaced), constant('25', 4), '25', 2)
    expect(shown).toMatchObject({
      kind: 'mix',
      a: { kind: 'field', frame: 1, parity: 'bottom' },
      b: { kind: 'field', frame: 1, parity: 'top' },
      weightOfB: 0.5,
    })
  })

  it('stay fields in an interlaced timeline: its frames where rate and order are its own', () => {
    const own = running({ kind: 'fields', outOf: 'fields' }, { ...interlaced, shownOrder: 'bottom-first' })
    expect(indices(list(own, constant('25', 2), '25', 3))).toEqual([0, 1, 'nothing'])
    const turned = running({ kind: 'fields', outOf: 'fields' }, { ...interlaced, shownOrder: 'top-first' })
    expect(indices(list(turned, constant('25', 2), '25', 2))).toEqual([0, 1])
  })

  it('come at their own moments where the rate is another', () => {
    const slow = running({ kind: 'fields', outOf: 'fields' }, { ...interlaced, shownOrder: 'bottom-first' })
    expect(list(slow, constant('29.97', 99), '25', 2)).toEqual([
      { kind: 'frame', index: 0 },
      { kind: 'fields', top: { frame: 2, parity: 'bottom' }, bottom: { frame: 1, parity: 'bottom' } },
    ])
  })

  it('are taken out of frames, one from each', () => {
    const top = running({ kind: 'fields', outOf: 'frames' }, { shownOrder: 'top-first' })
    expect(pairs(list(top, constant('50', 5), '25', 4))).toEqual(['01', '23', '44', 'nothing'])
    const bottom = running({ kind: 'fields', outOf: 'frames' }, { shownOrder: 'bottom-first' })
    expect(pairs(list(bottom, constant('50', 4), '25', 2))).toEqual(['10', '32'])
  })

  it('go two a frame where every frame is played once', () => {
    const once = running(
      { kind: 'fields', outOf: 'fields' },
      { ...interlaced, shownOrder: 'bottom-first', passing: { kind: 'step-by-step' } },
    )
    expect(indices(list(once, constant('25', 3), '24', 4))).toEqual([0, 1, 2, 'nothing'])
  })
})

describe('2:3 pulldown', () => {
  const pulled = (phase: 0 | 1 | 2 | 3 | 4, more: Partial<Running> = {}) =>
    running({ kind: 'pulldown', phase }, { shownOrder: 'top-first', ...more })

  it('fills five frames with four, two of them with two', () => {
    expect(pairs(list(pulled(0), constant('23.976', 8), '29.97', 11))).toEqual(
      '00 11 12 23 33 44 55 56 67 77 nothing'.split(' '),
    )
    expect(pairs(list(pulled(2), constant('23.976', 8), '29.97', 4))).toEqual('01 12 22 33'.split(' '))
    expect(pairs(list(pulled(0, { shownOrder: 'bottom-first' }), constant('23.976', 8), '29.97', 3))).toEqual(
      '00 11 21'.split(' '),
    )
  })

  it('belongs to source time: an in-point takes up the pattern where it stands', () => {
    const from = pulled(0, { sourceIn: divide(rational(2), rate('29.97')) })
    expect(pairs(list(from, constant('23.976', 8), '29.97', 3))).toEqual('12 23 33'.split(' '))
  })

  it('shows every film frame in order, never jumping, in any phase', () => {
    const phase = fc.constantFrom<0 | 1 | 2 | 3 | 4>(0, 1, 2, 3, 4)
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 100_000 }), phase, (m, p) => {
        const [a, b] = [pulldownFrame(m, p), pulldownFrame(m + 1, p)]
        const fields = [a.first, a.second, b.first, b.second]
        for (let i = 1; i < 4; i++) expect([0, 1]).toContain(fields[i]! - fields[i - 1]!)
      }),
    )
    for (const p of [0, 1, 2, 3, 4] as const) expect(pulldownFrame(0, p).first).toBe(0)
  })

  it('followed by its removal gives the film frames back', () => {
    const phase = fc.constantFrom<0 | 1 | 2 | 3 | 4>(0, 1, 2, 3, 4)
    fc.assert(
      fc.property(fc.integer({ min: 4, max: 100_000 }), phase, (j, p) => {
        const from = filmFrame(j, p)
        expect(pulldownFrame(from.first, p).first).toBe(j)
        expect(pulldownFrame(from.second, p).second).toBe(j)
      }),
    )
  })

  it('is taken out frame by frame; what has one field alone is made whole of it', () => {
    const removed = (phase: 0 | 1 | 2 | 3 | 4) =>
      running({ kind: 'remove-pulldown', phase }, { fieldOrder: 'top-first' })
    expect(pairs(list(removed(0), constant('29.97', 10), '23.976', 9))).toEqual(
      '00 11 32 44 55 66 87 99 nothing'.split(' '),
    )
    expect(list(removed(2), constant('29.97', 5), '23.976', 2)).toEqual([
      { kind: 'field', frame: 0, parity: 'top', method: 'interpolate' },
      { kind: 'fields', top: { frame: 1, parity: 'top' }, bottom: { frame: 0, parity: 'bottom' } },
    ])
    // C begins in the last frame, and its other field lies behind the end.
    expect(shownAt(removed(0), constant('29.97', 3), rate('60'), 5)).toEqual({
      kind: 'field',
      frame: 2,
      parity: 'bottom',
      method: 'interpolate',
    })
  })
})

describe('what is shown, in words', () => {
  it.each<[Shown, string]>([
    [{ kind: 'frame', index: 7 }, 'source frame 7'],
    [{ kind: 'field', frame: 2, parity: 'top', method: 'single' }, 'top field of source frame 2'],
    [{ kind: 'field', frame: 2, parity: 'top', method: 'blend' }, 'both fields of source frame 2, averaged'],
    [
      { kind: 'fields', top: { frame: 1, parity: 'top' }, bottom: { frame: 2, parity: 'bottom' } },
      'fields of source frames 1 and 2',
    ],
    [
      { kind: 'mix', a: { kind: 'frame', index: 1 }, b: { kind: 'frame', index: 2 }, weightOfB: 0.4 },
      'source frame 1 with 40 % of source frame 2',
    ],
    [{ kind: 'nothing' }, 'nothing'],
  ])('%j is %s', (shown, said) => expect(shownWords(shown)).toBe(said))
})

describe('the ends of a clip in fields', () => {
  it('stand on one field where the other lies beyond the end, and are no whole frame', () => {
    // From the second field of the last frame on: its own line pair has nothing after it.
    const taking: Taking = { kind: 'fields', outOf: 'fields' }
    const end = running(taking, {
      sourceIn: rational(3, 100),
      fieldOrder: 'top-first',
      shownOrder: 'top-first',
    })
    expect(shownAt(end, constant('25', 1), rate('25'), 0)).toEqual({
      kind: 'fields',
      top: { frame: 0, parity: 'bottom' },
      bottom: { frame: 0, parity: 'bottom' },
    })
  })

  it('of a removed pulldown give each film frame that has a field, at every phase, in either order', () => {
    for (const order of ['top-first', 'bottom-first'] as const)
      for (const phase of [0, 1, 2, 3, 4] as const) {
        // The fields that a clip of ten frames carries, by the film frame in them.
        const fields = new Map<string, number[]>()
        for (let frame = 0; frame < 10; frame++) {
          const { first, second } = pulldownFrame(frame, phase)
          const [early, late] = order === 'top-first' ? ['top', 'bottom'] : ['bottom', 'top']
          fields.set(`${frame} ${early}`, [first])
          fields.set(`${frame} ${late}`, [second])
        }
        const film = running({ kind: 'remove-pulldown', phase }, { fieldOrder: order })
        const shown = list(film, constant('29.97', 10), '23.976', 8)
        shown.forEach((s, m) => {
          const used =
            s.kind === 'frame'
              ? [`${s.index} top`, `${s.index} bottom`]
              : s.kind === 'fields'
                ? [`${s.top.frame} ${s.top.parity}`, `${s.bottom.frame} ${s.bottom.parity}`]
                : s.kind === 'field'
                  ? [`${s.frame} ${s.parity}`]
                  : []
          expect(used.length, `${order} ${phase} ${m} ${s.kind}`).toBeGreaterThan(0)
          expect(new Set(used.flatMap((name) => fields.get(name)))).toEqual(new Set([m]))
          if (s.kind === 'fields') expect([s.top.parity, s.bottom.parity]).toEqual(['top', 'bottom'])
        })
      }
  })
})
