import { expect, it } from 'vitest'
import { LeftAside, placeOf } from './clip'

it.each([
  ['', 'constructor'],
  ['', '__proto__'],
  ['day 1/CLIP', 'C0001.XML'],
  ['a'.repeat(900), 'LOCK'],
])('a file left aside can be kept whatever it is called: %s %s', (folder, name) => {
  const id = placeOf({ folder, name })
  expect(id in Object.prototype).toBe(false)
  const file = { id, kind: 'mark', source: { kind: 'file' } }
  expect(LeftAside.parse(file)).toEqual(file)
})
