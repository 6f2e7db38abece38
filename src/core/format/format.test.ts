import { describe, expect, it } from 'vitest'
import { rational } from '../rational/rational'
import {
  Format,
  aspectName,
  formatName,
  formatText,
  makeFormat,
  sameFormat,
  shapeName,
  tradeName,
} from './format'
import { parseFormat, parsePicture, parseSize } from './parse'

const size = (text: string) => parseSize(text)!

describe('format', () => {
  it('tells UHD from DCI 4K and anamorphic HD from HD', () => {
    expect([tradeName(size('3840x2160')), aspectName(size('3840x2160'))]).toEqual(['UHD', '16:9'])
    expect([tradeName(size('4096x2160')), aspectName(size('4096x2160'))]).toEqual(['DCI 4K', '256:135'])
    expect(tradeName(size('1440x1080/4:3'))).toBe('HD anamorphic')
    expect(aspectName(size('1440x1080/4:3'))).toBe('16:9')
    expect(tradeName(size('1440x1080'))).toBeNull()
    expect(aspectName(size('720x576/64:45'))).toBe('16:9')
    expect(tradeName(size('1080x1920'))).toBe('HD portrait')
  })

  it.each([
    ['3840x2160', 'UHD, 16:9'],
    ['4096x2160', 'DCI 4K, 256:135'],
    ['720x576/64:45', 'SD 625, 16:9'],
    ['1440x1080/4:3', 'HD anamorphic, 16:9'],
    ['1080x1920', 'HD portrait, 9:16'],
    ['2704x1520', '169:95'],
    ['5000x1999', '2.50:1'],
    ['1999x5000', '0.40:1'],
    ['256x257', '1.00:1'],
    ['2570x1000', '2.57:1'],
    ['2560x10', '256:1'],
    ['10x2560', '1:256'],
    ['1080x1080', 'HD square, 1:1'],
    ['720x1440/4:3', '2:3'],
  ])('calls %s %s', (text, name) => expect(shapeName(size(text))).toBe(name))

  it.each(['1920x1080@25p', '3840x2160@23.976p', '1440x1080/4:3@50i', '720x480/32:27@59.94i'])(
    'reads and writes %s',
    (text) => {
      expect(formatText(parseFormat(text)!.format)).toBe(text)
    },
  )

  it('reads what people type, and tells a snap', () => {
    const typed = parseFormat('1920×1080@23.98')!
    expect(typed.format).toEqual(makeFormat({ width: 1920, height: 1080 }, rational(24000, 1001)))
    expect(typed.message).toContain('24000/1001')
    expect(formatName(typed.format)).toBe('1920×1080 · 23.976p')
    expect(parsePicture('1920x1080@90')).toMatchObject({ width: 1920, rotation: 90 })
    expect(parsePicture('1920x1080')).toMatchObject({ width: 1920, rotation: 0 })
    expect(parsePicture('1920x1080@ 270 ')).toMatchObject({ rotation: 270 })
    expect(parseSize(' 1440 * 1080 / 4 : 3 ')).toEqual({
      width: 1440,
      height: 1080,
      pixelAspect: rational(4, 3),
    })
    expect(parseSize('32768x32768')).toMatchObject({ width: 32768, height: 32768 })
  })

  it.each(['1920x1080@45', '1920x1080@90@0', 'wide@90', '@90', '1920x1080@90x'])(
    'takes %j for no picture',
    (text) => expect(parsePicture(text)).toBeNull(),
  )

  it.each([
    'is 1920x1080',
    '1920x1080 or so',
    '1920-x1080',
    '1920x1080/4-:3',
    '1920x1080-',
    '32769x1080',
    '1920x32769',
    '99999x99999',
    '1920x1080/0:1',
    '1920x1080/1:0',
    '1920x1080/1:17',
  ])('takes %j for no size', (text) => expect(parseSize(text)).toBeNull())

  it('gives fields an order: 480 and 486 lines bottom first, all else top first, frames none', () => {
    const order = (text: string) => parseFormat(text)!.format.fieldOrder
    expect(['720x480@59.94i', '720x486@59.94i', '720x576@50i', '1920x1080@50i'].map(order)).toEqual([
      'bottom-first',
      'bottom-first',
      'top-first',
      'top-first',
    ])
    expect(order('720x480@29.97p')).toBeNull()
    const hd = makeFormat({ width: 1920, height: 1080 }, rational(25))
    expect(Format.parse({ ...hd, fieldOrder: 'top-first' })).toEqual(hd)
    const fields = { ...hd, scan: 'interlaced', fieldOrder: 'bottom-first' }
    expect(Format.parse(fields)).toEqual(fields)
  })

  it('has its pixel shape beside the size only where it is not square', () => {
    expect(formatName(parseFormat('1440x1080/4:3@50i')!.format)).toBe('1440×1080 (4:3) · 50i')
    expect(formatName(parseFormat('1440x1080@50i')!.format)).toBe('1440×1080 · 50i')
    expect([tradeName(size('1920x1920')), tradeName(size('576x720/45:64'))]).toEqual([null, null])
    expect(tradeName(size('1080x1440/3:4'))).toBeNull()
  })

  it.each([
    '',
    '1920',
    '1920x0@25',
    '1920x1080',
    '1920x1080@',
    '1920x1080@25p@1',
    '99999x10@25',
    '1920x1080/0:1@25',
    '1920@25p',
    '@25p',
  ])('refuses %j', (text) => expect(parseFormat(text)).toBeNull())

  it('compares every part', () => {
    const hd = makeFormat({ width: 1920, height: 1080 }, rational(25))
    expect(sameFormat(hd, { ...hd })).toBe(true)
    expect(sameFormat(hd, { ...hd, scan: 'interlaced', fieldOrder: 'top-first' })).toBe(false)
    expect(sameFormat(hd, { ...hd, colour: { ...hd.colour, bitDepth: 10 } })).toBe(false)
  })
})
