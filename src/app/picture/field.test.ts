import { describe, expect, it } from 'vitest'
import { keepField, stepField } from './field'

describe('fields', () => {
  const woven = () => new Uint8ClampedArray([1, 2, 3, 4].flatMap((line) => [line, line, line, 255]))
  const lines = (pixels: Uint8ClampedArray) => [0, 1, 2, 3].map((line) => pixels[line * 4])
  it('show one moment at full height', () => {
    const top = woven()
    keepField(top, 1, 4, 'top')
    expect(lines(top)).toEqual([1, 1, 3, 3])
    const bottom = woven()
    keepField(bottom, 1, 4, 'bottom')
    expect(lines(bottom)).toEqual([2, 2, 2, 4])
  })
  it('are stepped in their order', () => {
    expect(stepField(5, 'both', true, 1)).toEqual({ frame: 5, field: 'top' })
    expect(stepField(5, 'top', true, 1)).toEqual({ frame: 5, field: 'bottom' })
    expect(stepField(5, 'bottom', true, 1)).toEqual({ frame: 6, field: 'top' })
    expect(stepField(5, 'bottom', false, 1)).toEqual({ frame: 5, field: 'top' })
    expect(stepField(5, 'top', true, -1)).toEqual({ frame: 4, field: 'bottom' })
  })
})
