import { describe, expect, it } from 'vitest'
import { aStill, aVideo } from '../model/doc.fixture'
import type { Draft } from '../edit/draft'
import { parseFormat } from '../format/parse'
import { rational } from '../rational/rational'
import type { Reading, VideoFacts } from '../reading/reading'
import { differencesFrom, oddities } from './marks'

const hd25 = parseFormat('1920x1080@25p')!.format
const hdr25 = {
  ...hd25,
  colour: { ...hd25.colour, primaries: 'bt2020', transfer: 'pq', bitDepth: 10 } as const,
}
const sound = { codec: 'PCM', channels: 2, sampleRate: 48_000, bitDepth: 16 }

/** A clip with sound, by its format as text, and with other facts. */
function clip(text: string, more: Partial<Draft<VideoFacts>> = {}, colour: object = {}): Draft<Reading> {
  const reading = aVideo('c', text, 2).reading as Draft<Reading>
  Object.assign(reading.video!, more)
  Object.assign(reading.video!.colour, colour)
  reading.audio = [sound]
  return reading
}
const differ = (...given: Parameters<typeof clip>) =>
  differencesFrom(clip(...given), hd25).map(
    ({ about, short, sentence }) => `${about} | ${short} | ${sentence}`,
  )
const odd = (...given: Parameters<typeof clip>) =>
  oddities(clip(...given)).map(({ about, short, sentence }) => `${about} | ${short} | ${sentence}`)

describe('where a clip differs from a format', () => {
  it('is told for each property alone', () => {
    expect(differ('1920x1080@25p')).toEqual([])
    expect(differ('3840x2160@50p')).toEqual([
      'size | size | 3840×2160 in a project of 1920×1080.',
      'rate | rate | 50 frames a second in a project of 25.',
    ])
    expect(differ('1440x1080/4:3@50i')).toEqual([
      'size | size | 1440×1080 in a project of 1920×1080.',
      'pixel shape | pixels | Pixels of 4:3 in a project of 1:1.',
      'scan | fields | Interlaced in a project that is progressive.',
    ])
    expect(differ('1920x1080@25p', { bitDepth: 10 })).toEqual([
      'depth | 10 bit | 10 bit in a project of 8 bit: the finer steps are rounded away.',
    ])
    expect(differ('1920x1080@25p', { rotation: 90 })).toEqual([
      'size | size | 1080×1920 in a project of 1920×1080.',
    ])
  })

  it('names the scan and the order of the fields', () => {
    const hd50i = { ...hd25, scan: 'interlaced', fieldOrder: 'top-first' } as const
    const marks = (reading: Reading) =>
      differencesFrom(reading, hd50i).map(({ short, sentence }) => [short, sentence])
    expect(marks(clip('1920x1080@25p'))).toEqual([
      ['progressive', 'Progressive in a project that is interlaced.'],
    ])
    expect(marks(clip('1920x1080@50i', { fieldOrder: 'bottom-first' }))).toEqual([
      ['field order', 'Bottom first in a project of top first: one line of shift.'],
    ])
  })

  it('names the colour where light or gamut differ, and not where a matrix is computed exactly', () => {
    expect(differ('1920x1080@25p', {}, { matrix: 'bt601-625' })).toEqual([])
    const [mark, ...others] = differ('1920x1080@25p', {}, { primaries: 'bt2020', transfer: 'hlg' })
    expect(mark).toMatch(/^colour \| colour \| Colour of .*(hlg|HLG).* in a project of .*709/)
    expect(others).toEqual([])
    expect(
      differencesFrom(clip('1920x1080@25p', { bitDepth: 10 }, { transfer: 'bt709' }), hdr25).map(
        ({ about }) => about,
      ),
    ).toEqual(['colour'])
  })

  it('is not asked of stills and sound', () => {
    expect(differencesFrom(aStill('t').reading!, hd25)).toEqual([])
    expect(differencesFrom({ ...clip('3840x2160@50p'), kind: 'audio', video: null }, hd25)).toEqual([])
  })
})

describe('what is odd in a clip itself', () => {
  it('is nothing in a plain one, whatever its size', () => {
    expect(odd('3840x2160@50p')).toEqual([])
    expect(oddities(aStill('t').reading!)).toEqual([])
    expect(oddities({ ...clip('1920x1080@25p'), video: null })).toEqual([])
  })

  it('is a rate that varies, with how far and how often', () => {
    const varies = { rateMode: 'variable', minRate: 24.1, maxRate: 31, offNominalShare: 0.2 } as const
    expect(odd('1920x1080@30p', varies)).toEqual([
      'rate | variable 24.1–31.0 | Variable rate, 24.1–31.0 frames a second, 20 % of the frames off by more than 10 %: a constant timeline repeats and drops frames.',
    ])
    expect(odd('1920x1080@30p', { rateMode: 'variable' })).toEqual([
      'rate | variable ?–? | Variable rate, ?–? frames a second, 0 % of the frames off by more than 10 %: a constant timeline repeats and drops frames.',
    ])
  })

  it('is a rate that is not known, or no standard one', () => {
    expect(odd('1920x1080@25p', { rate: null, rateMode: 'unknown' })).toEqual([
      'rate | rate unknown | The file does not say its rate. Correct it before placing the clip.',
    ])
    expect(odd('640x480@9p')).toEqual(['rate | unusual rate | 9p is no standard rate.'])
  })

  it('is fields, with their order where it is stated', () => {
    const says = (order: VideoFacts['fieldOrder']) => odd('1920x1080@50i', { fieldOrder: order })[0]
    const combs = 'it combs where a progressive timeline weaves it.'
    expect(says('top-first')).toBe(`scan | fields | Interlaced, top field first: ${combs}`)
    expect(says('bottom-first')).toBe(`scan | fields | Interlaced, bottom field first: ${combs}`)
    expect(says(null)).toBe(`scan | fields | Interlaced, field order not stated: ${combs}`)
    expect(says('unknown')).toBe(`scan | fields | Interlaced, field order not stated: ${combs}`)
  })

  it('is a pixel that is no square, and a turn', () => {
    expect(odd('720x576/64:45@25p')).toEqual([
      'pixel shape | pixels 64:45 | Pixels are 64:45, so 720×576 shows as 16:9.',
    ])
    expect(odd('1920x1080@25p', { rotation: 270 })).toEqual([
      'rotation | turned 270° | Stored 1920×1080 and turned by 270° to stand upright.',
    ])
  })

  it('is light beyond the standard range', () => {
    expect(odd('1920x1080@25p', {}, { transfer: 'pq' })).toEqual([
      'colour | PQ | High dynamic range (PQ): it looks flat and grey where it is shown as SDR.',
    ])
    expect(odd('1920x1080@25p', {}, { transfer: 'hlg' })[0]).toMatch(/^colour \| HLG \|/)
    expect(odd('1920x1080@25p', {}, { transfer: null })).toEqual([])
    // A still of high dynamic range is odd as well.
    const still = aStill('t').reading as Draft<Reading>
    still.video!.colour.transfer = 'hlg'
    expect(oddities(still).map(({ short }) => short)).toEqual(['HLG'])
  })

  it('is a clip without sound, and what was noted while reading', () => {
    const silent = clip('1920x1080@25p')
    silent.audio = []
    silent.notes = [
      { code: 'contradiction-size', message: 'The header says another size.' },
      { code: 'no-index', message: 'It has no index.' },
    ]
    expect(oddities(silent)).toEqual([
      { about: 'sound', short: 'no sound', sentence: 'The file holds no sound.' },
      { about: 'claims', short: 'claims differ', sentence: 'The header says another size.' },
      { about: 'claims', short: 'no index', sentence: 'It has no index.' },
    ])
  })

  it('comes in one order: motion, shape, turn, light, sound', () => {
    const all = clip('720x576/64:45@50i', { rate: rational(9), rotation: 90 }, { transfer: 'hlg' })
    all.audio = []
    expect(oddities(all).map(({ about }) => about)).toEqual([
      'rate',
      'scan',
      'pixel shape',
      'rotation',
      'colour',
      'sound',
    ])
  })
})
