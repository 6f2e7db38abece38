import { describe, expect, it } from 'vitest'
import { aStill, aVideo } from '../model/doc.fixture'
import { type Clip } from '../model/clip'
import { codecLabel, codecName, rateLabel, uprightSizeName } from './labels'

const withVideo = (clip: Clip, more: object): Clip => ({
  ...clip,
  reading: { ...clip.reading!, video: { ...clip.reading!.video!, ...more } },
})
const hall = aVideo('hall', '1920x1080@25p', 4)

describe('figures of the columns', () => {
  it('tell a size as it stands, a rate with its scan, and what varies or is still', () => {
    expect(uprightSizeName(hall)).toBe('1920×1080')
    expect(uprightSizeName(withVideo(hall, { rotation: 90 }))).toBe('1080×1920')
    expect(uprightSizeName(withVideo(hall, { rotation: 180 }))).toBe('1920×1080')
    expect(rateLabel(hall)).toBe('25p')
    expect(rateLabel(aVideo('tape', '720x576/64:45@50i', 4))).toBe('50i')
    expect(rateLabel(withVideo(hall, { rateMode: 'variable' }))).toBe('~25 v')
    expect(rateLabel(withVideo(hall, { rate: null }))).toBe('?')
    expect(rateLabel(aStill('title'))).toBe('still')
    expect(rateLabel({ ...hall, reading: null })).toBe('–')
  })

  it('tell the codec, with alpha where there is some, or the sound', () => {
    expect(codecLabel(withVideo(hall, { profile: 'High' }))).toBe('H.264 High')
    expect(codecLabel(aStill('title'))).toBe('PNG, alpha')
    expect(codecName(withVideo(hall, { profile: 'Constrained Baseline' }))).toBe('H.264')
    expect(codecName(aStill('title'))).toBe('PNG, alpha')
    const audio = [{ codec: 'PCM', channels: 2, sampleRate: 48_000, bitDepth: 24 }]
    expect(codecLabel({ ...hall, reading: { ...hall.reading!, kind: 'audio', video: null, audio } })).toBe(
      'PCM 24 bit',
    )
    expect(codecLabel({ ...hall, reading: null })).toBe('–')
  })
})
