import { turnedSize } from '../picture/turn'
import { describe, expect, it } from 'vitest'
import { aspectName, tradeName } from './format'
import { parseFormat, parseSize } from './parse'
import { isStandardFormat, objections, standardSizes } from './standard'

describe('standard sizes', () => {
  it('are each named once, and their shapes are what they are called', () => {
    expect(new Set(standardSizes.map((s) => `${s.width} ${s.height} ${s.pixelAspect.num}`)).size).toBe(
      standardSizes.length,
    )
    for (const { name } of standardSizes) expect(name).toBeTruthy()
    const shape = (name: string) => aspectName(standardSizes.find((s) => s.name === name)!)
    expect(shape('UHD')).toBe('16:9')
    expect(shape('DCI 4K')).toBe('256:135')
    expect(shape('SD 625, 16:9')).toBe('16:9')
    expect(shape('SD 525, 4:3')).toBe('4:3')
    expect(shape('HD anamorphic')).toBe('16:9')
    expect(shape('wide HD')).toBe('64:27')
    expect(tradeName(standardSizes.find((s) => s.name === 'HD portrait')!)).toBe('HD portrait')
  })
  it('turn on their side and back', () => {
    expect(turnedSize(parseSize('1920x1080')!)).toMatchObject({ width: 1080, height: 1920 })
    for (const size of standardSizes)
      expect(turnedSize(turnedSize(size))).toEqual({
        width: size.width,
        height: size.height,
        pixelAspect: size.pixelAspect,
      })
  })
})

describe('a standard format', () => {
  it.each([
    '1920x1080@50i',
    '1920x1080@59.94i',
    '1920x1080@59.94p',
    '3840x2160@119.88p',
    '720x576/64:45@50i',
    '720x480/8:9@59.94i',
    '1440x1080/4:3@50i',
    '4096x2160@24p',
    '1280x720@50p',
    '720x576/16:15@25p',
    '720x576/64:45@50p',
    '720x480/8:9@59.94p',
    '720x480/32:27@29.97p',
    '960x720/4:3@59.94p',
    '960x720/4:3@60p',
    '1440x1080/4:3@30p',
    '1280x1080/3:2@23.976p',
    '1920x1080@60i',
    '1920x1080@60p',
    '3840x2160@120p',
    '2048x858@48p',
  ])('is %s', (text) => expect(isStandardFormat(parseFormat(text)!.format)).toBe(true))
  it.each([
    '1080x1080@50i',
    '1080x1080@25p',
    '1080x1920@25p',
    '1440x1080@50i',
    '1280x720@50i',
    '3840x2160@50i',
    '720x576/64:45@59.94i',
    '720x576@50i',
    '1920x1080@12.5p',
    '1920x1080@100p',
    '4096x2160@23.976p',
    '1998x1080@15p',
    '720x576/16:15@24p',
    '720x576/64:45@29.97p',
    '720x480/8:9@25p',
    '720x480/8:9@60p',
    '960x720/4:3@100p',
    '1440x1080/4:3@50p',
    '720x480/8:9@50i',
    '960x720/4:3@59.94i',
    '1920x1080@48i',
    '2560x1080@25p',
  ])('is not %s', (text) => expect(isStandardFormat(parseFormat(text)!.format)).toBe(false))
})

describe('objections', () => {
  const against = (text: string) => objections(parseFormat(text)!.format)
  it.each([
    '1920x1080@50i',
    '720x486/10:11@59.94i',
    '3840x2160@25p',
    '720x480/8:9@59.94i',
    '1080x1080@30p',
    '16x16@25p',
    '16384x8640@25p',
    '1920x1080@60i',
    '1920x1080@100p',
  ])('none to %s', (text) => expect(against(text)).toEqual([]))
  it.each([
    ['1921x1080@25p', /odd side/],
    ['1920x1078@50i', /cannot be interlaced/],
    ['8x8@25p', /smaller/],
    ['8x1080@25p', /smaller/],
    ['1920x8@25p', /smaller/],
    ['30000x20000@25p', /more than any codec/],
    ['1920x1080@100i', /at most 30/],
  ])('to %s', (text, reason) => expect(against(text).join(' ')).toMatch(reason))
})
