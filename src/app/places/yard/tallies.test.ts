import { describe, expect, it } from 'vitest'
import { parseFormat } from '../../../core/format/parse'
import { pictureOfFormat } from '../../../core/format/format'
import { byAspect, timeByRate } from './tallies'
import type { Bloc } from '../../../core/choice/bloc'

const bloc = (text: string, seconds: number): Bloc => ({
  picture: pictureOfFormat(parseFormat(text)!.format),
  ids: [text],
  seconds,
  weight: seconds,
})

describe('running time', () => {
  it('is gathered by rate and size', () => {
    const blocs = [
      bloc('1920x1080@50p', 4),
      bloc('3840x2160@25p', 30),
      bloc('1920x1080@25p', 6),
      bloc('1920x1080@50i', 1),
    ]
    expect(timeByRate(blocs)).toEqual({
      rates: ['25p', '50i', '50p'],
      sizes: ['3840×2160', '1920×1080'],
      seconds: [
        [30, 0, 0],
        [6, 1, 4],
      ],
    })
  })
})

describe('the parts of a loss', () => {
  it('are gathered by aspect and none is lost', () => {
    const parts = [
      { kind: 'enlarge' as const, value: 0.2 },
      { kind: 'bars' as const, value: 0.05 },
      { kind: 'slip' as const, value: 0.01 },
      { kind: 'delivery' as const, value: 0.1 },
    ]
    const sums = byAspect(parts)
    expect(sums).toEqual({ size: 0.25, motion: 0.01, fields: 0, colour: 0, delivery: 0.1 })
  })
})
