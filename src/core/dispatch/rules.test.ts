import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { type Deliverable, deliverableOf } from '../model/deliverable'
import { parseFormat } from '../format/parse'
import { levelFor, soundCodecs, videoCodecs, deliveryWrappers } from './codecs'
import { breachesOf } from './rules'
import { bitRateRange, usualSound, usualVideo, wrapped } from './usual'

const aDeliverable = (format: string, what: Partial<Deliverable> = {}): Deliverable =>
  wrapped({ ...deliverableOf('d', 'Out', parseFormat(format)!.format), ...what })
const says = (deliverable: Deliverable) => breachesOf(deliverable).map((breach) => breach.says)
const codec = (name: string) => videoCodecs.find((videoCodec) => videoCodec.name === name)!

describe('what a deliverable may be', () => {
  it('is all of what nobody has set', () => {
    for (const format of [
      '1920x1080@25p',
      '3840x2160@59.94p',
      '1920x1080@50i',
      '1080x1920@30p',
      '720x576/64:45@50i',
    ])
      expect(says(aDeliverable(format)), format).toEqual([])
    expect(aDeliverable('1920x1080@25p')).toMatchObject({
      wrapper: 'MP4',
      video: { codec: 'H.264' },
      sound: { codec: 'AAC' },
    })
    expect(aDeliverable('1920x1080@50i')).toMatchObject({
      wrapper: 'MXF',
      video: { codec: 'MPEG-2' },
      sound: { codec: 'PCM 24 bit' },
    })
  })
  it('is no codec that its wrapper does not carry', () => {
    const wrong = { ...aDeliverable('1920x1080@25p'), wrapper: 'WebM' }
    expect(says(wrong)).toEqual(['WebM does not carry H.264.', 'WebM does not carry AAC.'])
    expect(breachesOf(wrong)[0]!.instead!.deliverable).toMatchObject({ wrapper: 'MP4' })
    expect(breachesOf(wrong)[1]!.instead!.deliverable.sound).toMatchObject({ codec: 'Opus' })
  })
  it('is interlaced only where the codec holds fields', () => {
    const fields = aDeliverable('1920x1080@50i')
    const vp9 = { ...fields, wrapper: 'WebM', sound: null, video: usualVideo(codec('VP9'), fields) }
    expect(says(vp9)).toEqual(['VP9 holds no fields: interlaced pictures would comb for good.'])
    expect(breachesOf(vp9)[0]!.instead).toMatchObject({ name: 'MPEG-2', deliverable: { wrapper: 'MXF' } })
  })
  it('has even sides for 4:2:0, and lines in fours for its fields', () => {
    expect(says(aDeliverable('1921x1081@25p'))[0]).toContain('a width of whole 2s and a height of whole 2s')
    expect(breachesOf(aDeliverable('1921x1081@25p'))[0]!.instead!.name).toMatch(/^192[02]×108[02]$/)
    const interlaced = aDeliverable('1920x1082@50i', { video: null, wrapper: 'MP4' })
    const h264 = { ...interlaced, video: usualVideo(codec('H.264'), interlaced), sound: null }
    expect(says(h264)[0]).toContain('a height of whole 4s')
  })
  it('has a level of H.264', () => {
    const fast = aDeliverable('1920x1080@25p')
    const video = { ...fast.video!, rateControl: { kind: 'bit-rate' as const, bitsPerSecond: 3e9 } }
    expect(says({ ...fast, video })).toEqual(['No level of H.264 has 3000 Mbit/s for this picture.'])
    // ITU-T H.264, table A-1.
    expect(levelFor({ width: 1920, height: 1080 }, 25, 10e6, 'High')).toBe('4')
    expect(levelFor({ width: 1920, height: 1080 }, 50, 20e6, 'High')).toBe('4.2')
    expect(levelFor({ width: 3840, height: 2160 }, 25, 40e6, 'High')).toBe('5.1')
    expect(levelFor({ width: 3840, height: 2160 }, 60, 40e6, 'High')).toBe('5.2')
    expect(levelFor({ width: 720, height: 576 }, 25, 5e6, 'Main')).toBe('3')
    // Four times the bits of Main.
    expect(levelFor({ width: 1920, height: 1080 }, 25, 100e6, 'High 4:2:2')).toBe('4.1')
    expect(levelFor({ width: 1920, height: 1080 }, 25, 100e6, 'High')).toBe('5')
  })
  it('is deep enough for HDR', () => {
    const sdr = aDeliverable('3840x2160@25p')
    const hdr = {
      ...sdr,
      format: { ...sdr.format, colour: { primaries: 'bt2020', transfer: 'pq', bitDepth: 10 } },
    }
    expect(says(hdr)).toEqual(['H.264 High has 8 bits a sample: HDR shows bands in it.'])
    expect(breachesOf(hdr)[0]!.instead!.name).toBe('H.264 High 4:2:2')
  })
  it('has sound as its codec can be', () => {
    const it_ = aDeliverable('1920x1080@25p')
    const sound = { ...it_.sound!, codec: 'PCM 24 bit', sampleRate: 44_100, channels: 32 }
    expect(says({ ...it_, wrapper: 'QuickTime', sound })).toEqual([
      'PCM 24 bit is not made at 44.1 kHz here.',
      '32 channels have no layout here: 1, 2 and 6 have.',
    ])
  })
  it('has two passes only where the codec is made in two, and no sound where none is wanted', () => {
    const plain = aDeliverable('1920x1080@25p')
    expect(says({ ...plain, video: { ...plain.video!, passes: 2 } })).toEqual([])
    const prores = {
      ...plain,
      wrapper: 'QuickTime',
      video: { ...usualVideo(codec('ProRes'), plain), passes: 2 as const },
    }
    expect(says(prores)).toEqual(['ProRes is made in one pass here.'])
    expect(breachesOf(prores)[0]!.instead!.deliverable.video!.passes).toBe(1)
    expect(wrapped({ ...plain, sound: null }).sound).toBeNull()
  })
  it('keeps its channels and its loudness where another codec or wrapper is taken', () => {
    const plain = aDeliverable('1920x1080@25p')
    const sound = { ...plain.sound!, channels: 1, loudnessLufs: -20 }
    for (const { instead } of breachesOf({ ...plain, wrapper: 'WebM', sound }))
      expect(instead!.deliverable.sound).toMatchObject({ channels: 1, loudnessLufs: -20 })
  })
  it('comes right by taking what is nearest, whatever was chosen', () => {
    const drawn = fc.record({
      format: fc.constantFrom(
        '1920x1080@25p',
        '1921x1081@25p',
        '1920x1080@50i',
        '1080x1920@59.94p',
        '4096x2160@24p',
      ),
      wrapper: fc.constantFrom(...deliveryWrappers),
      codec: fc.constantFrom(...videoCodecs),
      profile: fc.nat(4),
      sound: fc.constantFrom(...soundCodecs),
      sampleRate: fc.constantFrom(44_100, 48_000, 96_000, 192_000),
      channels: fc.constantFrom(1, 2, 4, 6, 24),
      passes: fc.constantFrom(1 as const, 2 as const),
    })
    fc.assert(
      fc.property(
        drawn,
        ({ format, wrapper, codec: picture, profile, sound, sampleRate, channels, passes }) => {
          const base = deliverableOf('d', 'Out', parseFormat(format)!.format)
          const video = {
            ...usualVideo(picture, base),
            profile: picture.profiles[profile % picture.profiles.length]!.name,
            passes,
          }
          let it_: Deliverable = {
            ...base,
            wrapper,
            video,
            sound: { ...usualSound(sound), sampleRate, channels },
          }
          for (let step = 0; step < 12; step++) {
            const [first] = breachesOf(it_)
            if (!first) return
            expect(first.says.length).toBeGreaterThan(10)
            if (!first.instead) return
            it_ = first.instead.deliverable
          }
          expect(says(it_)).toEqual([])
        },
      ),
    )
  })
  it('has a bit rate by its pixels', () => {
    const [least, most] = bitRateRange(codec('H.264'), 'High', parseFormat('1920x1080@25p')!.format)
    expect([Math.round(least / 1e5) / 10, Math.round(most / 1e5) / 10]).toEqual([4.1, 14.5])
  })
})
