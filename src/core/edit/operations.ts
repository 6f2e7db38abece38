import { formatName, sameFormat } from '../format/format'
import type { Format } from '../format/format'
import { divide, equal, multiply } from '../rational/rational'
import { type Corrections, applyCorrections, isCorrected } from '../reading/correct'
import { carryPlacements } from './carry'
import {
  type Clip,
  type Decision,
  type Doc,
  type FormatOrigin,
  type Placement,
  type Timeline,
  formatOf,
} from './project'

/**
 * The edits of a project. Each changes the document that it is given in place, so that it can run on a draft
 * whose changes are recorded and undone as patches. None of them knows a clock: times and ids come from outside.
 */

/** Takes clips in; one that is there already (same id) is replaced where it stands. */
export function takeIn(doc: Doc, clips: readonly Clip[]): void {
  for (const clip of clips) {
    if (!doc.clips[clip.id]) doc.project.clipOrder.push(clip.id)
    doc.clips[clip.id] = clip
  }
}

/** Takes clips out, and their placements with them. */
export function takeOut(doc: Doc, ids: readonly string[]): void {
  const gone = new Set(ids)
  doc.project.clipOrder = doc.project.clipOrder.filter((id) => !gone.has(id))
  for (const id of gone) delete doc.clips[id]
  for (const timeline of Object.values(doc.timelines)) {
    for (const track of timeline.tracks)
      track.placements = track.placements.filter((p) => !gone.has(p.clipId))
  }
}

/**
 * Puts the editor's word over the claims of clips; an empty correction gives the claims back. Placements keep the frames
 * that they show: in-points are source time, which passes at another speed after the rate was corrected.
 */
export function correct(doc: Doc, ids: readonly string[], corrections: Corrections): void {
  for (const id of ids) {
    const clip = doc.clips[id]
    const claimed = clip?.claimed ?? clip?.reading
    if (!clip || !claimed) continue
    const before = clip.reading?.video?.rate
    clip.corrections = corrections
    clip.reading = applyCorrections(claimed, corrections)
    clip.claimed = isCorrected(corrections) ? claimed : null
    const after = clip.reading.video?.rate
    if (before && after && !equal(before, after)) {
      for (const placement of placementsOf(doc, id))
        placement.sourceIn = multiply(placement.sourceIn, divide(before, after))
    }
  }
}

function* placementsOf(doc: Doc, clipId: string): Generator<Placement> {
  for (const timeline of Object.values(doc.timelines)) {
    for (const track of timeline.tracks)
      for (const placement of track.placements) if (placement.clipId === clipId) yield placement
  }
}

/** Sets the project's format and writes why; timelines that follow are carried to its rate. */
export function setProjectFormat(doc: Doc, decision: Decision): void {
  for (const timeline of Object.values(doc.timelines)) {
    const before = formatOf(doc, timeline)
    if (!timeline.ownFormat && before) carryTimeline(doc, timeline, before, decision.format)
  }
  doc.project.format = decision.format
  doc.project.decisions.push(decision)
}

/** Gives a timeline its own format, or lets it follow the project again (null). Its cut is carried along. */
export function setTimelineFormat(
  doc: Doc,
  timelineId: string,
  format: Format | null,
  origin: FormatOrigin | null = null,
): void {
  const timeline = doc.timelines[timelineId]
  const before = formatOf(doc, timeline)
  timeline.ownFormat = format
  timeline.formatOrigin = format && origin
  const after = formatOf(doc, timeline)
  if (before && after) carryTimeline(doc, timeline, before, after)
}

function carryTimeline(doc: Doc, timeline: Timeline, before: Format, after: Format) {
  // A name that was proposed for the old format would lie about the new one.
  if (isProposed(timeline.name, before) && formatName(before) !== formatName(after))
    timeline.name = proposeName(doc, after)
  for (const track of timeline.tracks)
    track.placements = carryPlacements(track.placements, before.rate, after.rate)
}

export function addTimeline(doc: Doc, timeline: Timeline): void {
  doc.timelines[timeline.id] = timeline
  doc.project.timelineOrder.push(timeline.id)
}

export function removeTimeline(doc: Doc, id: string): void {
  delete doc.timelines[id]
  doc.project.timelineOrder = doc.project.timelineOrder.filter((other) => other !== id)
}

/** An empty timeline with one track for pictures and one for sound. */
export const newTimeline = (
  id: string,
  name: string,
  createdAt: string,
  ownFormat: Format | null = null,
  formatOrigin: FormatOrigin | null = null,
): Timeline => ({
  id,
  name,
  ownFormat,
  formatOrigin: ownFormat && formatOrigin,
  createdAt,
  tracks: [
    { id: `${id}-v1`, kind: 'video', placements: [] },
    { id: `${id}-a1`, kind: 'audio', placements: [] },
  ],
})

export function renameTimeline(doc: Doc, id: string, name: string): void {
  doc.timelines[id].name = name
}

const nameFor = (format: Format | null) => (format ? `Cut ${formatName(format)}` : 'Cut')
const isProposed = (name: string, format: Format) => name.replace(/ \(\d+\)$/, '') === nameFor(format)

/** A name for a timeline from its format, not yet taken by another. */
export function proposeName(doc: Doc, format: Format | null): string {
  const base = nameFor(format)
  const taken = new Set(Object.values(doc.timelines).map((t) => t.name))
  for (let n = 1; ; n++) {
    const name = n === 1 ? base : `${base} (${n})`
    if (!taken.has(name)) return name
  }
}

/**
 * Places clips one after the other at the end of the track of their kind.
 * @param wanted the new placements without their start
 */
export function append(doc: Doc, timelineId: string, wanted: readonly Omit<Placement, 'start'>[]): void {
  const timeline = doc.timelines[timelineId]
  for (const placement of wanted) {
    const kind = doc.clips[placement.clipId]?.reading?.kind === 'audio' ? 'audio' : 'video'
    const track = timeline.tracks.find((t) => t.kind === kind)!
    track.placements.push({ ...placement, start: endOf(track.placements) })
  }
}

/** The frame after the last one that is placed. */
export const endOf = (placements: readonly Placement[]): number =>
  placements.reduce((end, p) => Math.max(end, p.start + p.length), 0)

/** Takes placements out and closes the gaps they leave on their tracks. */
export function removePlacements(doc: Doc, timelineId: string, ids: readonly string[]): void {
  const gone = new Set(ids)
  for (const track of doc.timelines[timelineId].tracks) {
    let removed = 0
    track.placements = track.placements.flatMap((p) => {
      if (gone.has(p.id)) {
        removed += p.length
        return []
      }
      return [{ ...p, start: p.start - removed }]
    })
  }
}

/** Moves a placement to another position in the order of its track; butt cuts stay butted. */
export function movePlacement(doc: Doc, timelineId: string, id: string, toIndex: number): void {
  for (const track of doc.timelines[timelineId].tracks) {
    const from = track.placements.findIndex((p) => p.id === id)
    if (from < 0) continue
    const order = track.placements.filter((p) => p.id !== id)
    order.splice(Math.max(0, Math.min(toIndex, order.length)), 0, track.placements[from])
    let start = 0
    track.placements = order.map((p) => {
      const placed = { ...p, start }
      start += p.length
      return placed
    })
  }
}

/** Whether a format would be news to a timeline. */
export const differs = (doc: Doc, timeline: Timeline, format: Format): boolean => {
  const current = formatOf(doc, timeline)
  return !current || !sameFormat(current, format)
}
