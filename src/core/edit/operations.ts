import { present } from '../assert'
import type { Clip, LeftAside } from '../model/clip'
import { type Draft, asIs } from './draft'
import type { FramingPlan } from './reframe'
import { type Decision, type Doc, formatOf } from '../model/project'
import { reframed } from './reformat'
import { type FormatOrigin, type Timeline } from '../model/timeline'
import { type Format } from '../format/format'
import { closeUp as closeGaps, followPictures, startsOf } from './track'

/**
 * The edits of a project and its timelines. Each changes the document that it is given in place, so that it can run on a
 * draft whose changes are recorded and undone as patches. None of them knows a clock: times and ids come from outside.
 */

/** Takes clips in; one that is there already (same id) is replaced where it stands. */
export function takeIn(doc: Draft<Doc>, clips: readonly Clip[], aside: readonly LeftAside[] = []): void {
  for (const clip of clips) {
    if (!doc.clips[clip.id]) doc.project.clipOrder.push(clip.id)
    doc.clips[clip.id] = clip as Draft<Clip>
  }
  for (const file of aside) doc.leftAside[file.id] = file
}

/**
 * Takes clips out, and their placements with them.
 * @param closeUp whether what follows on a track moves up into the gap
 */
export function takeOut(doc: Draft<Doc>, ids: readonly string[], closeUp: boolean): void {
  const gone = new Set(ids)
  doc.project.clipOrder = doc.project.clipOrder.filter((id) => !gone.has(id))
  for (const id of gone) delete doc.clips[id]
  for (const timeline of Object.values(doc.timelines))
    removeWhere(timeline, ({ source }) => source.kind === 'clip' && gone.has(source.clipId), closeUp)
}

/** Takes placements out of a timeline, but from tracks that are locked. @param closeUp whether what follows on a track moves up into the gap */
export function removePlacements(
  doc: Draft<Doc>,
  timelineId: string,
  ids: readonly string[],
  closeUp: boolean,
): void {
  const timeline = timelineIn(doc, timelineId)
  const locked = timeline.tracks.filter((track) => track.locked)
  const gone = new Set(ids)
  for (const track of locked) for (const { id } of track.placements) gone.delete(id)
  removeWhere(timeline, ({ id }) => gone.has(id), closeUp)
}

type DraftPlacement = Draft<Timeline>['tracks'][number]['placements'][number]

/** The one way in which placements leave a timeline, whoever takes them out. */
function removeWhere(
  timeline: Draft<Timeline>,
  goes: (placement: DraftPlacement) => boolean,
  closeUp: boolean,
): void {
  const lost = new Set<string>()
  const before = startsOf(asIs(timeline))
  for (const track of timeline.tracks) {
    const leaving = track.placements.filter(goes)
    if (leaving.length === 0) continue
    leaving.forEach(({ id }) => lost.add(id))
    const staying = track.placements.filter((placement) => !lost.has(placement.id))
    track.placements = closeUp ? closeGaps(staying, leaving) : staying
  }
  followPictures(timeline, before)
  if (timeline.accepted.some(({ placementId }) => lost.has(placementId)))
    timeline.accepted = timeline.accepted.filter(({ placementId }) => !lost.has(placementId))
}

/** Sets the project's format and writes why; timelines that follow are carried to its frame and its rate. */
export function setProjectFormat(doc: Draft<Doc>, decision: Decision): void {
  const decided = { ...doc, project: { ...doc.project, format: decision.format } }
  for (const [id, timeline] of Object.entries(doc.timelines))
    if (!timeline.ownFormat) doc.timelines[id] = reframed(doc, decided, timeline).timeline as Draft<Timeline>
  doc.project.format = decision.format
  doc.project.decisions.push(decision)
}

/**
 * Gives a timeline its own format, or lets it follow the project again (null). Its cut is carried along.
 * @param plan what becomes of where pictures lie; as usual where nothing is said
 */
export function setTimelineFormat(
  doc: Draft<Doc>,
  timelineId: string,
  format: Format | null,
  origin: FormatOrigin | null = null,
  plan?: FramingPlan,
): void {
  const timeline = timelineIn(doc, timelineId)
  const after = { ...timeline, ownFormat: format, formatOrigin: format && origin } as Timeline
  doc.timelines[timelineId] = reframed(doc, doc, timeline, after, plan).timeline as Draft<Timeline>
}

/** Puts a timeline into the project; its frames belong to the rate of its format, where there is one. */
export function addTimeline(doc: Draft<Doc>, timeline: Timeline): void {
  const rate = formatOf(doc, timeline)?.rate ?? timeline.rate
  listTimeline(doc, { ...timeline, rate } as Draft<Timeline>)
}

/** Lists one more timeline. What would be delivered of the only one before stays of that: it is not the only one any more. */
export function listTimeline(doc: Draft<Doc>, timeline: Draft<Timeline>): void {
  const [only, second] = doc.project.timelineOrder
  if (only !== undefined && second === undefined)
    for (const deliverable of doc.project.deliverables) deliverable.timelineId ??= only
  doc.timelines[timeline.id] = timeline
  doc.project.timelineOrder.push(timeline.id)
}

/** Takes a timeline out, and what other timelines show of it. What would be delivered of it is delivered of none. */
export function removeTimeline(doc: Draft<Doc>, id: string, closeUp = true): void {
  delete doc.timelines[id]
  doc.project.timelineOrder = doc.project.timelineOrder.filter((other) => other !== id)
  for (const timeline of Object.values(doc.timelines))
    removeWhere(timeline, ({ source }) => source.kind === 'timeline' && source.timelineId === id, closeUp)
  for (const deliverable of doc.project.deliverables)
    if (deliverable.timelineId === id) deliverable.timelineId = null
}

export function renameTimeline(doc: Draft<Doc>, id: string, name: string): void {
  timelineIn(doc, id).name = name
}

/** A timeline that is there. @throws Error where it is not */
export const timelineIn = (doc: Draft<Doc>, id: string): Draft<Timeline> =>
  present(doc.timelines[id], `timeline ${id} is in the project`)
