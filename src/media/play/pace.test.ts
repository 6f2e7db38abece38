import { describe, expect, it } from 'vitest'
import { paceOf } from './pace'

const stretch = { from: 10, to: 20, start: 14, loops: false }

describe('playing', () => {
  it('has each frame due for as long as it lasts', () => {
    const pace = paceOf(1000, 25, stretch)
    expect([999, 1000, 1039, 1040, 1239, 1240].map((at) => pace.dueAt(at))).toEqual([
      null,
      14,
      14,
      15,
      19,
      null,
    ])
    const slow = paceOf(0, 2.5, stretch)
    expect([399, 400].map((at) => slow.dueAt(at))).toEqual([14, 15])
  })

  it('goes round where it loops', () => {
    const pace = paceOf(0, 25, { ...stretch, loops: true })
    expect([0, 200, 239, 240, 600].map((at) => pace.dueAt(at))).toEqual([14, 19, 19, 10, 19])
  })

  it('counts what fell due, and each that was shown in time once', () => {
    const pace = paceOf(0, 25, stretch)
    pace.show(0)
    pace.show(16)
    pace.show(85)
    expect(pace.counted(85)).toMatchObject({ due: 3, shown: 2 })
    pace.show(125)
    expect(pace.counted(160)).toMatchObject({ due: 5, shown: 3 })
    // Once it is over nothing more falls due, and the time counts no further.
    expect(pace.counted(9000)).toMatchObject({ due: 6, shown: 3, perSecond: 12.5 })
  })

  it('loses no frame to the dust of a clock', () => {
    const pace = paceOf(1764241200123.4, 50, { from: 0, to: 5000, start: 0, loops: false })
    for (let n = 0; n < 5000; n += 7) expect(pace.dueAt(1764241200123.4 + n * 20)).toBe(n)
  })
})
