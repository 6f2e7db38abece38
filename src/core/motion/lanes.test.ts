import { describe, expect, it } from 'vitest'
import { parseRate } from '../rate/parse'
import { lanesFor } from './lanes'

const rate = (text: string) => parseRate(text)!.rate
const lanes = (S: string, T: string) => lanesFor(rate(S), rate(T))
const framesOf = (S: string, T: string, kind: string, times: number[]) => {
  const lane = lanes(S, T).find((l) => l.kind === kind)!
  return times.map((t) =>
    lane
      .at(t)
      .map(({ frame, share }) => (share === 1 ? frame : `${frame}×${share.toFixed(2)}`))
      .join(' '),
  )
}
/** The middle of each of the first frames at a rate. */
const middles = (perSecond: number, count: number) =>
  Array.from({ length: count }, (_, n) => (n + 0.5) / perSecond)

describe('the lanes of the demonstration', () => {
  it('are those whose motion differs', () => {
    expect(lanes('25', '25').map((l) => l.kind)).toEqual(['filmed'])
    expect(lanes('25', '50').map((l) => l.kind)).toEqual(['filmed', 'hold'])
    expect(lanes('50', '25').map((l) => l.kind)).toEqual(['filmed', 'hold', 'every-frame'])
    expect(lanes('24', '60').map((l) => l.kind)).toEqual(['filmed', 'hold', 'blend', 'every-frame'])
  })
  it('show what the cadence says, at true speed', () => {
    expect(framesOf('24', '60', 'filmed', middles(24, 4))).toEqual(['0', '1', '2', '3'])
    expect(framesOf('24', '60', 'hold', middles(60, 10))).toEqual([
      '0',
      '0',
      '1',
      '1',
      '1',
      '2',
      '2',
      '3',
      '3',
      '3',
    ])
    expect(framesOf('50', '25', 'every-frame', middles(25, 3))).toEqual(['0', '1', '2'])
    expect(framesOf('24', '60', 'every-frame', [1.0001])).toEqual(['60'])
  })
  it('mix two frames where they are blended', () => {
    expect(framesOf('24', '60', 'blend', middles(60, 4))).toEqual([
      '0',
      '0×0.90 1×0.10',
      '0×0.50 1×0.50',
      '0×0.10 1×0.90',
    ])
  })
})
