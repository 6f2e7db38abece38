import { describe, expect, it } from 'vitest'
import { concat } from '../bytes/concat'
import { Cursor } from '../bytes/cursor'
import { type Box, boxesIn } from './box'
import { captureRateIn } from './capture-rate'

const letters = (text: string) => new TextEncoder().encode(text)
function u32(...values: number[]): Uint8Array {
  const view = new DataView(new ArrayBuffer(values.length * 4))
  values.forEach((value, i) => view.setUint32(i * 4, value))
  return new Uint8Array(view.buffer)
}
function f32(value: number): Uint8Array {
  const view = new DataView(new ArrayBuffer(4))
  view.setFloat32(0, value)
  return new Uint8Array(view.buffer)
}
const box = (type: string | Uint8Array, ...parts: Uint8Array[]): Uint8Array => {
  const body = concat(parts)
  return concat([u32(body.length + 8), typeof type === 'string' ? letters(type) : type, body])
}
const read = (bytes: Uint8Array): Box[] => [...boxesIn(new Cursor(bytes))]
const handler = box('hdlr', u32(0, 0, 0x6d647461, 0, 0, 0))
const key = (name: string) => concat([u32(name.length + 8), letters('mdta'), letters(name)])
const item = (place: number, kind: number, value: Uint8Array) =>
  box(u32(place), box('data', u32(kind, 0), value))
const keyed = (kind: number, value: Uint8Array, name = 'org.foundry.capture.fps') =>
  box(
    'meta',
    handler,
    box('keys', u32(0, 2), key('org.foundry.bell'), key(name)),
    box('ilst', item(1, 1, letters('tenor')), item(2, kind, value)),
  )

describe('the rate at which a file says it was recorded', () => {
  it('stands under a key, as a number of any kind', () => {
    expect(captureRateIn(read(keyed(23, f32(240))))).toEqual({ num: 240, den: 1 })
    expect(captureRateIn(read(keyed(23, f32(119.88))))).toEqual({ num: 120000, den: 1001 })
    expect(captureRateIn(read(keyed(1, letters('100'))))).toEqual({ num: 100, den: 1 })
    expect(captureRateIn(read(keyed(22, u32(120))))).toEqual({ num: 120, den: 1 })
  })

  it('or in the XML of descriptions that have a version', () => {
    const xml = (text: string) => read(box('meta', u32(0), handler, box('xml ', u32(0), letters(text))))
    expect(captureRateIn(xml('<VideoFrame captureFps="100.00p" formatFps="25p"/>'))).toEqual({
      num: 100,
      den: 1,
    })
    expect(captureRateIn(xml('<VideoFrame formatFps="25p"/>'))).toBeNull()
  })

  it('is not made up where none is stated, or nonsense', () => {
    expect(captureRateIn([])).toBeNull()
    expect(captureRateIn(read(keyed(23, f32(240), 'org.foundry.rate')))).toBeNull()
    for (const [kind, value] of [
      [23, f32(-1)],
      [23, f32(NaN)],
      [1, letters('fast')],
      [23, new Uint8Array(2)],
    ] as const)
      expect(captureRateIn(read(keyed(kind, value)))).toBeNull()
  })
})
