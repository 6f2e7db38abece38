import { expect, it } from 'vitest'
import { csvOf } from './csv'

it.each([
  ['=1+1', `"'=1+1"`],
  ['+cmd', `"'+cmd"`],
  ['-a', `"'-a"`],
  ['@sum', `"'@sum"`],
  ['\tbell', `"'\tbell"`],
  ['\rbell', `"'\rbell"`],
  ['-12.5', '-12.5'],
  ['+3', '+3'],
  ['–', '–'],
  ['bell, hall', '"bell, hall"'],
  ['a"b', '"a""b"'],
])('the cell %j is written as %j', (cell, written) => {
  expect(csvOf([['clip', cell]])).toBe(`clip,${written}`)
})
