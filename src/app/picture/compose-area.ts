import type { Area } from '../../core/compose/layer-raster'
import type { Layer } from '../../core/plan/layers'
import type { Doc } from '../../core/model/project'
import type { Format } from '../../core/format/format'
import { compositionOf } from '../../media/render/compositions'
import type { ComposedAnswer } from '../../workers/frames.worker'
import { frameService } from '../../workers/services'
import { useMedia } from '../../stores/media'

/** An area of a timeline's frame by the exact kernels, for the screen. @throws the signal's reason once it aborts */
export async function composeArea(
  doc: Doc,
  layers: readonly Layer[],
  format: Format,
  area: Area,
  signal: AbortSignal,
): Promise<ComposedAnswer> {
  const composition = await compositionOf(doc, layers, format, useMedia().wanted)
  signal.throwIfAborted()
  return frameService().compose(composition, area, signal)
}
