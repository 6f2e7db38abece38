import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { pictureOfFormat } from '../format/format'
import { parseFormat } from '../format/parse'
import type { Picture } from '../picture/picture'
import { rational } from '../rational/rational'
import { proposal } from './proposal'
import { type Untreated, plainly } from './untreated'

const format = (text: string) => parseFormat(text)!.format
const clip = (text: string, more: Partial<Untreated> = {}, picture: Partial<Picture> = {}): Untreated => ({
  ...plainly({ ...pictureOfFormat(format(text)), ...picture }),
  ...more,
})
const hd = (rate: string) => `1920x1080@${rate}`
const steps = (
  rate: string,
  timeline: string,
  more: Partial<Untreated> = {},
  picture: Partial<Picture> = {},
) => proposal(clip(hd(rate), more, picture), format(hd(timeline))).steps.join('+') || 'none'

describe('the proposal for a clip that nobody has treated', () => {
  it.each([
    ['25p', '25p', 'none'],
    ['24p', '25p', 'every-frame'],
    ['23.976p', '25p', 'every-frame'],
    ['25p', '24p', 'every-frame'],
    ['23.976p', '24p', 'every-frame'],
    ['59.94p', '60p', 'every-frame'],
    ['29.97p', '25p', 'nearest'],
    ['24p', '60p', 'nearest'],
    ['50p', '25p', 'nearest'],
    ['25p', '50p', 'nearest'],
    ['50i', '25p', 'deinterlace-same'],
    ['59.94i', '29.97p', 'deinterlace-same'],
    ['50i', '50p', 'deinterlace-double'],
    ['59.94i', '59.94p', 'deinterlace-double'],
    ['50i', '24p', 'deinterlace-same+every-frame'],
    ['50i', '23.976p', 'deinterlace-same+every-frame'],
    ['59.94i', '24p', 'deinterlace-double+nearest'],
    ['50i', '59.94p', 'deinterlace-double+nearest'],
    ['50i', '50i', 'keep-fields'],
    ['59.94i', '50i', 'deinterlace-double+nearest'],
    ['25p', '50i', 'none'],
    ['50p', '50i', 'fields-from-frames'],
    ['59.94p', '59.94i', 'fields-from-frames'],
    ['23.976p', '59.94i', 'pulldown'],
    ['24p', '59.94i', 'pulldown'],
    ['24p', '50i', 'every-frame'],
    ['29.97p', '50i', 'nearest'],
  ])('%s in %s: %s', (rate, timeline, expected) => {
    expect(steps(rate, timeline)).toBe(expected)
  })

  it('takes out first what was put in, unless the timeline holds it as it is', () => {
    const pulled = { pulldown: { pattern: '2:3', phase: 2 } } as const
    expect(steps('59.94i', '23.976p', pulled)).toBe('remove-pulldown')
    expect(steps('59.94i', '25p', pulled)).toBe('remove-pulldown+every-frame')
    expect(steps('59.94i', '59.94p', pulled)).toBe('remove-pulldown+nearest')
    expect(steps('59.94i', '59.94i', pulled)).toBe('keep-fields')
    const repeats = { repeats: { trueRate: rational(24), holds: [2, 3], phase: 0 } }
    expect(steps('60p', '24p', repeats)).toBe('remove-repeats')
    expect(steps('60p', '25p', repeats)).toBe('remove-repeats+every-frame')
    expect(steps('60p', '60p', repeats)).toBe('none')
  })

  it('knows what was recorded to be slowed, what varies, fields of one moment and of the other order', () => {
    expect(steps('25p', '50p', { captureRate: rational(100) })).toBe('every-frame')
    expect(steps('24p', '25p', {}, { offNominalShare: 0.1 })).toBe('nearest')
    expect(steps('50i', '25p', { isOfOneMoment: true })).toBe('weave')
    expect(steps('50i', '50p', { isOfOneMoment: true })).toBe('weave+nearest')
    expect(steps('50i', '50i', {}, { fieldOrder: 'bottom-first' })).toBe('keep-fields+shift-order')
    expect(steps('25p', '50p', {}, { rate: null })).toBe('none')
  })

  it('frames overlays as they are, near shapes whole, baked bars away, and all else with bars', () => {
    const framed = (size: string, more: Partial<Untreated> = {}) => {
      const { framing, crop } = proposal(clip(`${size}@25p`, more), format(hd('25p')))
      return crop ? `${framing}, cropped` : framing
    }
    expect(framed('1920x1080')).toBe('same')
    expect(framed('3840x2160')).toBe('fill')
    expect(framed('1440x1080/4:3')).toBe('same')
    expect(framed('2704x1520')).toBe('fill')
    expect(framed('4096x2160')).toBe('fit')
    expect(framed('1440x1080')).toBe('fit')
    expect(framed('1080x1920')).toBe('fit')
    expect(framed('400x300', { isOverlay: true })).toBe('one-to-one')
    expect(framed('4000x3000', { isOverlay: true })).toBe('fit')
    const letterbox = { left: 0, right: 0, top: 180, bottom: 180 }
    expect(framed('1920x1440', { bars: letterbox })).toBe('fill, cropped')
    expect(framed('1920x1440', { bars: { ...letterbox, top: 0 } })).toBe('fit')
  })

  it('never mixes, and changes the speed of nothing but near rates and what is meant to be slowed', () => {
    const rates = [
      '23.976p',
      '24p',
      '25p',
      '29.97p',
      '30p',
      '48p',
      '50p',
      '59.94p',
      '60p',
      '100p',
      '50i',
      '59.94i',
    ]
    const near = new Set(['23.976', '24', '25'])
    fc.assert(
      fc.property(
        fc.constantFrom(...rates),
        fc.constantFrom(...rates.slice(0, 9), '50i', '59.94i'),
        (own, timeline) => {
          const said = steps(own, timeline)
          if (!said.includes('every-frame')) return
          const frames = (text: string) => (text.endsWith('i') ? parseFloat(text) / 2 : parseFloat(text))
          const [a, b] = [frames(own), frames(timeline)]
          expect(Math.abs(a / b - 1)).toBeLessThanOrEqual(0.043)
          expect(Math.abs(a / b - 1) <= 0.0011 || [a, b].every((rate) => near.has(String(rate)))).toBe(true)
        },
      ),
      { numRuns: 500 },
    )
  })
})
