import { present } from '../../core/assert'
import type { Clip } from '../../core/model/clip'
import { type Layer, layerOf } from '../../core/plan/layers'
import { placementOf } from '../../core/edit/placing'
import type { Doc } from '../../core/model/project'
import { type Format, makeFormat } from '../../core/format/format'
import { pictureOf } from '../../core/picture/picture'
import { uprightSize } from '../../core/picture/turn'
import { rational } from '../../core/rational/rational'
import { settleToll } from '../../core/toll/toll'
import { type Treatment, plainTreatment } from '../../core/treatment/treatment'

/** A frame of a clip as it would lie in a format, were it placed there with a treatment. */
export function layerOfClip(
  doc: Doc,
  clip: Clip,
  format: Format,
  index: number,
  treatment: Treatment = plainTreatment,
): Layer {
  const video = present(clip.reading?.video, 'only what has a picture is painted')
  const picture = pictureOf(video)
  const placement = { ...placementOf(clip, format, 'looked-at'), start: 0 }
  const settled = { ...settleToll(picture, format, treatment), picture, treatment }
  const shown = { kind: 'frame', index } as const
  return present(layerOf(doc, placement, settled, format, shown), 'a picture gives a layer')
}

/** The raster on which every stored pixel of a clip stands on one pixel. */
export function rasterOf(clip: Clip): Format {
  const video = present(clip.reading?.video, 'only what has a picture has a raster')
  return makeFormat(uprightSize(pictureOf(video)), video.rate ?? rational(25))
}
