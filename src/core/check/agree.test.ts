import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { aDoc, aVideo } from '../model/doc.fixture'
import { type Layer, layersAt } from '../plan/layers'
import { addTimeline } from '../edit/operations'
import { append, newTimeline, placementOf } from '../edit/placing'
import { treat } from '../edit/treating'
import { placementsIn } from '../model/timeline'
import { parseFormat } from '../format/parse'
import { drawnArea } from '../framing/raster-map'
import { motionLine } from '../motion/line'
import { cadence } from '../rate/cadence'
import { exactly, multiply, rational, toNumber } from '../rational/rational'
import type { Charge } from '../toll/charge'
import type { Override } from '../treatment/treatment'
import { checkTimeline } from './check'
import { choicesOf } from './choices'

/** What the toll says and what the frames show, of one clip under one treatment: they must never disagree. */
const clips = [
  '3840x2160@25p',
  '1920x1080@50p',
  '1920x1080@25p',
  '1440x1080/4:3@50i',
  '720x576/64:45@50i',
  '1080x1920@30p',
  '1920x1080@23.976p',
  '4096x2160@24p',
]
const formats = [
  '1920x1080@25p',
  '3840x2160@25p',
  '1920x1080@50p',
  '1920x1080@50i',
  '1920x1080@29.97i',
  '1080x1920@24p',
]

const framing = fc.record(
  {
    mode: fc.constantFrom(
      { kind: 'fit' as const },
      { kind: 'fill' as const },
      { kind: 'stretch' as const },
      { kind: 'one-to-one' as const },
    ),
    zoom: fc.constantFrom(rational(1), rational(3, 2), rational(1, 2), rational(2)),
    position: fc.record({ x: fc.integer({ min: -700, max: 700 }), y: fc.integer({ min: -700, max: 700 }) }),
    crop: fc.record({
      left: fc.nat(200),
      right: fc.nat(200),
      top: fc.nat(200),
      bottom: fc.nat(200),
    }),
  },
  { requiredKeys: [] },
)
const motion = fc.constantFrom<NonNullable<Override['motion']>>(
  { kind: 'auto' },
  { kind: 'hold' },
  { kind: 'blend' },
  { kind: 'speed', pace: { kind: 'every-frame' }, wanted: false, keepPitch: true },
  { kind: 'speed', pace: { kind: 'factor', factor: rational(1, 2) }, wanted: true, keepPitch: true },
)
const fields = fc.constantFrom<NonNullable<Override['fields']>>(
  { kind: 'auto' },
  { kind: 'weave' },
  { kind: 'blend' },
  { kind: 'from-frames' },
  { kind: 'deinterlace', method: 'adaptive', rate: { kind: 'double' } },
  { kind: 'deinterlace', method: 'single', rate: { kind: 'same', keep: 'second' } },
)

function treated(clip: string, runsIn: string, set: Override) {
  const format = parseFormat(runsIn)!.format
  const doc = aDoc([aVideo('clip', clip, 40)])
  addTimeline(doc, newTimeline('t', 'Main cut', '', format))
  append(doc, 't', [placementOf(doc.clips.clip!, format, 'p')])
  treat(doc, 't', ['p'], set)
  const timeline = doc.timelines.t!
  const { toll } = checkTimeline(doc, timeline)!.findings[0]!
  const charge = (kind: Charge['kind']) => toll.charges.find((charge) => charge.kind === kind)
  const frames = (count: number) => Array.from({ length: count }, (_, n) => layersAt(doc, timeline, n)[0])
  return { doc, timeline, format, toll, charge, frames, source: parseFormat(clip)!.format }
}

/** How much of the frame a layer leaves free, and of its picture cuts off, counted from where it lies. */
function counted({ rasterMap, size }: Layer, { width, height }: { width: number; height: number }) {
  const area = drawnArea(rasterMap, size)
  const within = (from: number, to: number, most: number) =>
    Math.max(0, Math.min(most, to) - Math.max(0, from))
  const shown = within(area.left, area.right, width) * within(area.top, area.bottom, height)
  const whole = size.across * toNumber(rasterMap.scaleX) * size.down * toNumber(rasterMap.scaleY)
  return { bars: 1 - shown / (width * height), crop: 1 - shown / whole }
}

describe('the toll and what is shown', () => {
  it('agree on scale, bars and crop', () => {
    fc.assert(
      fc.property(fc.constantFrom(...clips), fc.constantFrom(...formats), framing, (clip, runsIn, set) => {
        const { position, ...rest } = set
        const override: Override = {
          framing: {
            ...rest,
            ...(position ? { position: { x: exactly(position.x), y: exactly(position.y) } } : {}),
          },
        }
        const { charge, frames, format } = treated(clip, runsIn, override)
        const [layer] = frames(1)
        const [x, y] = [toNumber(layer!.rasterMap.scaleX), toNumber(layer!.rasterMap.scaleY)]
        const enlarge = charge('enlarge')
        expect(enlarge !== undefined).toBe(Math.max(x, y) > 1 + 1e-9)
        if (enlarge?.kind === 'enlarge') expect([enlarge.scaleX, enlarge.scaleY]).toEqual([x, y])
        const { bars, crop } = counted(layer!, format)
        const share = (kind: 'bars' | 'crop') => {
          const found = charge(kind)
          return found && 'share' in found ? found.share : 0
        }
        // A field order that is turned shows the picture a line lower, which has its own charge.
        const line = charge('field-order') ? 1 : 0
        const [ofFrame, ofPicture] = [line / format.height, line / (layer!.size.down * y)]
        expect(Math.abs(share('bars') - bars)).toBeLessThanOrEqual(ofFrame + 5e-7)
        expect(Math.abs(share('crop') - crop)).toBeLessThanOrEqual(ofPicture + 5e-7)
      }),
      { numRuns: 600 },
    )
  })

  it('agree on what is shown again, left out and mixed', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...clips),
        fc.constantFrom(...formats),
        motion,
        fields,
        (clip, runsIn, how, taken) => {
          const { charge, frames, toll, format, source } = treated(clip, runsIn, {
            motion: how,
            fields: taken,
          })
          const shown = frames(401).flatMap((layer, n) => (layer ? [{ n, id: 'p', shown: layer.shown }] : []))
          const line = motionLine(shown).slice(1)
          const again = line.filter(({ mark }) => mark === 'again').length
          const mixed = line.filter(({ mark }) => mark === 'mixed').length
          // Mixtures: none unless blended, and then as many as the charge says.
          const blend = charge('blend')
          if (blend?.kind !== 'blend') expect(mixed).toBe(0)
          else expect(mixed / line.length).toBeCloseTo(blend.share, 1)
          const isFramewise = shown.every((entry) => entry.shown.kind === 'frame')
          if (!isFramewise || how.kind === 'blend') return
          const lost = line.reduce((sum, cell) => sum + cell.lost.length, 0)
          // A speed plays the clip at another rate; every frame once is no other rate at all.
          const factor = how.kind === 'speed' && how.pace.kind === 'factor' ? how.pace.factor : rational(1)
          const isStepwise = how.kind === 'speed' && how.pace.kind === 'every-frame'
          const played = isStepwise ? format.rate : multiply(source.rate, factor)
          const { kind, periodTimeline, repeated, dropped } = cadence(played, format.rate)
          const [hold, uneven, slip] = [charge('even-hold'), charge('uneven'), charge('slip')]
          if (hold ?? uneven ?? charge('even-skip') ?? slip) {
            const periods = line.length / periodTimeline
            expect(Math.abs(again - repeated * periods)).toBeLessThanOrEqual(repeated + 1)
            expect(Math.abs(lost - dropped * periods)).toBeLessThanOrEqual(dropped + 1)
          } else {
            expect([again, lost, kind]).toEqual([0, 0, 'exact'])
          }
          // What is untouched shows each frame of the clip as it is.
          if (toll.untouched)
            expect(
              shown.map(({ n, shown: shown }) => shown.kind === 'frame' && shown.index === n),
            ).not.toContain(false)
        },
      ),
      { numRuns: 300 },
    )
  })

  it('agree on fields: what is woven, made whole, or kept as fields', () => {
    fc.assert(
      fc.property(fc.constantFrom(...clips), fc.constantFrom(...formats), fields, (clip, runsIn, taken) => {
        const { charge, frames, source, format } = treated(clip, runsIn, { fields: taken })
        const kinds = new Set(frames(60).flatMap((layer) => (layer ? [layer.shown.kind] : [])))
        const deinterlace = charge('deinterlace')
        expect(kinds.has('field')).toBe(deinterlace !== undefined)
        if (charge('fields-from-frames'))
          expect(frames(2)[1]!.inFields).toEqual({ outOf: 'frames', crossed: false })
        if (charge('weave') && source.scan === 'interlaced') expect([...kinds]).toEqual(['frame'])
        if (deinterlace?.kind === 'deinterlace') {
          const parities = new Set(
            frames(60).flatMap((layer) => (layer?.shown.kind === 'field' ? [layer.shown.parity] : [])),
          )
          if (!deinterlace.doubleRate) expect(parities.size).toBe(1)
          // At twice the clip's rate or more, each field has its turn.
          else if (toNumber(format.rate) >= toNumber(source.rate) * 1.5) expect(parities.size).toBe(2)
        }
      }),
      { numRuns: 200 },
    )
  })

  it('agree with the docket: what a choice costs there is what it costs once it is taken', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...clips),
        fc.constantFrom(...formats),
        motion,
        fields,
        (clip, runsIn, how, taken) => {
          const { doc, timeline } = treated(clip, runsIn, { motion: how, fields: taken })
          for (const choice of choicesOf(doc, timeline, placementsIn(timeline))) {
            const other = treated(clip, runsIn, { motion: how, fields: taken, ...choice.set })
            expect(choice.whole.loss, choice.id).toBeCloseTo(other.toll.loss, 12)
          }
        },
      ),
      { numRuns: 40 },
    )
  })
})
