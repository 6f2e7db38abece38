import { framesNeeded } from '../../core/compose/standing'
import type { Clip } from '../../core/edit/clip'
import { type Layer, layersAt } from '../../core/edit/layers'
import { type Doc, formatOf } from '../../core/edit/project'
import { deepestNesting } from '../../core/edit/timeline'
import { timingOf } from '../../core/edit/timing'
import type { Format } from '../../core/format/format'
import { countOf, framesOf } from '../../core/motion/timing'
import { matrixOf } from '../../core/picture/colour'
import { isStandardDefinition } from '../../core/picture/size'
import type { Meaning } from '../../core/planes/screen'
import { type ChromaSiting, wholeChroma } from '../../core/resample/picture'
import type { LyingFrame } from '../lying'
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
export type Wanted = (clip: Clip, index: number) => Promise<LyingFrame>

/** A frame of a timeline as a worker composes it: its layers, and where the frames that they show lie. */
export async function compositionOf(
  doc: Doc,
  layers: readonly Layer[],
  format: Format,
  wanted: Wanted,
  composing = forScreen(format),
  depth = 0,
): Promise<Composition> {
  const { width, height } = format
  const ground = { meaning: meaningOf(format), ...composing }
  const sourced: SourcedLayer[] = []
  for (const layer of layers) sourced.push({ ...layer, source: await sourceOf(layer) })
  return { ground, width, height, layers: sourced }

  async function sourceOf(layer: Layer): Promise<Source> {
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
          const within = layersAt(doc, inner, index, depth + 1)
          frames.set(index, await compositionOf(doc, within, innerFormat, wanted, how, depth + 1))
        }
      }
      return { kind: 'composition', frames }
    }
    const clip = doc.clips[source.clipId]
    const frames = new Map<number, Exclude<LyingFrame, { error: string }>>()
    let trouble: string | null = clip ? null : 'This clip is not in the project any more.'
    const count = clip ? countOf(framesOf(timingOf(clip))) : 0
    for (const index of [...needed, ...helpful]) {
      if (!clip || index >= count) continue
      const lies = await wanted(clip, index)
      if ('error' in lies) trouble = lies.error
      else frames.set(index, lies)
    }
    return { kind: 'file', frames, trouble }
  }
}
