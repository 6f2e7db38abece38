import { deepEqual } from '../equality'
import type { Clip } from '../model/clip'
import { resettle } from './correction'
import type { Draft } from './draft'
import type { Doc } from '../model/project'

/** Whether two clips are of the same bytes, wherever these lie and whatever they are called. */
const sameContent = (a: Clip, b: Clip): boolean =>
  a.sizeBytes === b.sizeBytes &&
  (a.hash !== null && b.hash !== null ? a.hash === b.hash : true) &&
  a.parts.length === b.parts.length &&
  a.parts.every((part, i) => part.hash === b.parts[i]?.hash && part.sizeBytes === b.parts[i]?.sizeBytes)

/**
 * Brings a project back to what it was at a point. What was found out about clips since stays: where their files are, their frames and
 * evidence; what the editor said of them is as it was. A clip that was replaced since has its old file again. Clips that came later
 * go, those that went come back.
 */
export function restore(doc: Draft<Doc>, point: Doc): void {
  const { id } = doc.project
  if (!deepEqual({ ...doc.project, id: '' }, { ...point.project, id: '' }))
    doc.project = { ...point.project, id } as Draft<Doc['project']>
  putRows(doc.timelines, point.timelines)
  putRows(doc.leftAside, point.leftAside)
  for (const clipId of Object.keys(doc.clips)) if (!point.clips[clipId]) delete doc.clips[clipId]
  const changed: string[] = []
  for (const [clipId, then] of Object.entries(point.clips)) {
    const clip = doc.clips[clipId]
    if (!clip || !sameContent(clip, then)) {
      doc.clips[clipId] = then as Draft<Clip>
      continue
    }
    if (clip.priority !== then.priority) clip.priority = then.priority
    if (deepEqual(clip.corrections, then.corrections)) continue
    clip.corrections = then.corrections as Draft<Clip['corrections']>
    changed.push(clipId)
  }
  resettle(doc, changed)
}

function putRows<Row>(into: Record<string, Draft<Row>>, point: Readonly<Record<string, Row>>): void {
  for (const id of Object.keys(into)) if (!Object.hasOwn(point, id)) delete into[id]
  for (const [id, row] of Object.entries(point)) if (!deepEqual(into[id], row)) into[id] = row as Draft<Row>
}
