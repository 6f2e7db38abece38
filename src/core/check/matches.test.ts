import { describe, expect, it } from 'vitest'
import { aStill, aVideo } from '../edit/doc.fixture'
import { parseFormat } from '../format/parse'
import type { Reading } from '../reading/reading'
import { matchesOf } from './matches'

const hd25 = parseFormat('1920x1080@25p')!.format
const not = (reading: Reading) =>
  matchesOf(reading, hd25)
    .filter((match) => match.matches === false)
    .map((match) => `${match.about}: ${match.clip}, not ${match.format}`)
const video = (text: string, more: Partial<NonNullable<Reading['video']>> = {}): Reading => {
  const { reading } = aVideo('c', text, 2)
  return { ...reading!, video: { ...reading!.video!, ...more } }
}

describe('a clip against a format', () => {
  it('differs in each property alone', () => {
    expect(not(video('1920x1080@25p'))).toEqual([])
    expect(not(video('3840x2160@50p'))).toEqual(['size: 3840×2160, not 1920×1080', 'rate: 50, not 25'])
    expect(not(video('1440x1080/4:3@50i'))).toEqual([
      'size: 1440×1080, not 1920×1080',
      'pixel shape: 4:3, not 1:1',
      'scan: interlaced, not progressive',
    ])
    expect(not(video('1080x1920@25p', { rotation: 90 }))).toEqual([])
    expect(not(video('1920x1080@25p', { codec: 'DV', bitDepth: 10 }))).toEqual([
      'depth: 10 bit, not 8 bit',
      'codec: DV, not decoded here',
    ])
  })
  it('says nothing where nothing is claimed', () => {
    const colour = { primaries: null, transfer: null, matrix: null, range: null }
    const claims = matchesOf(video('1920x1080@25p', { colour, bitDepth: null, scan: 'unknown' }), hd25)
    expect(claims.filter((match) => match.matches === null).map((match) => match.about)).toEqual([
      'scan',
      'colour',
      'depth',
    ])
  })
  it('has no rate and no scan for a still, and nothing at all for sound', () => {
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
    const audio = [{ codec: 'PCM', channels: 2, sampleRate: 44_100, bitDepth: 16 }]
    expect(not({ ...video('1920x1080@25p'), audio })).toEqual(['sound: 44.1 kHz, not 48 kHz'])
  })
})
