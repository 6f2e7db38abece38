import { describe, expect, it } from 'vitest'
import { rational } from '../rational/rational'
import { aspectName, formatName, formatText, makeFormat, sameFormat, shapeName, tradeName } from './format'
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
  ])('refuses %j', (text) => expect(parseFormat(text)).toBeNull())

  it('compares every part', () => {
    const hd = makeFormat({ width: 1920, height: 1080 }, rational(25))
    expect(sameFormat(hd, { ...hd })).toBe(true)
    expect(sameFormat(hd, { ...hd, scan: 'interlaced', fieldOrder: 'top-first' })).toBe(false)
    expect(sameFormat(hd, { ...hd, colour: { ...hd.colour, bitDepth: 10 } })).toBe(false)
  })
})
