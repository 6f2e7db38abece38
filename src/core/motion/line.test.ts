import { describe, expect, it } from 'vitest'
import { motionLine } from './line'
import type { Shown } from './shown'

const frame = (index: number) => ({ kind: 'frame', index }) as const
const line = (...shown: Shown[]) => motionLine(shown.map((shown, n) => ({ n, id: 'p', shown: shown })))

describe('the line of motion', () => {
  it('marks what is shown again and tells what is left out', () => {
    const cells = line(frame(4), frame(4), frame(5), frame(8))
    expect(cells.map(({ text, mark }) => `${text} ${mark}`)).toEqual([
      '4 whole',
      '4 again',
      '5 whole',
      '8 whole',
    ])
    expect(cells.map(({ lost }) => lost)).toEqual([[], [], [], [6, 7]])
    expect(cells.map(({ begins }) => begins)).toEqual([true, false, false, false])
  })

  it('tells mixtures and fields by both of their parts', () => {
    const field = (index: number, parity: 'top' | 'bottom') =>
      ({ kind: 'field', frame: index, parity, method: 'adaptive' }) as const
    const pair = { top: { frame: 3, parity: 'top' }, bottom: { frame: 2, parity: 'bottom' } } as const
    const cells = line(
      { kind: 'mix', a: frame(1), b: frame(2), weightOfB: 0.4 },
      { kind: 'fields', ...pair },
      field(4, 'bottom'),
      { kind: 'nothing' },
    )
    expect(cells.map(({ text, below, mark }) => [text, below, mark])).toEqual([
      ['1', '2', 'mixed'],
      ['3t', '2b', 'made'],
      ['4b', null, 'made'],
      ['', null, 'nothing'],
    ])
    expect(cells.flatMap(({ lost }) => lost)).toEqual([])
  })

  it('begins anew with another source, and does not count a jump as frames left out', () => {
    const cells = motionLine([
      { n: 0, id: 'p', shown: frame(90) },
      { n: 1, id: 'q', shown: frame(95) },
      { n: 2, id: 'q', shown: frame(500) },
    ])
    expect(cells.map(({ begins, lost }) => [begins, lost.length])).toEqual([
      [true, 0],
      [true, 0],
      [false, 0],
    ])
  })
})
