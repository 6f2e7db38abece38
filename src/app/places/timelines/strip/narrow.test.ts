import { expect, it } from 'vitest'
import { type NarrowBlock, tellable } from './narrow'

const block = (left: number, width: number, chosen = false): NarrowBlock => ({
  left,
  width,
  grade: 'light',
  chosen,
})

it('makes one of many blocks in a pixel, as long as they are together, chosen where one is', () => {
  const many = Array.from({ length: 20 }, (_, i) => block(i / 10, 1 / 10, i === 13))
  const narrowBlocks = tellable(many, 1)
  expect(narrowBlocks).toHaveLength(2)
  expect(narrowBlocks.map(({ left, chosen }) => [left, chosen])).toEqual([
    [0, false],
    [1, true],
  ])
  narrowBlocks.forEach(({ width }) => expect(width).toBeCloseTo(1))
})

it('leaves blocks that can be told apart as they are, on a finer screen more of them', () => {
  const narrowBlocks = [block(0.2, 0.5), block(0.7, 3), block(3.7, 0.2)]
  expect(tellable(narrowBlocks, 1)).toEqual(narrowBlocks)
  const two = [block(0, 0.5), block(0.5, 0.5)]
  expect(tellable(two, 1)).toHaveLength(1)
  expect(tellable(two, 2)).toEqual(two)
})
