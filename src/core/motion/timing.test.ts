import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { rational } from '../rational/rational'
import {
  countOf,
  endOfSteps,
  fieldsOf,
  framesOf,
  middleOf,
  mixtureAt,
  positionAt,
  stepAt,
  stepNear,
  timeAt,
  timeOf,
} from './timing'
import { constant, table } from './running.fixture'

describe('steps of a clip', () => {
  const varied = framesOf(table([0, 20, 80, 100], 200))
  const even = framesOf(constant('25', 5))

  it('have positions and times that are each other’s inverse', () => {
    fc.assert(
      fc.property(fc.constantFrom(varied, even), fc.integer({ min: 0, max: 199 }), (steps, ms) => {
        const time = rational(ms, 1000)
        expect(timeAt(steps, positionAt(steps, time))).toEqual(time)
      }),
    )
  })

  it('are found at their middles', () => {
    for (const steps of [varied, even])
      for (let i = 0; i < countOf(steps); i++) expect(stepAt(steps, middleOf(steps, i))).toBe(i)
    expect(stepAt(varied, rational(-1, 1000))).toBeNull()
    expect(stepAt(varied, rational(201, 1000))).toBeNull()
    expect([stepAt(varied, rational(20, 1000)), stepAt(varied, rational(79, 1000))]).toEqual([1, 1])
  })

  it('of a still are one that never ends', () => {
    const still = framesOf({ kind: 'still' })
    expect([countOf(still), endOfSteps(still), stepAt(still, rational(99))]).toEqual([1, null, 0])
    expect(mixtureAt(still, rational(3))).toEqual({ a: 0, b: 0, weightOfB: 0 })
    expect([
      positionAt(still, rational(3)),
      timeOf(still, 3),
      middleOf(still, 2),
      timeAt(still, rational(2)),
    ]).toEqual(Array.from({ length: 4 }, () => rational(0)))
    expect(fieldsOf({ kind: 'still' })).toEqual(still)
  })

  it('are found by times that a decoder tells a little off', () => {
    for (const steps of [varied, even])
      for (let i = 0; i < countOf(steps); i++)
        for (const off of [-0.004, 0, 0.004]) {
          const { num, den } = timeOf(steps, i)
          expect(stepNear(steps, num / den + off)).toBe(i)
        }
    expect([stepNear(varied, -1), stepNear(varied, 9), stepNear(even, -1), stepNear(even, 9)]).toEqual([
      0, 3, 0, 4,
    ])
    expect(stepNear(framesOf({ kind: 'still' }), 7)).toBe(0)
  })
})
