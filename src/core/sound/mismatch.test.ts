import { describe, expect, it } from 'vitest'
import { downmix } from './mix'
import { soundMismatches } from './mismatch'

const stereo = { sampleRate: 48_000, soundLayout: 'stereo' } as const

describe('sound that is not as the timeline’s', () => {
  it('says nothing of what goes in as it is, nor of what is not known', () => {
    expect(soundMismatches({ sampleRate: 48_000, channels: 2 }, stereo)).toEqual([])
    expect(soundMismatches({ sampleRate: null, channels: null }, stereo)).toEqual([])
  })

  it('says what is resampled, and what of it is lost', () => {
    expect(soundMismatches({ sampleRate: 44_100, channels: 2 }, stereo)).toEqual([
      '44.1 kHz, resampled to 48 kHz',
    ])
    expect(soundMismatches({ sampleRate: 96_000, channels: 2 }, stereo)).toEqual([
      '96 kHz, resampled to 48 kHz; nothing above 24 kHz stays',
    ])
  })

  it('says where channels go, as they are mixed', () => {
    const mismatchOf = (channels: number, soundLayout: 'mono' | 'stereo' | '5.1') =>
      soundMismatches({ sampleRate: 48_000, channels }, { sampleRate: 48_000, soundLayout })[0]
    expect(mismatchOf(1, 'stereo')).toBe('1 channel, on both sides alike')
    expect(downmix(1, 'stereo')).toEqual([[1, 1]])
    expect(mismatchOf(6, 'stereo')).toBe(
      '6 channels, mixed to left and right by BS.775, low frequencies left out',
    )
    expect(downmix(6, 'stereo')[3]).toEqual([0, 0])
    expect(mismatchOf(2, 'mono')).toBe('2 channels, mixed to one')
    expect(mismatchOf(1, '5.1')).toBe('1 channel, in the middle one')
    expect(mismatchOf(4, 'stereo')).toBe('4 channels, in turn on the left and on the right')
    expect(mismatchOf(2, '5.1')).toContain('the other four silent')
  })
})
