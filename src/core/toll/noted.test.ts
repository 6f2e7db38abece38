import { describe, expect, it } from 'vitest'
import { aStill, aVideo } from '../model/doc.fixture'
import type { Reading } from '../reading/reading'
import { notedOf } from './noted'

const hall = aVideo('hall', '3840x2160@25p', 4).reading!
const sound = (sampleRate: number): Reading['audio'] => [
  { codec: 'AAC', channels: 2, sampleRate, bitDepth: null },
]

describe('what is noted without a grade', () => {
  it('is nothing for a codec that is decoded and sound at 48 kHz', () => {
    expect(notedOf({ ...hall, audio: sound(48_000) })).toEqual([])
    expect(notedOf(aStill('title').reading!)).toEqual([])
  })
  it('is a codec that is not decoded, and sound that is resampled, once for each rate', () => {
    const reading = {
      ...hall,
      video: { ...hall.video!, codec: 'DV' },
      audio: [...sound(44_100), ...sound(44_100)],
    }
    expect(notedOf(reading)).toEqual([
      { kind: 'codec', text: 'DV is no codec of browsers: decoded by the engine that ships, slower' },
      { kind: 'sound-rate', text: 'sound resampled, 44.1 to 48 kHz' },
    ])
  })
})
