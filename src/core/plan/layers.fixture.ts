import { parseFormat } from '../format/parse'
import { toNumber } from '../rational/rational'
import { aDoc, aStill, aVideo } from '../model/doc.fixture'
import type { Draft } from '../edit/draft'
import { type Layer, layersAt } from './layers'
import { addTimeline } from '../edit/operations'
import { append, newTimeline, placementOf } from '../edit/placing'
import type { Doc } from '../model/project'
import type { Placement } from '../model/timeline'

export const format = (text: string) => parseFormat(text)!.format
export const hd25 = format('1920x1080@25p')

export function placed(clips: string[][] = [['hall', '3840x2160@25p']], runsIn = hd25): Draft<Doc> {
  const doc = aDoc([...clips.map(([id, text]) => aVideo(id!, text!, 4)), aStill('title')])
  addTimeline(doc, newTimeline('t', 'Main cut', '', runsIn))
  append(
    doc,
    't',
    clips.map(([id]) => placementOf(doc.clips[id!]!, runsIn, `p-${id}`)),
  )
  return doc
}
export const at = (doc: Draft<Doc>, n: number) => layersAt(doc, doc.timelines.t!, n)
export const lies = ({ rasterMap }: Layer) =>
  [rasterMap.scaleX, rasterMap.scaleY, rasterMap.x, rasterMap.y].map(toNumber)
export const placement = (doc: Draft<Doc>, i = 0): Draft<Placement> =>
  doc.timelines.t!.tracks[0]!.placements[i]!
