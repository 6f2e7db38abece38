import { describe, expect, it } from 'vitest'
import { type VideoCodec, type DeliveryWrapper, videoCodecs } from '../../core/dispatch/codecs'
import { usualVideo, wrapped } from '../../core/dispatch/usual'
import { deliverableOf } from '../../core/model/deliverable'
import { parseFormat } from '../../core/format/parse'
import { type PictureComes, frameBytes, writingWords } from './words'
import { ivfFrameHead, ivfHead } from './ivf'

const codec = (name: string) => videoCodecs.find((videoCodec) => videoCodec.name === name)!
function words(
  format: string,
  videoCodec: VideoCodec,
  wrapper: DeliveryWrapper,
  picture: PictureComes = 'planes',
) {
  const base = { ...deliverableOf('d', 'Out', parseFormat(format)!.format), wrapper }
  const deliverable = wrapped({ ...base, video: usualVideo(videoCodec, base) })
  return writingWords({
    deliverable,
    picture,
    sound: { sampleRate: 48_000, channels: 2 },
    timecode: '10:00:00:00',
    pass: null,
  })
}
/** What stands behind a word. */
const after = (all: readonly string[], word: string) => all[all.indexOf(word) + 1]

describe('what the toolkit is told', () => {
  it('says size, rate, samples and their meaning of a picture that comes as planes', () => {
    const all = words('1920x1080@29.97p', codec('FFV1'), 'Matroska')
    expect([after(all, '-video_size'), after(all, '-framerate'), after(all, '-pixel_format')]).toEqual([
      '1920x1080',
      '30000/1001',
      'yuv420p',
    ])
    expect([after(all, '-colorspace'), after(all, '-f')]).toEqual(['bt709', 'rawvideo'])
    expect(all).not.toContain('-timecode')
  })
  it('says the timecode of the first frame where the wrapper has a place for it', () => {
    expect(after(words('1920x1080@25p', codec('H.264'), 'MP4'), '-timecode')).toBe('10:00:00:00')
    const tagged = words('1920x1080@25p', codec('FFV1'), 'Matroska')
    expect(after(tagged, '-metadata:s:v:0')).toBe('timecode=10:00:00:00')
    expect(words('1920x1080@25p', codec('VP9'), 'WebM', 'encoded').join(' ')).not.toContain('timecode')
  })
  it('keeps the first field first', () => {
    const top = words('1920x1080@50i', codec('MPEG-2'), 'MXF')
    expect([after(top, '-flags'), after(top, '-top'), after(top, '-vf')]).toEqual([
      '+ilme+ildct',
      '1',
      expect.stringContaining('field_mode=tff'),
    ])
    expect(after(words('720x480/8:9@59.94i', codec('MPEG-2'), 'MXF'), '-top')).toBe('0')
    expect(words('1920x1080@25p', codec('MPEG-2'), 'MXF')).not.toContain('-top')
  })
  it('takes what the browser has encoded as it is, and writes what its samples mean', () => {
    const all = words('1920x1080@25p', codec('H.264'), 'MP4', 'encoded')
    expect([after(all, '-c:v'), after(all, '-timecode'), after(all, '-f')]).toEqual([
      'copy',
      '10:00:00:00',
      'ivf',
    ])
    expect(after(all, '-bsf:v')).toContain('matrix_coefficients=1')
  })
  it('says nothing of a codec that only browsers encode', () => {
    expect(() => words('1920x1080@25p', codec('AV1'), 'MP4')).toThrow('encoded by the browser alone')
  })
  it('counts the bytes of a frame', () => {
    const { format } = parseFormat('1920x1080@25p')!
    expect(frameBytes({ name: '', chroma: '4:2:0', bitDepth: 8 }, format)).toBe(3_110_400)
    expect(frameBytes({ name: '', chroma: '4:2:2', bitDepth: 10 }, format)).toBe(8_294_400)
  })
})

describe('a stream of encoded frames', () => {
  it('has a head with codec, size and rate, and one for each frame', () => {
    const head = ivfHead('H.264', { width: 1920, height: 1080, rate: { num: 30_000, den: 1001 } })
    const view = new DataView(head.buffer)
    expect(new TextDecoder().decode(head.subarray(0, 12)).replace(/[^\w]/g, '')).toBe('DKIFH264')
    expect([
      view.getUint16(12, true),
      view.getUint16(14, true),
      view.getUint32(16, true),
      view.getUint32(20, true),
    ]).toEqual([1920, 1080, 30_000, 1001])
    const frame = new DataView(ivfFrameHead(70_000, 9).buffer)
    expect([frame.getUint32(0, true), frame.getBigUint64(4, true)]).toEqual([70_000, 9n])
  })
})
