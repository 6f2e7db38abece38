import { fieldLines } from '../framing/field-lines'
import { type RasterMap, axesOf, composeMaps, drawnArea, mapToRaster } from '../framing/raster-map'
import { type InFields, fieldsShown } from '../compose/field-arrangement'
import type { Format } from '../format/format'
import { type Shown, type ShownField, shownAt } from '../motion/shown'
import { type FieldOrder, type Parity, ordersDiffer } from '../picture/scan'
import { type Rational, add, exactly, multiply, rational, subtract } from '../rational/rational'
import type { ColourConversion, Filter, Sides, Treatment } from '../treatment/treatment'
import { noSides } from '../treatment/treatment'
import type { Run } from '../treatment/run'
import { type Doc, formatOf } from '../model/project'
import { type SettledPlacement, settlePlacement, timingOfPlacement } from './running'
import {
  type Placement,
  type PlacementSource,
  type Timeline,
  type Track,
  deepestNesting,
} from '../model/timeline'

/** What one placement adds to a frame: what of its source is shown, and where and how it lies on the raster. */
export interface Layer {
  readonly placementId: string
  readonly source: PlacementSource
  readonly shown: Shown
  readonly rasterMap: RasterMap
  /** The same where its fields are not shifted by a line to come in their order. */
  readonly unshifted: RasterMap
  /** The stored picture as it stands upright, in its own pixels. */
  readonly size: { readonly across: number; readonly down: number }
  /** How the fields of an interlaced raster come to stand; null where each frame stands as a whole. */
  readonly inFields: InFields | null
  /** Of the source. */
  readonly fieldOrder: FieldOrder | null
  /** What of the scale is zoom: a baked reduction comes before it. */
  readonly zoom: Rational
  readonly filter: Filter
  readonly sharpen: Treatment['framing']['sharpen']
  readonly reduction: Treatment['framing']['reduction']
  readonly colour: ColourConversion
}

/** One field of an interlaced timeline's frames, made whole: what a progressive timeline around it shows. */
export interface Moment {
  readonly parity: Parity
  readonly method: ShownField['method']
}

/** How the frames of a timeline are looked at: by themselves, or from within another. */
export interface Looking {
  readonly depth: number
  /** The field that is shown; both where none is. */
  readonly moment?: Moment
  /** The order in which an interlaced timeline around it shows its fields. */
  readonly order?: FieldOrder | null
}

/**
 * What a timeline's frame shows, bottom to top: a layer for each visible video track with something on it. A timeline within it
 * gives its own layers, their maps composed, where it shows one whole frame or one field of its own and nothing of that is cut off: so
 * each is scaled once and deinterlaced once, and its fields come in the order in which they are shown.
 * @param n from the first frame of the timeline
 */
export function layersAt(doc: Doc, timeline: Timeline, n: number, looking: Looking = { depth: 0 }): Layer[] {
  const own = formatOf(doc, timeline)
  if (!own || !timeline.rate) return []
  const format = looking.order && own.fieldOrder ? { ...own, fieldOrder: looking.order } : own
  return timeline.tracks
    .filter(({ kind, hidden }) => kind === 'video' && !hidden)
    .flatMap((track) => {
      const placement = placementAt(track, n)
      return placement ? layersOf(doc, timeline, placement, { format, n: n - placement.start }, looking) : []
    })
}

/** The placement that is on at a frame; null in a gap. */
export function placementAt({ placements }: Pick<Track, 'placements'>, n: number): Placement | null {
  let [low, high] = [0, placements.length - 1]
  while (low <= high) {
    const middle = (low + high) >> 1
    const placement = placements[middle]
    if (!placement) return null
    if (n < placement.start) high = middle - 1
    else if (n >= placement.start + placement.length) low = middle + 1
    else return placement
  }
  return null
}

function layersOf(
  doc: Doc,
  timeline: Timeline,
  placement: Placement,
  { format, n }: { readonly format: Format; readonly n: number },
  { depth, moment }: Looking,
): Layer[] {
  const settled = settlePlacement(doc, timeline, placement, format)
  const shown = shownIn(doc, timeline, placement, settled, { format, n })
  if (shown.kind === 'nothing') return []
  const whole = layerOf(doc, placement, settled, format, shown)
  if (!whole) return []
  const layer = moment ? atMoment(whole, moment) : whole
  return throughTimeline(doc, layer, format, depth) ?? [layer]
}

/** What a layer of an interlaced frame shows at the moment of one of its fields; what is one moment already stays. */
function atMoment(layer: Layer, { parity, method }: Moment): Layer {
  const { shown, inFields } = layer
  const pair = inFields && fieldsShown(layer)
  if (!inFields || !pair) return layer
  const field = pair[parity]
  const seen: Shown =
    inFields.outOf === 'frames'
      ? { kind: 'frame', index: field.frame }
      : { kind: 'field', frame: field.frame, parity: field.parity, method }
  if (shown.kind === 'nothing') return layer
  return { ...layer, shown: seen, rasterMap: layer.unshifted, inFields: null }
}

/** What a placement shows on its n-th frame. */
function shownIn(
  doc: Doc,
  timeline: Timeline,
  placement: Placement,
  { way, picture }: SettledPlacement,
  { format, n }: { readonly format: Format; readonly n: number },
): Shown {
  if (!timeline.rate || !picture) return { kind: 'nothing' }
  const running = {
    sourceIn: placement.sourceIn,
    way,
    fieldOrder: picture.fieldOrder,
    shownOrder: format.fieldOrder,
  }
  return shownAt(running, timingOfPlacement(doc, placement), timeline.rate, n)
}

/** The layer of a placement, whatever it shows; null where nothing is known of its picture. */
export function layerOf(
  doc: Doc,
  placement: Placement,
  { picture, treatment, way }: SettledPlacement,
  format: Format,
  shown: Shown,
): Layer | null {
  if (!picture) return null
  const { framing, colour, shiftOrder } = treatment
  const rasterMap = mapToRaster(picture, format, framing)
  const turnsOrder = shiftOrder || ordersDiffer(picture.fieldOrder, format.fieldOrder)
  const inFields = fieldsOf(way, turnsOrder)
  const shifts =
    inFields?.outOf === 'fields' && fieldLines(rasterMap, picture.firstLine, turnsOrder) === 'shifted'
  const { zoom, filter, sharpen, reduction } = framing
  const clip = placement.source.kind === 'clip' ? doc.clips[placement.source.clipId] : undefined
  const bars = turnedSides(clip?.corrections.crop ?? noSides, rasterMap)
  const { across, down } = axesOf(picture)
  return {
    placementId: placement.id,
    source: placement.source,
    shown,
    rasterMap: withBakedBars(shifts ? oneLineLower(rasterMap) : rasterMap, bars),
    unshifted: withBakedBars(rasterMap, bars),
    size: { across: across + bars.left + bars.right, down: down + bars.top + bars.bottom },
    inFields,
    fieldOrder: picture.fieldOrder,
    zoom,
    filter,
    sharpen,
    reduction,
    colour,
  }
}

/** Whether a way shows each field at its own moment, and out of what. */
function fieldsOf({ taking }: Run, crossed: boolean): InFields | null {
  if (taking.kind === 'pulldown') return { outOf: 'frames', crossed: false }
  if (taking.kind !== 'fields') return null
  return { outOf: taking.outOf, crossed: taking.outOf === 'fields' && crossed }
}

/** Fields of the other order stand right one line lower. */
const oneLineLower = (rasterMap: RasterMap): RasterMap => ({ ...rasterMap, y: add(rasterMap.y, rational(1)) })

/** A map of the picture without its baked bars, as one of the whole stored picture: the bars are cropped. */
const withBakedBars = (rasterMap: RasterMap, bars: Sides): RasterMap => ({
  ...rasterMap,
  crop: {
    left: rasterMap.crop.left + bars.left,
    right: rasterMap.crop.right + bars.right,
    top: rasterMap.crop.top + bars.top,
    bottom: rasterMap.crop.bottom + bars.bottom,
  },
  x: subtract(rasterMap.x, multiply(exactly(bars.left), rasterMap.scaleX)),
  y: subtract(rasterMap.y, multiply(exactly(bars.top), rasterMap.scaleY)),
})

/** Sides of the stored picture as they stand after its turn. */
function turnedSides({ left, right, top, bottom }: Sides, { turn }: RasterMap): Sides {
  switch (turn) {
    case 0:
      return { left, right, top, bottom }
    case 90:
      return { left: bottom, right: top, top: left, bottom: right }
    case 180:
      return { left: right, right: left, top: bottom, bottom: top }
    case 270:
      return { left: top, right: bottom, top: right, bottom: left }
  }
}

/** The layers of a timeline that a layer shows; null where it is a picture of its own: mixed, of fields of two frames, or cut off. */
function throughTimeline(doc: Doc, layer: Layer, { fieldOrder }: Format, depth: number): Layer[] | null {
  const { shown } = layer
  if (layer.source.kind !== 'timeline' || depth >= deepestNesting) return null
  if (shown.kind !== 'frame' && shown.kind !== 'field') return null
  const inner = doc.timelines[layer.source.timelineId]
  const innerFormat = inner && formatOf(doc, inner)
  if (!inner || !innerFormat) return null
  const { left, right, top, bottom } = layer.rasterMap.crop
  if (left + right + top + bottom > 0 || layer.reduction === 'baked') return null
  const looking: Looking =
    shown.kind === 'field'
      ? { depth: depth + 1, moment: { parity: shown.parity, method: shown.method } }
      : { depth: depth + 1, order: layer.inFields ? fieldOrder : null }
  const within = layersAt(doc, inner, shown.kind === 'field' ? shown.frame : shown.index, looking)
  // What hangs out of the inner raster must not show around it.
  if (within.some((layer) => hangsOut(layer, innerFormat))) return null
  return within.map((inner) => ({
    ...inner,
    // Its own layers put their fields in order.
    rasterMap: composeMaps(inner.rasterMap, layer.unshifted),
    unshifted: composeMaps(inner.unshifted, layer.unshifted),
    placementId: layer.placementId,
  }))
}

function hangsOut({ rasterMap, size }: Layer, { width, height }: Format): boolean {
  const area = drawnArea(rasterMap, size)
  const dust = 1e-6
  return area.left < -dust || area.top < -dust || area.right > width + dust || area.bottom > height + dust
}
