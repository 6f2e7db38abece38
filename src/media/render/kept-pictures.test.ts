import { afterEach, beforeEach, expect, it, vi } from 'vitest'
import { figureMeaning } from '../../core/figure/figure'
import { keeper } from './kept-pictures'

/** A picture of so many samples. */
const picture = (width: number) => ({
  planes: {
    width,
    height: 1,
    bitDepth: 8,
    across: 1,
    down: 1,
    luma: new Uint8Array(width),
    chroma: null,
    alpha: null,
  },
  meaning: figureMeaning,
})
const keptOf = (kept: ReturnType<typeof keeper>, keys: readonly string[]) =>
  keys.filter((key) => kept.get(key))
const strokes = ['1', '2', '3', '4', '5', '6']

beforeEach(() => void vi.useFakeTimers())
afterEach(() => void vi.useRealTimers())

it('keeps what fits its bytes, the least used let go first', () => {
  const kept = keeper(30)
  for (const key of ['a', 'b', 'c']) kept.put(key, picture(10))
  kept.get('a')
  kept.put('d', picture(10))
  expect(keptOf(kept, ['a', 'b', 'c', 'd'])).toEqual(['a', 'c', 'd'])
})

it('keeps the newest, however large it is', () => {
  const kept = keeper(30)
  kept.put('a', picture(10))
  kept.put('tower', picture(100))
  expect(keptOf(kept, ['a', 'tower'])).toEqual(['tower'])
  kept.put('b', picture(30))
  expect(keptOf(kept, ['tower', 'b'])).toEqual(['b'])
})

it('keeps the last four where nothing is wished for a while', () => {
  const kept = keeper(1000)
  for (const key of strokes) kept.put(key, picture(10))
  vi.advanceTimersByTime(4000)
  kept.get('6')
  vi.advanceTimersByTime(4000)
  expect(keptOf(kept, strokes)).toEqual(strokes)
  vi.advanceTimersByTime(6000)
  expect(keptOf(kept, strokes)).toEqual(['3', '4', '5', '6'])
})
