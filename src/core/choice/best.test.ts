import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { parseFormat } from '../format/parse'
import { type Picture, pictureOf } from '../picture/picture'
import { rational } from '../rational/rational'
import { defaultWeights } from '../toll/policy'
import { settleToll, tollOf } from '../toll/toll'
import { type Override, type Treatment, plainTreatment, treated } from '../treatment/treatment'
import { bestTreatment } from './best'

const format = (text: string) => parseFormat(text)!.format
const colour = { primaries: null, transfer: null, matrix: null, range: null }
function picture(text: string, more: Partial<Picture> = {}): Picture {
  const { width, height, pixelAspect, rate, scan, fieldOrder } = format(text)
  const facts = {
    width,
    height,
    pixelAspect,
    rotation: 0,
    rate,
    rateMode: 'constant',
    scan,
    fieldOrder,
  } as const
  return { ...pictureOf({ ...facts, bitDepth: 8, colour }), ...more }
}
const best = (clip: Picture, runsIn: string, set: Override = {}) =>
  bestTreatment(clip, format(runsIn), treated([set]), defaultWeights)

describe('the best treatment', () => {
  it('of what is treated as nobody did is that: auto already takes what costs least', () => {
    expect(best(picture('1920x1080@25p'), '1920x1080@25p')).toBeNull()
    expect(best(picture('3840x2160@50p'), '1920x1080@25p')).toBeNull()
    for (const runsIn of ['1920x1080@25p', '1920x1080@50p', '1920x1080@50i'])
      expect(best(picture('1920x1080@50i'), runsIn), runsIn).toBeNull()
  })

  it('takes back what costs more than it gives: woven fields, mixed frames, a baked reduction', () => {
    const woven = best(picture('1920x1080@50i'), '1920x1080@25p', { fields: { kind: 'weave' } })!
    expect(woven.set).toEqual({ fields: { kind: 'auto' } })
    const mixed = best(picture('1920x1080@50p'), '1920x1080@25p', { motion: { kind: 'blend' } })!
    expect(mixed.set).toEqual({ motion: { kind: 'auto' } })
  })

  it('takes pulldown out where it was measured, at its phase, and guesses nowhere', () => {
    const film = picture('720x480@29.97p', { pulldownPhase: 3 })
    expect(best(film, '720x480@23.976p')!.set).toEqual({ motion: { kind: 'remove-pulldown', phase: 3 } })
    const other = best(picture('720x480@29.97p'), '720x480@23.976p')
    expect(other?.set.motion?.kind).not.toBe('remove-pulldown')
  })

  it('lets a speed stand, and gives none', () => {
    const speed = { kind: 'speed', pace: { kind: 'every-frame' }, wanted: false, keepPitch: false } as const
    expect(best(picture('1920x1080@50p'), '1920x1080@25p', { motion: speed })?.set.motion).toBeUndefined()
    expect(best(picture('1920x1080@24p'), '1920x1080@25p')?.set.motion?.kind).not.toBe('speed')
  })

  it('never loses more, never touches framing but its reduction, and is best once it is taken', () => {
    const clips = [
      picture('1920x1080@50i'),
      picture('720x576@50i'),
      picture('1920x1080@24p'),
      picture('3840x2160@59.94p'),
      picture('720x480@59.94i', { pulldownPhase: 1 }),
      picture('1920x1080@25p', { combs: true }),
    ]
    const motion: fc.Arbitrary<Treatment['motion']> = fc.constantFrom(
      { kind: 'auto' },
      { kind: 'hold' },
      { kind: 'blend' },
      { kind: 'pulldown', phase: 2 },
      { kind: 'remove-pulldown', phase: 4 },
      { kind: 'speed', pace: { kind: 'every-frame' }, wanted: true, keepPitch: true },
    )
    const fields: fc.Arbitrary<Treatment['fields']> = fc.constantFrom(
      { kind: 'auto' },
      { kind: 'weave' },
      { kind: 'blend' },
      { kind: 'from-frames' },
      { kind: 'deinterlace', method: 'single', rate: { kind: 'same', keep: 'second' } },
      { kind: 'deinterlace', method: 'interpolate', rate: { kind: 'double' } },
    )
    fc.assert(
      fc.property(
        fc.constantFrom(...clips),
        fc.constantFrom(
          '1920x1080@25p',
          '1920x1080@50p',
          '1920x1080@50i',
          '1280x720@23.976p',
          '1920x1080@59.94i',
        ),
        motion,
        fields,
        fc.constantFrom('kept' as const, 'baked' as const),
        (clip, runsIn, moving, fields, reduction) => {
          const framing = { ...plainTreatment.framing, zoom: rational(3, 2), reduction }
          const inForce: Treatment = { ...plainTreatment, framing, motion: moving, fields: fields }
          const before = tollOf(clip, format(runsIn), inForce)
          const better = bestTreatment(clip, format(runsIn), inForce, defaultWeights)
          if (!better) return
          const taken = treated([better.set], inForce)
          const after = settleToll(clip, format(runsIn), taken)
          expect(after.toll).toEqual(better.toll)
          expect(after.way).toEqual(better.way)
          expect(after.toll.loss).toBeLessThanOrEqual(before.loss + 1e-12)
          expect({ ...taken.framing, reduction: null }).toEqual({ ...framing, reduction: null })
          if (moving.kind === 'speed') expect(taken.motion).toEqual(moving)
          expect(bestTreatment(clip, format(runsIn), taken, defaultWeights)).toBeNull()
        },
      ),
      { numRuns: 400 },
    )
  })
})
