import { describe, expect, it } from 'vitest'
import { noSides } from '../treatment/treatment'
import type { Charge, ChargeFigures } from './charge'
import { sentence, shortWords } from './sentence'

const charge = (figures: ChargeFigures, loss = 0.5): Charge => ({ ...figures, grade: 'light', loss })

describe('every charge', () => {
  const both = (left: number, right = left) => ({ ...noSides, left, right })
  it.each<[ChargeFigures, string, string]>([
    [{ kind: 'enlarge', scaleX: 2, scaleY: 2 }, 'enlarged 2.0: 75 % of the pixels invented', 'enlarged 2.0'],
    [
      { kind: 'enlarge', scaleX: 8 / 3, scaleY: 15 / 8 },
      'enlarged 2.67 across, 1.88 down: 80 % of the pixels invented',
      'enlarged 2.67',
    ],
    [
      { kind: 'reduce', scaleX: 0.5, scaleY: 0.5, headroom: 2 },
      'reduced to 50 %: room to zoom to 200 %',
      'reduced to 50 %',
    ],
    [
      { kind: 'reduce', scaleX: 0.75, scaleY: 1, headroom: 1 },
      'reduced to 75 % across: no room to zoom',
      'reduced to 75 %',
    ],
    [
      { kind: 'reduce', scaleX: 0.375, scaleY: 0.5, headroom: 2 },
      'reduced to 38 % across, 50 % down: room to zoom to 200 %',
      'reduced to 38 %',
    ],
    [
      { kind: 'bars', share: 0.25, bars: both(240) },
      'bars of 240 px left and right (25 % of the frame)',
      'bars 25 %',
    ],
    [
      { kind: 'bars', share: 0.3, bars: { ...both(100, 476), top: 12 } },
      'bars of 100 px left, 476 px right, 12 px above (30 % of the frame)',
      'bars 30 %',
    ],
    [
      { kind: 'crop', share: 0.0625, crop: both(128) },
      'loses 128 px left and right (6.3 % of the picture)',
      'crop 6.3 %',
    ],
    [{ kind: 'distort', ratio: 1.33 }, 'distortion: 33 % too wide', 'distorted'],
    [{ kind: 'distort', ratio: 0.8 }, 'distortion: 25 % too tall', 'distorted'],
    [{ kind: 'even-hold', times: 2 }, 'every frame shown twice, evenly', 'each twice'],
    [{ kind: 'even-hold', times: 4 }, 'every frame shown 4 times, evenly', 'each 4 times'],
    [{ kind: 'even-skip', every: 5 }, '1 frame in 5 shown, evenly', '1 frame in 5'],
    [
      { kind: 'slip', seconds: 41.708, drops: false },
      'one frame shown twice every 41.7 s',
      'slips every 42 s',
    ],
    [{ kind: 'slip', seconds: 40, drops: true }, 'one frame dropped every 40.0 s', 'slips every 40 s'],
    [
      { kind: 'uneven', periodTimeline: 6, periodSource: 5, judderMs: 13.3333 },
      '1 frame in 5 shown twice, judder 13.3 ms',
      'uneven, 13.3 ms',
    ],
    [
      { kind: 'uneven', periodTimeline: 24, periodSource: 25, judderMs: 7.99 },
      '1 frame in 25 dropped, judder 8.0 ms',
      'uneven, 8.0 ms',
    ],
    [{ kind: 'speed', speed: 0.4 }, 'every frame once, at 40 % speed: running time × 2.5', 'at 40 % speed'],
    [
      { kind: 'deinterlace', doubleRate: false, both: false },
      'deinterlaced: one motion sample in two kept',
      '1 field in 2',
    ],
    [
      { kind: 'deinterlace', doubleRate: true, both: false },
      'deinterlaced to double rate: all motion kept',
      'fields to frames',
    ],
    [
      { kind: 'deinterlace', doubleRate: false, both: true },
      'deinterlaced: both fields averaged, what moves is soft and double',
      'fields averaged',
    ],
    [
      { kind: 'remove-pulldown', measured: true },
      '2:3 pulldown removed: every film frame once',
      'pulldown removed',
    ],
    [
      { kind: 'remove-pulldown', measured: false },
      '2:3 pulldown removed: every film frame once, at a phase that is not measured',
      'pulldown removed',
    ],
    [{ kind: 'turn', degrees: 270 }, 'turned by 270°: every pixel kept', 'turned 270°'],
    [{ kind: 'between-pixels' }, 'moved by a part of a pixel: every pixel made anew', 'between pixels'],
    [
      { kind: 'reduce', scaleX: 1, scaleY: 0.5, headroom: 1.006 },
      'reduced to 50 % down: room to zoom to 101 %',
      'reduced to 50 %',
    ],
    [
      { kind: 'bars', share: 0.1, bars: { ...noSides, bottom: 8 } },
      'bars of 8 px below (10 % of the frame)',
      'bars 10 %',
    ],
    [
      { kind: 'variable-rate', share: 0.25, minRate: 23.3, maxRate: null },
      'variable rate: 25 % of the frames off by more than 10 %',
      'variable',
    ],
    [{ kind: 'pulldown' }, '2:3 pulldown: every frame whole, in 2 and 3 fields in turn', '2:3 pulldown'],
    [{ kind: 'blend', share: 0.5 }, 'two frames mixed in 50 % of the frames', 'mixed 50 %'],
    [
      { kind: 'fields-from-frames' },
      'one field from each frame: all motion kept, half of the lines',
      'a field from each',
    ],
    [{ kind: 'weave' }, 'fields woven: combs on everything that moves', 'combs'],
    [{ kind: 'field-order' }, 'field order turned: one line of shift', 'field order'],
    [{ kind: 'field-rescale' }, 'fields rescaled: deinterlaced, scaled, interlaced again', 'fields rescaled'],
    [
      { kind: 'variable-rate', share: 0.25, minRate: 23.3, maxRate: 31.4 },
      'variable rate (23.3 to 31.4 a second): 25 % of the frames off by more than 10 %',
      'variable',
    ],
    [
      { kind: 'variable-rate', share: 0, minRate: null, maxRate: null },
      'variable rate: 0 % of the frames off by more than 10 %',
      'variable',
    ],
    [
      { kind: 'colour', from: 'pq', to: 'bt709', step: 'dynamic-range' },
      'dynamic range converted, pq to bt709',
      'colour',
    ],
    [
      { kind: 'colour', from: 'bt601-625', to: 'bt709', step: 'primaries' },
      'colour converted, bt601-625 to bt709',
      'colour',
    ],
    [{ kind: 'colour', from: 'pq', to: 'hlg', step: 'transfer' }, 'transfer converted, pq to hlg', 'colour'],
    [
      { kind: 'not-for-display', samples: 'linear' },
      'linear light, shown by the curve of BT.709 at exposure 0: brighter than white is cut off',
      'linear',
    ],
    [
      { kind: 'not-for-display', samples: 'log' },
      'logarithmic, shown as recorded: a grade makes a picture of it, elsewhere',
      'log',
    ],
    [
      { kind: 'pictures-left-out', share: 0.0125 },
      '1.25 % of the frames show the picture before: their own is missing',
      'pictures missing',
    ],
    [{ kind: 'depth', from: 10, to: 8 }, '10 bit brought to 8 bit', '8 bit'],
  ])('%o has a sentence and a few words', (figures, long, short) => {
    expect(sentence(charge(figures))).toBe(long)
    expect(shortWords(charge(figures))).toBe(short)
  })
})
