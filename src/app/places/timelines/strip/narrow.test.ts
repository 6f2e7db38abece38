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
  const told = tellable(many, 1)
  expect(told).toHaveLength(2)
  expect(told.map(({ left, chosen }) => [left, chosen])).toEqual([
    [0, false],
    [1, true],
  ])
  told.forEach(({ width }) => expect(width).toBeCloseTo(1))
})

it('leaves blocks that can be told apart as they are, on a finer screen more of them', () => {
  const some = [block(0.2, 0.5), block(0.7, 3), block(3.7, 0.2)]
  expect(tellable(some, 1)).toEqual(some)
  const two = [block(0, 0.5), block(0.5, 0.5)]
  expect(tellable(two, 1)).toHaveLength(1)
  expect(tellable(two, 2)).toEqual(two)
})
