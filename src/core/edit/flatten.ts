import { deepEqual } from '../equality'
import { axesOf, composeMaps, mapToRaster, type RasterMap } from '../framing/raster-map'
import { type Format, pictureOfFormat } from '../format/format'
import { speedOf } from '../motion/shown'
import type { ClipTiming } from '../motion/timing'
import type { Rate } from '../rate/rate'
import {
  type Rational,
  divide,
  equal,
  exactly,
  multiply,
  rational,
  subtract,
  toNumber,
} from '../rational/rational'
import { type Framing, type Override, type Treatment, noSides } from '../treatment/treatment'
import { framingOf } from './reframe'
import { type SettledPlacement } from '../plan/running'

/** A treatment whose motion is so many times as fast; mixtures of frames and pulldown have no speed: their frames are held. */
export function faster(
  settled: Pick<SettledPlacement, 'treatment' | 'way'>,
  by: Rational,
  keepPitch: boolean,
  timing: ClipTiming,
  rate: Rate,
): Treatment {
  const { treatment, way } = settled
  const factor = multiply(speedOf(way, timing, rate), by)
  const motion = { kind: 'speed', pace: { kind: 'factor', factor }, wanted: true, keepPitch } as const
  return { ...treatment, motion, fields: fieldsInFull(settled) }
}

/** The fields of a way, told in full: what is chosen for a picture at one speed would be another at the next. */
export function fieldsInFull({
  treatment: { fields },
  way: { taking },
}: Pick<SettledPlacement, 'treatment' | 'way'>): Treatment['fields'] {
  if (fields.kind !== 'auto') return fields
  switch (taking.kind) {
    case 'fields':
      return taking.outOf === 'frames' ? { kind: 'from-frames' } : fields
    case 'deinterlaced':
      if (taking.method === 'blend') return { kind: 'blend' }
      return {
        kind: 'deinterlace',
        method: taking.method,
        rate: taking.keep === 'each' ? { kind: 'double' } : { kind: 'same', keep: taking.keep },
      }
    default:
      return fields
  }
}

/** What a treatment says beyond another: what has to be set on top of that one to come out as this one. */
export function beyond(wanted: Treatment, given: Treatment): Override {
  const differ = <T extends object>(a: T, b: T): Partial<T> =>
    Object.fromEntries(
      Object.entries(a).filter(([key, value]) => !deepEqual(value, b[key as keyof T])),
    ) as Partial<T>
  const { framing: wantedFraming, ...wantedRest } = wanted
  const { framing: givenFraming, ...givenRest } = given
  const framing = differ(wantedFraming, givenFraming)
  return { ...differ(wantedRest, givenRest), ...(Object.keys(framing).length > 0 ? { framing } : {}) }
}

/** A timeline that lies in another: how its raster is laid there, and both formats. */
export interface Flattened {
  readonly inner: Format
  readonly outer: Format
  /** How the placed timeline is treated. */
  readonly treatment: Treatment
}

/**
 * A treatment of a placement of an inner timeline as one in the outer timeline: laid through both maps, cut off where the inner
 * raster ended, and where it says nothing itself, in motion, fields and colour as the placed timeline is.
 * @returns null where nothing of the picture is seen
 */
export function flattenedThrough(
  { picture, treatment }: Pick<SettledPlacement, 'picture' | 'treatment'>,
  { inner, outer, treatment: placed }: Flattened,
): Treatment | null {
  const said = <Key extends 'motion' | 'fields'>(key: Key): Treatment[Key] =>
    treatment[key].kind === 'auto' ? placed[key] : treatment[key]
  const saidTreatment: Treatment = {
    ...treatment,
    motion: said('motion'),
    fields: said('fields'),
    colour: treatment.colour === 'auto' ? placed.colour : treatment.colour,
  }
  if (!picture) return saidTreatment
  const raster = pictureOfFormat(inner)
  const outerLie = mapToRaster(raster, outer, placed.framing)
  const innerLie = mapToRaster(picture, inner, treatment.framing)
  const crop = cropTo(innerLie, axesOf(picture), {
    left: placed.framing.crop.left,
    top: placed.framing.crop.top,
    right: inner.width - placed.framing.crop.right,
    bottom: inner.height - placed.framing.crop.bottom,
  })
  if (!crop) return null
  const rasterMap: RasterMap = { ...composeMaps(innerLie, outerLie), crop }
  const { framing } = treatment
  const framed: Framing =
    isAsItIs(outerLie, inner, outer) && crop === innerLie.crop
      ? framing
      : { ...framing, ...framingOf(picture, outer, rasterMap, framing.zoom), cropToShape: false }
  return { ...saidTreatment, framing: framed }
}

/** Whether a raster lies pixel on pixel in another of the same size. */
const isAsItIs = ({ scaleX, scaleY, x, y }: RasterMap, inner: Format, outer: Format): boolean =>
  inner.width === outer.width &&
  inner.height === outer.height &&
  [scaleX, scaleY].every((scale) => equal(scale, rational(1))) &&
  [x, y].every(({ num }) => num === 0)

/** A picture's crop so that nothing of it hangs out of a window of its raster; null where nothing is left of it. */
function cropTo(
  rasterMap: RasterMap,
  { across, down }: { readonly across: number; readonly down: number },
  window: typeof noSides,
): RasterMap['crop'] | null {
  const at = (edge: number, start: Rational, scale: Rational) =>
    toNumber(divide(subtract(exactly(edge), start), scale))
  const dust = 1e-9
  const { crop } = rasterMap
  const cut = {
    left: Math.max(crop.left, at(window.left, rasterMap.x, rasterMap.scaleX)),
    top: Math.max(crop.top, at(window.top, rasterMap.y, rasterMap.scaleY)),
    right: Math.max(crop.right, across - at(window.right, rasterMap.x, rasterMap.scaleX)),
    bottom: Math.max(crop.bottom, down - at(window.bottom, rasterMap.y, rasterMap.scaleY)),
  }
  if (cut.left + cut.right >= across || cut.top + cut.bottom >= down) return null
  const sides = ['left', 'right', 'top', 'bottom'] as const
  return sides.every((side) => cut[side] - crop[side] < dust) ? crop : cut
}
