import { fieldsShown, framesNeeded, keepsLines } from '../../core/compose/field-arrangement'
import type { Clip } from '../../core/model/clip'
import { type Layer, type Moment, layersAt } from '../../core/plan/layers'
import { type Doc, formatOf } from '../../core/model/project'
import { deepestNesting } from '../../core/model/timeline'
import { timingOf } from '../../core/model/timing'
import type { Format } from '../../core/format/format'
import type { Shown, ShownField, ShownFrame, SourceField } from '../../core/motion/shown'
import { countOf, framesOf } from '../../core/motion/timing'
import { firstParity, otherParity } from '../../core/picture/scan'
import { matrixOf } from '../../core/picture/colour'
import { isStandardDefinition } from '../../core/picture/size'
import type { Meaning } from '../../core/planes/screen'
import { type ChromaSiting, wholeChroma } from '../../core/resample/picture'
import type { LocatedFrame } from '../frame-locator'
import type { Composition, Source, SourcedLayer } from './composition'

/** What the samples of a format mean. */
export const meaningOf = ({ width, height, colour }: Format): Meaning => ({
  matrix: matrixOf({ width, height }, { primaries: colour.primaries }),
  primaries: colour.primaries,
  transfer: colour.transfer,
  range: 'limited',
  isStandardDefinition: isStandardDefinition({ width, height }),
})

/** How a frame is composed: of how many bits a sample, and where its colour lies. */
export interface Composing {
  readonly bitDepth: number
  readonly siting: ChromaSiting
}

/** As the viewer shows a format: whole colour. */
export const forScreen = ({ colour }: Format): Composing => ({
  bitDepth: Math.min(12, Math.max(8, colour.bitDepth)),
  siting: wholeChroma,
})

/** Where a frame of a clip as corrected lies. */
export type LocateFrame = (clip: Clip, index: number) => Promise<LocatedFrame>

/** A frame of a timeline as a worker composes it: its layers, and where the frames that they show lie. */
export async function compositionOf(
  doc: Doc,
  layers: readonly Layer[],
  format: Format,
  wanted: LocateFrame,
  {
    composing = forScreen(format),
    depth = 0,
  }: { readonly composing?: Composing; readonly depth?: number } = {},
): Promise<Composition> {
  const { width, height } = format
  const ground = { meaning: meaningOf(format), ...composing }
  const sourced: SourcedLayer[] = []
  for (const layer of layers) {
    const { layer: shown, momentOf } = inMoments(layer)
    sourced.push({ ...shown, source: await sourceOf(shown, momentOf) })
  }
  return { ground, width, height, layers: sourced }

  async function sourceOf(layer: Layer, momentOf: MomentOf | null): Promise<Source> {
    const { source } = layer
    const { needed, helpful } = framesNeeded(layer)
    if (source.kind === 'figure') return { kind: 'figure', figure: source }
    if (source.kind === 'timeline') {
      const inner = doc.timelines[source.timelineId]
      const innerFormat = inner && formatOf(doc, inner)
      const frames = new Map<number, Composition>()
      if (inner && innerFormat && depth < deepestNesting) {
        // On a raster of the same size its colour lies where it will lie.
        const isAlike = innerFormat.width === width && innerFormat.height === height
        const how = isAlike ? composing : forScreen(innerFormat)
        for (const index of [...needed, ...helpful]) {
          const at = momentOf?.(index)
          const within = at
            ? layersAt(doc, inner, at.frame, { depth: depth + 1, moment: at.moment })
            : layersAt(doc, inner, index, { depth: depth + 1 })
          frames.set(
            index,
            await compositionOf(doc, within, innerFormat, wanted, { composing: how, depth: depth + 1 }),
          )
        }
      }
      return { kind: 'composition', frames }
    }
    const clip = doc.clips[source.clipId]
    const frames = new Map<number, Extract<LocatedFrame, { ok: true }>>()
    let trouble: string | null = clip ? null : 'This clip is not in the project any more.'
    const count = clip ? countOf(framesOf(timingOf(clip))) : 0
    for (const index of [...needed, ...helpful]) {
      if (!clip || index >= count) continue
      const lies = await wanted(clip, index)
      if (!lies.ok) trouble = lies.error
      else frames.set(index, lies)
    }
    return { kind: 'file', frames, trouble }
  }
}

/** Which field of which frame a number of a timeline that is looked at field by field means. */
type MomentOf = (index: number) => { readonly frame: number; readonly moment: Moment }

/**
 * A layer of an interlaced timeline that is deinterlaced on its way, as one whose frames are the moments of its fields: each is
 * composed as it is at that moment, so that nothing in it is deinterlaced twice. Other layers stay as they are.
 */
function inMoments(layer: Layer): { readonly layer: Layer; readonly momentOf: MomentOf | null } {
  const { source, shown, inFields, fieldOrder } = layer
  if (source.kind !== 'timeline' || !fieldOrder) return { layer, momentOf: null }
  const first = firstParity(fieldOrder)
  const numberOf = ({ frame, parity }: SourceField) => 2 * frame + (parity === first ? 0 : 1)
  let method: Moment['method'] = 'adaptive'
  const whole = (part: ShownFrame | ShownField): ShownFrame | null => {
    if (part.kind === 'frame') return null
    method = part.method
    return { kind: 'frame', index: numberOf(part) }
  }
  const momentOf: MomentOf = (index) => ({
    frame: index >> 1,
    moment: { parity: index % 2 === 0 ? first : otherParity(first), method },
  })
  if (shown.kind === 'field') {
    const frame = whole(shown)
    if (frame) return { layer: { ...layer, shown: frame }, momentOf }
  }
  if (shown.kind === 'mix') {
    const [a, b] = [whole(shown.a), whole(shown.b)]
    if (a && b) return { layer: { ...layer, shown: { ...shown, a, b } }, momentOf }
  }
  const pair = inFields?.outOf === 'fields' ? fieldsShown(layer) : null
  if (!pair || keepsLines(layer.rasterMap, pair)) return { layer, momentOf: null }
  const fields: Shown = {
    kind: 'fields',
    top: { frame: numberOf(pair.top), parity: 'top' },
    bottom: { frame: numberOf(pair.bottom), parity: 'bottom' },
  }
  return {
    layer: {
      ...layer,
      shown: fields,
      rasterMap: layer.unshifted,
      inFields: { outOf: 'frames', crossed: false },
    },
    momentOf,
  }
}
