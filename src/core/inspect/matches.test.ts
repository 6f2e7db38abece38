import { describe, expect, it } from 'vitest'
import { aStill, aVideo } from '../model/doc.fixture'
import type { Format } from '../format/format'
import { parseFormat } from '../format/parse'
import type { Reading } from '../reading/reading'
import { matchesOf } from './matches'

const format = (text: string) => parseFormat(text)!.format
const hd25 = format('1920x1080@25p')
type Facts = NonNullable<Reading['video']>
const video = (text: string, more: Partial<Facts> = {}, colour: Partial<Facts['colour']> = {}): Reading => {
  const reading = aVideo('c', text, 2).reading!
  const facts = reading.video!
  return { ...reading, video: { ...facts, ...more, colour: { ...facts.colour, ...colour } } }
}
/** Each property as a line: what the clip has, what the format has, and ✓, ✗ or ? for what it does not say. */
const lines = (reading: Reading, against: Format = hd25) =>
  matchesOf(reading, against).map(
    ({ about, clip, format, matches }) =>
      `${about}: ${clip} | ${format} ${matches === null ? '?' : matches ? '✓' : '✗'}`,
  )
const not = (reading: Reading, format: Format = hd25) =>
  lines(reading, format).filter((line) => line.endsWith('✗'))

describe('a clip against a format', () => {
  it('is told property by property, in words', () => {
    const rec709 = { primaries: 'bt709', transfer: 'bt709' }
    expect(lines(video('1920x1080@25p', {}, rec709))).toEqual([
      'size: 1920×1080 | 1920×1080 ✓',
      'pixel shape: 1:1 | 1:1 ✓',
      'rate: 25 | 25 ✓',
      'scan: progressive | progressive ✓',
      'colour: bt709 | bt709 ✓',
      'depth: 8 bit | 8 bit ✓',
      'codec: H.264 | decoded by browsers ✓',
    ])
  })

  it('differs in each property alone', () => {
    expect(not(video('3840x2160@50p'))).toEqual(['size: 3840×2160 | 1920×1080 ✗', 'rate: 50 | 25 ✗'])
    expect(not(video('1440x1080/4:3@50i'))).toEqual([
      'size: 1440×1080 | 1920×1080 ✗',
      'pixel shape: 4:3 | 1:1 ✗',
      'scan: interlaced | progressive ✗',
    ])
    expect(not(video('1080x1920@25p', { rotation: 90 }))).toEqual([])
    expect(not(video('1920x1080@25p', { codec: 'DV', bitDepth: 10 }))).toEqual([
      'depth: 10 bit | 8 bit ✗',
      'codec: DV | decoded by browsers ✗',
    ])
  })

  it('has an order of fields only where both are in fields and say one', () => {
    const i50 = format('1920x1080@50i')
    const order = (reading: Reading, format = i50) =>
      lines(reading, format).filter((line) => line.startsWith('field'))
    expect(order(video('1920x1080@50i'))).toEqual(['field order: top first | top first ✓'])
    expect(order(video('1920x1080@50i', { fieldOrder: 'bottom-first' }))).toEqual([
      'field order: bottom first | top first ✗',
    ])
    expect(order(video('1920x1080@50i', { fieldOrder: 'unknown' }))).toEqual([
      'field order: unknown | top first ?',
    ])
    expect(order(video('1920x1080@50i', { fieldOrder: null }))).toEqual([])
    expect(order(video('1920x1080@50i'), hd25)).toEqual([])
    expect(order(video('1920x1080@25p', { fieldOrder: 'top-first' }))).toEqual([])
    expect(order(video('1920x1080@50i'), { ...i50, fieldOrder: null })).toEqual([])
  })

  it('says nothing where nothing is claimed', () => {
    const silent = video(
      '1920x1080@25p',
      { bitDepth: null, scan: 'unknown', rate: null },
      { primaries: null, transfer: null },
    )
    expect(lines(silent).filter((line) => line.endsWith('?'))).toEqual([
      'rate: not known | 25 ?',
      'scan: unknown | progressive ?',
      'colour: not stated | bt709 ?',
      'depth: not stated | 8 bit ?',
    ])
  })

  it('names gamut and light, once where they are one, and takes another matrix as no mismatch', () => {
    const colour = (...given: Parameters<typeof video>) =>
      lines(video(...given)).filter((line) => line.startsWith('colour'))
    expect(colour('1920x1080@25p', {}, { primaries: 'bt2020', transfer: 'pq' })).toEqual([
      'colour: bt2020 / pq | bt709 ✗',
    ])
    expect(colour('1920x1080@25p', {}, { primaries: null, transfer: 'hlg' })).toEqual([
      'colour: hlg | bt709 ✗',
    ])
    expect(colour('1920x1080@25p', {}, { primaries: 'bt709', transfer: null })).toEqual([
      'colour: bt709 | bt709 ✓',
    ])
    expect(colour('720x576/64:45@25p', {}, { primaries: 'bt601-625', matrix: 'bt601-625' })).toEqual([
      'colour: bt601-625 | bt709 ✓',
    ])
  })

  it('has no rate, no scan and no codec for a still, and nothing at all for sound', () => {
    const card = aStill('title').reading!
    expect(matchesOf(card, hd25).map((match) => match.about)).toEqual([
      'size',
      'pixel shape',
      'colour',
      'depth',
    ])
    expect(matchesOf({ ...card, kind: 'audio', video: null }, hd25)).toEqual([])
  })

  it('minds the sampling of its sound', () => {
    const audio = (...rates: (number | null)[]) =>
      rates.map((sampleRate) => ({ codec: 'PCM', channels: 2, sampleRate, bitDepth: 16 }))
    const sound = (...rates: (number | null)[]) =>
      lines({ ...video('1920x1080@25p'), audio: audio(...rates) }).filter((line) => line.startsWith('sound'))
    expect(sound(48_000, 48_000)).toEqual(['sound: 48 kHz | 48 kHz ✓'])
    expect(sound(44_100, null, 48_000)).toEqual(['sound: 44.1 kHz, 48 kHz | 48 kHz ✗'])
    expect(sound(null)).toEqual([])
  })
})
