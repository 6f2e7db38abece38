import { present } from '../assert'
import { type Around, type FieldKernels, blend, fieldMadeWhole } from '../fields/deinterlace'
import { firstLine } from '../fields/plane'
import type { RasterMap } from '../framing/raster-map'
import { type Shown, type ShownField, type ShownFrame, type SourceField, framesShown } from '../motion/shown'
import { type FieldOrder, firstParity } from '../picture/scan'
import type { Planes, Samples } from '../planes/planes'
import { equal, rational } from '../rational/rational'
import { type StoredPicture, roomFor } from './stored'

/** How the fields of an interlaced raster come to stand: out of progressive frames, or out of the fields of a clip. */
export interface InFields {
  readonly outOf: 'frames' | 'fields'
  /** Whether the clip's fields come in the other order than the raster's. */
  readonly crossed: boolean
}

/** What of a source is shown, and how it lies, as far as its fields have to know. */
export interface ArrangedLayer {
  readonly shown: Shown
  readonly rasterMap: RasterMap
  /** Null where each frame stands as a whole. */
  readonly inFields: InFields | null
  /** Of the source. */
  readonly fieldOrder: FieldOrder | null
}

/** What stands on a raster: one picture on all of its lines, or one on the lines of each field. */
export type FieldArrangement =
  | { readonly kind: 'whole'; readonly picture: StoredPicture }
  | { readonly kind: 'fields'; readonly top: StoredPicture; readonly bottom: StoredPicture }

/** A frame of the source; null where there is none. */
export type FrameOf = (index: number) => StoredPicture | null

type Pair = Pick<Extract<Shown, { kind: 'fields' }>, 'top' | 'bottom'>

/** The fields that stand on the lines of the raster's; null where what is shown is one moment. */
export function fieldsShown({ shown, inFields }: Pick<ArrangedLayer, 'shown' | 'inFields'>): Pair | null {
  if (shown.kind === 'fields') return shown
  if (shown.kind !== 'frame' || inFields?.outOf !== 'fields') return null
  const field = (parity: SourceField['parity']): SourceField => ({ frame: shown.index, parity })
  const [top, bottom] = [field('top'), field('bottom')]
  return inFields.crossed ? { top: bottom, bottom: top } : { top, bottom }
}

/** Whether each line of a pair of fields stands as it is on one line of the raster's field that it is for. */
export function keepsLines({ scaleY, y, turn }: RasterMap, { top, bottom }: Pair): boolean {
  if (!equal(scaleY, rational(1)) || y.den !== 1 || turn !== 0) return false
  const isOdd = y.num % 2 !== 0
  return top.parity === (isOdd ? 'bottom' : 'top') && bottom.parity === (isOdd ? 'top' : 'bottom')
}

/** The fields of what is shown that are made whole by what moves around them. */
function adaptiveIn(showing: ArrangedLayer): SourceField[] {
  const { shown, rasterMap, inFields } = showing
  const pair = fieldsShown(showing)
  if (pair) return inFields?.outOf === 'fields' && !keepsLines(rasterMap, pair) ? [pair.top, pair.bottom] : []
  const parts = shown.kind === 'mix' ? [shown.a, shown.b] : [shown]
  return parts.flatMap((part) => (part.kind === 'field' && part.method === 'adaptive' ? [part] : []))
}

/** What of a source has to be decoded for what is shown, and what else where it is there. */
export function framesNeeded(showing: ArrangedLayer): {
  readonly needed: number[]
  readonly helpful: number[]
} {
  const needed = new Set(framesShown(showing.shown))
  const around = adaptiveIn(showing).flatMap(({ frame }) => [frame - 1, frame + 1])
  return {
    needed: [...needed],
    helpful: [...new Set(around)].filter((index) => index >= 0 && !needed.has(index)),
  }
}

/** What stands of a source on a raster; null where a frame of it is missing, or it shows nothing. */
export function fieldArrangementOf(
  showing: ArrangedLayer,
  frameOf: FrameOf,
  kernels: FieldKernels,
): FieldArrangement | null {
  const { shown, rasterMap, inFields, fieldOrder } = showing
  const first = firstParity(fieldOrder)
  const madeWhole = ({ frame, parity }: SourceField, method: ShownField['method']): StoredPicture | null => {
    const stored = frameOf(frame)
    if (!stored) return null
    const planesAt = (index: number) => frameOf(index)?.planes ?? null
    const around: Around = { before: planesAt(frame - 1), current: stored.planes, after: planesAt(frame + 1) }
    const kept = { parity, isFirst: parity === first }
    const planes =
      method === 'blend' ? blend(stored.planes, kernels) : fieldMadeWhole(around, kept, method, kernels)
    return { ...stored, planes }
  }
  const single = (part: ShownFrame | ShownField): StoredPicture | null =>
    part.kind === 'frame' ? frameOf(part.index) : madeWhole(part, part.method)
  const whole = (picture: StoredPicture | null): FieldArrangement | null =>
    picture && { kind: 'whole', picture }

  const pair = fieldsShown(showing)
  if (pair && inFields && !keepsLines(rasterMap, pair)) {
    const storedField = (field: SourceField) =>
      inFields.outOf === 'frames' ? frameOf(field.frame) : madeWhole(field, 'adaptive')
    const [top, bottom] = [storedField(pair.top), storedField(pair.bottom)]
    return top && bottom && { kind: 'fields', top, bottom }
  }
  if (pair) {
    const [top, bottom] = [frameOf(pair.top.frame), frameOf(pair.bottom.frame)]
    if (!top || !bottom) return null
    return whole(top === bottom ? top : { ...top, planes: woven(top, pair.top, bottom, pair.bottom) })
  }
  switch (shown.kind) {
    case 'frame':
    case 'field':
      return whole(single(shown))
    case 'mix': {
      const [a, b] = [single(shown.a), single(shown.b)]
      return whole(a && b && { ...a, planes: mixedPlanes(a.planes, b.planes, shown.weightOfB) })
    }
    default:
      return null
  }
}

/** Does something with the planes of two pictures of one size, each pair with its width. */
function eachPair(a: Planes, b: Planes, make: (a: Samples, b: Samples, width: number) => Samples): Planes {
  const small = Math.ceil(a.width / a.across)
  const both = (samples: Samples, other: Samples | undefined, width: number) =>
    make(samples, present(other, 'frames of one clip have planes alike'), width)
  return {
    ...a,
    luma: make(a.luma, b.luma, a.width),
    chroma: a.chroma && {
      cb: both(a.chroma.cb, b.chroma?.cb, small),
      cr: both(a.chroma.cr, b.chroma?.cr, small),
    },
    alpha: a.alpha && both(a.alpha, b.alpha ?? undefined, a.width),
  }
}

/** Two fields woven, each on the lines that it has; two of one parity on the lines beside each other. */
function woven(top: StoredPicture, ofTop: SourceField, bottom: StoredPicture, ofBottom: SourceField): Planes {
  const crossed = ofTop.parity === 'bottom' && ofBottom.parity === 'top'
  const even = crossed ? bottom : top
  const odd = crossed ? top : bottom
  const [evenFrom, oddFrom] = crossed ? [0, 0] : [firstLine(ofTop.parity), firstLine(ofBottom.parity) - 1]
  return eachPair(even.planes, odd.planes, (a, b, width) => {
    const samples = roomFor(a.length, a)
    const height = a.length / width
    for (let y = 0; y < height; y++) {
      const line = Math.max(0, Math.min(height - 1, y + (y % 2 === 0 ? evenFrom : oddFrom)))
      samples.set((y % 2 === 0 ? a : b).subarray(line * width, (line + 1) * width), y * width)
    }
    return samples
  })
}

/** Two pictures mixed in code values, rounded half up. */
export const mixedPlanes = (a: Planes, b: Planes, weightOfB: number): Planes =>
  eachPair(a, b, (samples, other) => {
    const laidSamples = roomFor(samples.length, samples)
    for (let i = 0; i < samples.length; i++) {
      const value = samples[i] as number
      laidSamples[i] = Math.floor(value + ((other[i] as number) - value) * weightOfB + 0.5)
    }
    return laidSamples
  })
