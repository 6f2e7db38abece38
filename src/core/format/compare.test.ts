import { describe, expect, it } from 'vitest'
import type { Picture } from '../picture/picture'
import { rational } from '../rational/rational'
import { differencesOf } from './compare'
import { type Format, formatKey, pictureOfFormat, sameFormat } from './format'
import { parseFormat } from './parse'

const format = (text: string, more: Partial<Format> = {}): Format => ({
  ...parseFormat(text)!.format,
  ...more,
})
const hd25 = format('1920x1080@25p')
const clip = (text: string, more: Partial<Picture> = {}): Picture => ({
  ...pictureOfFormat(format(text)),
  ...more,
})
const about = (picture: Picture, to = hd25) =>
  differencesOf(picture, to).map((difference) => difference.about)

describe('what differs', () => {
  it('is each property alone, upright', () => {
    expect(about(clip('1920x1080@25p'))).toEqual([])
    expect(about(clip('1280x720/4:3@50i'))).toEqual(['size', 'pixel shape', 'scan'])
    expect(about(clip('1920x1080@50p'))).toEqual(['rate'])
    expect(about(clip('1920x1088@25p'))).toEqual(['size'])
    expect(about(clip('1918x1080@25p'))).toEqual(['size'])
    expect(about(clip('1920x1080@25p', { rotation: 90 }))).toEqual(['size'])
    expect(about(clip('1080x1920@25p', { rotation: 270 }))).toEqual([])
    expect(about(clip('1920x1080@25p', { bitDepth: 10 }))).toEqual(['depth'])
    expect(
      about(
        clip('1920x1080@25p', { bitDepth: 10 }),
        format('1920x1080@25p', { colour: { ...hd25.colour, bitDepth: 12 } }),
      ),
    ).toEqual([])
    expect(differencesOf(clip('1440x1080/4:3@25p'), hd25)).toMatchObject([
      { about: 'size', from: { width: 1440 }, to: { width: 1920 } },
      { about: 'pixel shape', from: rational(4, 3), to: rational(1) },
    ])
  })

  it('leaves out what is not stated, and what a still has not', () => {
    const silent = {
      scan: 'unknown',
      fieldOrder: null,
      primaries: null,
      transfer: null,
      bitDepth: null,
    } as const
    expect(about(clip('1920x1080@25p', silent))).toEqual([])
    expect(about(clip('1920x1080@25p', { rate: null, scan: 'interlaced' }))).toEqual([])
    expect(about(clip('1920x1080@50i', { fieldOrder: 'unknown' }), format('1920x1080@50i'))).toEqual([])
  })

  it('of two orders of fields is the order', () => {
    const i50 = format('1920x1080@50i')
    expect(differencesOf(clip('1920x1080@50i', { fieldOrder: 'bottom-first' }), i50)).toEqual([
      { about: 'field order', from: 'bottom-first', to: 'top-first' },
    ])
    expect(about(clip('1920x1080@50i', { fieldOrder: null }), i50)).toEqual([])
    expect(about(clip('1920x1080@50i'), { ...i50, fieldOrder: null })).toEqual([])
    expect(about(clip('1920x1080@25p', { bitDepth: null }), { ...hd25, fieldOrder: 'top-first' })).toEqual([])
  })

  const step = (picture: Picture, to: Format) =>
    differencesOf(picture, to).flatMap((difference) => (difference.about === 'colour' ? difference.step : []))
  const hdr = (transfer: string) =>
    format('1920x1080@25p', { colour: { primaries: 'bt2020', transfer, bitDepth: 10 } })

  it('of colour is the conversion that is needed, the dearest of several', () => {
    expect(step(clip('1920x1080@25p', { primaries: 'bt2020', transfer: 'pq' }), hd25)).toEqual([
      'dynamic-range',
    ])
    expect(step(clip('1920x1080@25p'), hdr('pq'))).toEqual(['dynamic-range'])
    expect(step(clip('1920x1080@25p', { primaries: 'bt2020', transfer: 'pq' }), hdr('hlg'))).toEqual([
      'transfer',
    ])
    expect(step(clip('1920x1080@25p', { primaries: 'bt2020', transfer: 'hlg' }), hdr('hlg'))).toEqual([])
    expect(step(clip('1920x1080@25p', { primaries: 'bt2020' }), hd25)).toEqual(['primaries'])
    expect(step(clip('1920x1080@25p', { transfer: 'bt601' }), hd25)).toEqual([])
    // What is not stated is taken as the format has it, light and gamut alike.
    expect(step(clip('1920x1080@25p', { primaries: 'bt2020', transfer: null }), hdr('pq'))).toEqual([])
    expect(
      step(clip('1920x1080@25p', { primaries: null, transfer: 'pq', matrix: 'bt2020' }), hdr('pq')),
    ).toEqual([])
    expect(step(clip('720x576/64:45@25p', { primaries: 'bt2020' }), hd25)).toEqual(['primaries'])
    expect(step(clip('720x576/64:45@25p', { primaries: 'bt601-625' }), hdr('bt709'))).toEqual(['primaries'])
  })

  it('of standard definition is its matrix alone, which its size tells where it is not stated', () => {
    const sd = '720x576/64:45@25p'
    expect(step(clip(sd, { primaries: 'bt601-625' }), hd25)).toEqual(['matrix'])
    expect(step(clip(sd), format(sd))).toEqual([])
    expect(step(clip(sd, { primaries: 'bt601-625', matrix: 'bt601-625' }), format(sd))).toEqual([])
    expect(step(clip(sd, { matrix: 'bt709' }), format(sd))).toEqual(['matrix'])
    expect(step(clip('720x480/8:9@29.97p', { matrix: 'bt601-525' }), format(sd))).toEqual([])
    expect(step(clip('1920x1080@25p', { primaries: 'bt601-625' }), hd25)).toEqual(['primaries'])
    expect(step(clip('1920x1080@25p'), format(sd))).toEqual(['matrix'])
    expect(step(clip('1920x1080@25p', { matrix: 'rgb' }), hd25)).toEqual([])
    expect(step(clip(sd, { rate: null, matrix: null }), hd25)).toEqual([])
    expect(step(clip(sd, { rate: null, matrix: 'bt601-625' }), hd25)).toEqual(['matrix'])
    expect(step(clip(sd, { primaries: 'smpte432' }), hd25)).toEqual(['primaries'])
  })
})

describe('a format’s identity', () => {
  it('is made of all its fields, and no text for people', () => {
    const others: Format[] = [
      format('1920x1080@24p'),
      format('1920x1081@25p'),
      format('1921x1080@25p'),
      format('1920x1080/4:3@25p'),
      format('1920x1080@50i'),
      { ...format('1920x1080@50i'), fieldOrder: 'bottom-first' },
      { ...hd25, colour: { ...hd25.colour, primaries: 'bt2020' } },
      { ...hd25, colour: { ...hd25.colour, transfer: 'pq' } },
      { ...hd25, colour: { ...hd25.colour, bitDepth: 10 } },
    ]
    for (const other of others) expect(sameFormat(hd25, other)).toBe(false)
    expect(new Set([hd25, ...others].map(formatKey)).size).toBe(others.length + 1)
    expect(sameFormat(hd25, structuredClone(hd25))).toBe(true)
  })
})
