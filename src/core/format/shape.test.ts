import { describe, expect, it } from 'vitest'
import { aspectName, sizeText } from './format'
import { parseShape, shapes, sizesInShape } from './shape'

const sizes = (text: string) => sizesInShape(parseShape(text)!).map(sizeText)

describe('shapes', () => {
  it.each([
    ['16:9', 16 / 9],
    [' 2.39:1 ', 2.39],
    ['1,85', 1.85],
    ['4/3', 4 / 3],
    ['21:9', 64 / 27],
    ['16x10', 1.6],
    ['12 × 5', 2.4],
    ['100:10', 10],
    ['1:10', 0.1],
    ['2.35 : 1.25', 1.88],
  ])('%s is read', (text, value) => {
    const { num, den } = parseShape(text)!.aspect
    expect(num / den).toBeCloseTo(value, 6)
  })
  it.each(['', 'wide', '0:9', '16:0', '0:0', '30:1', '1:11', '101:10', 'a 16:9', '16:9 b', '1.x5', '16:1-5'])(
    '“%s” is refused',
    (text) => expect(parseShape(text)).toBeNull(),
  )

  it('have the standard sizes with their pixel shapes, and rasters of square pixels', () => {
    expect(sizes('16:9')).toEqual([
      '3840x2160',
      '7680x4320',
      '1920x1080',
      '1280x720',
      '1440x1080/4:3',
      '1280x1080/3:2',
      '960x720/4:3',
      '720x576/64:45',
      '720x480/32:27',
    ])
    expect(sizes('9:16').slice(0, 3)).toEqual(['1080x1920', '2160x3840', '720x1280'])
    expect(sizes('4:3')).toContain('1440x1080')
    expect(sizes('4:3')).toContain('720x576/16:15')
    expect(sizes('21:9')).toContain('2560x1080')
    expect(sizes('256:135')[0]).toBe('4096x2160')
    // An odd side is never made.
    expect(sizes('2.39:1')).toEqual(['2582x1080', '5162x2160', '1720x720'])
  })
  it('stand where they are higher than wide, and lie where they are square', () => {
    expect(sizes('1:1')).toEqual(['1080x1080', '2160x2160', '720x720'])
    expect(sizes('4:5')).toEqual(['1080x1350', '2160x2700', '720x900'])
  })
  it('never mix: UHD is not in the shape of DCI 4K', () => {
    for (const shape of shapes)
      for (const size of sizesInShape(shape))
        expect(size.width === 3840 && size.height === 2160).toBe(
          shape.name === '16:9' && sizeText(size) === '3840x2160',
        )
    expect(aspectName(sizesInShape(parseShape('256:135')!)[0]!)).toBe('256:135')
  })
})
