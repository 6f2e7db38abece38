import { describe, expect, it } from 'vitest'
import { keepField, stepField, takeLines } from './field'

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

describe('a frame woven out of two', () => {
  /** Four lines of one pixel, each with its number. */
  const lines = (...values: number[]) => new Uint8ClampedArray(values.flatMap((v) => [v, v, v, 255]))
  const column = (pixels: Uint8ClampedArray) => [0, 4, 8, 12].map((i) => pixels[i])

  it('takes the lines of a field from another picture', () => {
    const pixels = lines(1, 2, 3, 4)
    takeLines(pixels, lines(11, 12, 13, 14), { width: 1, height: 4 }, 'bottom', 'bottom')
    expect(column(pixels)).toEqual([1, 12, 3, 14])
  })
  it('takes the line beside where the other field is asked for', () => {
    const pixels = lines(1, 2, 3, 4)
    takeLines(pixels, lines(11, 12, 13, 14), { width: 1, height: 4 }, 'top', 'bottom')
    expect(column(pixels)).toEqual([12, 2, 14, 4])
    takeLines(pixels, lines(11, 12, 13, 14), { width: 1, height: 4 }, 'bottom', 'top')
    expect(column(pixels)).toEqual([12, 11, 14, 13])
  })
})
