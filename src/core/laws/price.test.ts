import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { correct } from '../edit/correction'
import { aDoc, aVideo } from '../model/doc.fixture'
import { layersAt } from '../plan/layers'
import { addTimeline } from '../edit/operations'
import { append, newTimeline, placementOf } from '../edit/placing'
import { settlePlacement } from '../plan/running'
import type { Format } from '../format/format'
import { parseFormat } from '../format/parse'
import { toNumber } from '../rational/rational'
import { everyTreatment } from './kinds.fixture'

const runs = Number(process.env.LAWS ?? 400)
const orders = fc.constantFrom('top-first' as const, 'bottom-first' as const)

/** An interlaced clip of an order, some of its lines baked, on an interlaced timeline of an order. */
const cases = fc.record({
  clip: fc.constantFrom('1920x1080@50i', '1920x1080@59.94i', '720x576/64:45@50i', '1440x1080/4:3@50i'),
  timeline: fc.constantFrom('1920x1080@50i', '1920x1086@50i', '720x576/64:45@50i'),
  of: orders,
  to: orders,
  baked: fc.record({ top: fc.nat(5), bottom: fc.nat(5) }),
  treatment: everyTreatment,
})

describe('law 5. price is picture', () => {
  it('fields are charged for being shifted, made whole or woven where, and only where, that happens', () => {
    const seen = new Map<string, number>()
    fc.assert(
      fc.property(cases, ({ clip, timeline, of: order, to, baked, treatment }) => {
        const footage = aVideo('tape', clip, 20)
        footage.reading!.video!.fieldOrder = order
        const doc = aDoc([footage])
        if (baked.top + baked.bottom > 0) correct(doc, ['tape'], { crop: { left: 0, right: 0, ...baked } })
        const format: Format = { ...parseFormat(timeline)!.format, fieldOrder: to }
        addTimeline(doc, newTimeline('t', 'Cut', '', format))
        append(doc, 't', [{ ...placementOf(doc.clips.tape!, format, 'p'), treatment: treatment }])
        const placed = doc.timelines.t!.tracks[0]!.placements[0]!
        const { toll, way } = settlePlacement(doc, doc.timelines.t!, placed, format)
        const charged = (kind: string) => toll.charges.some((charge) => charge.kind === kind)
        const isOwnRate = clip.split('@')[1] === timeline.split('@')[1]
        const inTime = way.passing.kind === 'in-time' && way.passing.factor.num === way.passing.factor.den
        if (way.taking.kind !== 'fields' || way.taking.outOf !== 'fields' || !isOwnRate || !inTime) {
          if (way.taking.kind !== 'fields') expect(charged('field-order')).toBe(false)
          return
        }
        const [layer] = layersAt(doc, doc.timelines.t!, 3)
        const { rasterMap, unshifted } = layer!
        // Each line of the raster shows the line of the clip that lies there, which has to be of the field that is shown there.
        const first = toNumber(rasterMap.y)
        const liesOnLines =
          toNumber(rasterMap.scaleY) === 1 && Number.isInteger(first) && rasterMap.turn === 0
        const isOdd = Math.abs(first) % 2 === 1
        // The field that comes first in time has to be on the lines that come first.
        const comesInOrder = liesOnLines && (order === to) !== isOdd
        const isShifted = toNumber(unshifted.y) !== first
        const turned = (treatment.shiftOrder ?? false) !== false && order === to
        expect(charged('field-rescale')).toBe(!liesOnLines)
        expect(charged('field-order')).toBe(isShifted)
        if (!turned) expect(comesInOrder).toBe(liesOnLines)
        const name = `${liesOnLines} ${isShifted}`
        seen.set(name, (seen.get(name) ?? 0) + 1)
      }),
      // Enough that each of the three ways comes up.
      { numRuns: Math.max(runs, 3000) },
    )
    expect([...seen.keys()].sort()).toEqual(['false false', 'true false', 'true true'])
  })
})
