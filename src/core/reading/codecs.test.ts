import { describe, expect, it } from 'vitest'
import { audioCodec, codecOfObjectType, videoCodec } from './codecs'

describe('codes of codecs', () => {
  it.each([
    ['avc1', { codec: 'H.264' }],
    ['hev1', { codec: 'HEVC' }],
    ['apch', { codec: 'ProRes', profile: '422 HQ', chroma: '4:2:2', bitDepth: 10 }],
    ['ap4x', { codec: 'ProRes', profile: '4444 XQ', chroma: '4:4:4', bitDepth: 12 }],
    ['dv5p', { codec: 'DV', profile: 'DV50', chroma: '4:2:2' }],
    ['v210', { codec: 'uncompressed', chroma: '4:2:2', bitDepth: 10 }],
    ['XVID', { codec: 'MPEG-4 Visual' }],
    ['MJPG', { codec: 'Motion JPEG', bitDepth: 8 }],
  ])('name the picture behind %s, in capitals too', (code, name) =>
    expect(videoCodec(code)).toMatchObject(name),
  )
  it.each(['hdv2', 'xdv6', 'xd5c', 'xdhd', 'xdh2', 'mx5p', 'mx3n'])('know %s of the MPEG-2 family', (code) =>
    expect(videoCodec(code)).toEqual({ codec: 'MPEG-2' }),
  )
  it.each(['zzzz', '', 'hdv', 'hdv0', 'mx4p'])('name nothing for “%s”', (code) =>
    expect(videoCodec(code)).toBeNull(),
  )
  it('name sound, with its depth where the code states it', () => {
    expect(audioCodec('in24')).toEqual({ codec: 'PCM', bitDepth: 24 })
    expect(audioCodec('fl32')).toEqual({ codec: 'PCM float', bitDepth: 32 })
    expect(audioCodec('mp4a')?.bitDepth).toBeUndefined()
    expect(audioCodec('....')).toBeNull()
  })
  it.each([
    [0x20, 'MPEG-4 Visual'],
    [0x21, 'H.264'],
    [0x23, 'HEVC'],
    [0x40, 'AAC'],
    [0x67, 'AAC'],
    [0x61, 'MPEG-2'],
    [0x69, 'MP3'],
    [0x6b, 'MP3'],
    [0x6a, 'MPEG-1'],
    [0x6c, 'Motion JPEG'],
    [0xa5, 'AC-3'],
    [0xa6, 'E-AC-3'],
    [0xad, 'Opus'],
    [0x01, null],
  ])('name object type %i', (type, codec) => expect(codecOfObjectType(type)).toBe(codec))
})
