import { framesNeeded } from '../core/compose/standing'
import { type Layer, layersAt } from '../core/edit/layers'
import { type Doc, formatOf } from '../core/edit/project'
import { timingOf } from '../core/edit/timing'
import { deepestNesting } from '../core/edit/timeline'
import type { Format } from '../core/format/format'
import { countOf, framesOf } from '../core/motion/timing'
import { matrixOf } from '../core/picture/colour'
import type { Meaning } from '../core/planes/screen'
import type { Composition, Source, SourcedLayer } from '../media/render/composition'
import type { Area } from '../core/compose/laid'
import type { ComposedAnswer } from '../workers/frames.worker'
import { askFor } from '../workers/job'
import { frameService } from '../workers/services'
import { useMedia } from './media'

/** What the samples of a format mean. */
export const meaningOf = ({ width, height, colour }: Format): Meaning => ({
  matrix: matrixOf({ width, height }, { primaries: colour.primaries }),
  primaries: colour.primaries,
  transfer: colour.transfer,
  range: 'limited',
})

/**
 * A frame of a timeline as a worker composes it: its layers, and where the frames that they show lie.
 * @param wanted where a frame of a clip lies, as the store of media says
 */
export async function compositionOf(
  doc: Doc,
  layers: readonly Layer[],
  format: Format,
  wanted: ReturnType<typeof useMedia>['wanted'],
  depth = 0,
): Promise<Composition> {
  const { width, height } = format
  const ground = { meaning: meaningOf(format), bitDepth: Math.min(12, Math.max(8, format.colour.bitDepth)) }
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
      if (inner && innerFormat && depth < deepestNesting)
        for (const index of [...needed, ...helpful])
          frames.set(
            index,
            await compositionOf(doc, layersAt(doc, inner, index, depth + 1), innerFormat, wanted, depth + 1),
          )
      return { kind: 'composition', frames }
    }
    const clip = doc.clips[source.clipId]
    const frames = new Map<
      number,
      Extract<Source, { kind: 'file' }>['frames'] extends ReadonlyMap<number, infer V> ? V : never
    >()
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

/** An area of a timeline's frame by the exact kernels, for the screen. @throws the signal's reason once it aborts */
export async function composed(
  doc: Doc,
  layers: readonly Layer[],
  format: Format,
  area: Area,
  signal: AbortSignal,
): Promise<ComposedAnswer> {
  const composition = await compositionOf(doc, layers, format, useMedia().wanted)
  signal.throwIfAborted()
  const service = frameService()
  return askFor<ComposedAnswer>(service, async (id) => service.compose(id, composition, area), signal)
}
