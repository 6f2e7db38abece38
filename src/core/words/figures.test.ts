import { describe, expect, it } from 'vitest'
import {
  capital,
  clockTime,
  counted,
  exactPercent,
  exactSeconds,
  factor,
  figure,
  fileSize,
  kilobytes,
  kilohertz,
  milliseconds,
  oneIn,
  percent,
  pixels,
  ratio,
  runningTime,
  spaced,
  speedWords,
  times,
  timesLonger,
  upTo,
} from './figures'

describe('figures in sentences', () => {
  it.each([
    [0, '0 %'],
    [0.51, '51 %'],
    [0.0625, '6.3 %'],
    [0.0007, '0.07 %'],
    [0.05, '5 %'],
    [2, '200 %'],
  ])('%f is %s', (share, text) => expect(percent(share)).toBe(text))

  it.each([
    [480, '480'],
    [67.5, '67.5'],
    [0.355, '0.35'],
    [656.25, '656.3'],
  ])('%f pixels are %s', (value, text) => expect(pixels(value)).toBe(text))

  it.each([
    [0.4, 'at 40 % speed', '2.5'],
    [2.5, 'at 250 % speed', '0.4'],
    [1000 / 1001, '0.1 % slower', '1.001'],
    [1001 / 1000, '0.1 % faster', '0.999'],
    [1, 'at true speed', '1.000'],
  ])('a speed of %f is %s, %s times as long', (speed, words, longer) => {
    expect(speedWords(speed)).toBe(words)
    expect(timesLonger(speed)).toBe(longer)
  })
  it('have as many decimals as are asked for', () => {
    expect([figure(8.333), figure(8.333, 3), figure(2, 0)]).toEqual(['8.3', '8.333', '2'])
  })
})

describe('times and sizes', () => {
  it.each([
    [38, '0:38'],
    [125.4, '2:05'],
    [3723, '1:02:03'],
    [0.4, '0:00'],
    [null, '–'],
    [undefined, '–'],
  ])('%s s is %s', (seconds, text) => expect(clockTime(seconds)).toBe(text))

  it.each([
    [0, '0 B'],
    [999, '999 B'],
    [1000, '1.0 kB'],
    [100_000, '100 kB'],
    [1_000_000, '1.0 MB'],
    [1500, '1.5 kB'],
    [212_000_000, '212 MB'],
    [4_700_000_000, '4.7 GB'],
    [3_200_000_000_000, '3.2 TB'],
    [2_000_000_000_000_000, '2000 TB'],
  ])('%f bytes are %s', (bytes, text) => expect(fileSize(bytes)).toBe(text))

  it.each([
    [3.24, '3.2 s'],
    [9.96, '10 s'],
    [38.4, '38 s'],
    [59.6, '1 min 00 s'],
    [252, '4 min 12 s'],
    [3900, '1 h 05 min'],
    [3599.6, '1 h 00 min'],
  ])('%f s of film are %s', (seconds, text) => expect(runningTime(seconds)).toBe(text))

  it.each([
    [1, '1 kB'],
    [37_001, '38 kB'],
    [999_999, '1000 kB'],
    [2_100_000, '2.1 MB'],
    [1_000_000_000, '1.0 GB'],
  ])('%i bytes of a file are %s', (bytes, text) => expect(kilobytes(bytes)).toBe(text))
})

describe('small words', () => {
  it('count, compare and join', () => {
    expect([counted(1, 'clip'), counted(3, 'clip'), counted(2, 'boundary', 'boundaries')]).toEqual([
      '1 clip',
      '3 clips',
      '2 boundaries',
    ])
    expect([times(2), times(3)]).toEqual(['twice', '3 times'])
    expect([factor(2), factor(1.5), factor(4 / 3), factor(8 / 3)]).toEqual(['2.0', '1.5', '1.33', '2.67'])
    expect([oneIn(1, 5), oneIn(2, 5), oneIn(1, 23.4), oneIn(1, 4, 'field')]).toEqual([
      '1 frame in 5',
      '1 frame in 2.50',
      '1 frame in 23',
      '1 field in 4',
    ])
    expect([upTo(2, 3), upTo(1 / 3, 3), exactPercent(0.479520479)]).toEqual(['2', '0.333', '47.95 %'])
    expect([exactSeconds(2.481), exactSeconds(2.4816, 3), milliseconds(16.68)]).toEqual([
      '2.48 s',
      '2.482 s',
      '16.7 ms',
    ])
    expect([kilohertz(48_000), kilohertz(44_100)]).toEqual(['48 kHz', '44.1 kHz'])
    expect([ratio({ num: 64, den: 45 }), spaced('top-first'), spaced('a-b-c'), capital('scan')]).toEqual([
      '64:45',
      'top first',
      'a b c',
      'Scan',
    ])
  })
})
