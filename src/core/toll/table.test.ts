import { expect, it } from 'vitest'
import { makeFormat, pictureOfFormat } from '../format/format'
import { rational } from '../rational/rational'
import { defaultWeights } from './policy'
import { tollTable } from './table'
import { tollOf } from './toll'

const format = (width: number) => makeFormat({ width, height: 1080 }, rational(25))

it('prices each picture once in each format, and forgets the oldest format of four hundred', () => {
  const table = tollTable(defaultWeights)
  const picture = pictureOfFormat(format(1280))
  const row = table.at(format(1))
  expect(row.of(picture)).toEqual(tollOf(picture, format(1), undefined, defaultWeights))
  expect(row.of({ ...picture })).toBe(row.of(picture))
  expect(row.of({ ...picture, rotation: 90 })).not.toBe(row.of(picture))
  for (let width = 2; width <= 400; width++) table.at(format(width))
  expect(table.at(format(1))).toBe(row)
  const second = table.at(format(2))
  table.at(format(401))
  expect(table.at(format(2))).toBe(second)
  expect(table.at(format(1))).not.toBe(row)
})
