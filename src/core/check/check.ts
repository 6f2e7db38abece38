import { type Clip, type Doc, type Placement, type Timeline, formatOf, weightsOf } from '../edit/project'
import type { Format } from '../format/format'
import { type Grade, type Toll, grades } from '../toll/charge'
import { pictureOf } from '../toll/picture'
import { tollOf } from '../toll/toll'

/** What happens to one placed clip: untouched, or exactly what, and why. */
export interface Finding {
  readonly placement: Placement
  readonly clip: Clip
  readonly toll: Toll
}

/** A timeline checked: the worst first, and the whole at a glance. */
export interface Check {
  readonly format: Format
  /** In order of the timeline. */
  readonly findings: readonly Finding[]
  readonly frames: number
  /** Share of placed picture frames that run untouched; 1 for an empty timeline. */
  readonly untouchedShare: number
  readonly countByGrade: Readonly<Record<Grade, number>>
}

/** Checks every placed picture of a timeline. @returns null while the timeline has no format. */
export function checkTimeline(doc: Doc, timeline: Timeline): Check | null {
  const format = formatOf(doc, timeline)
  if (!format) return null
  const findings = timeline.tracks
    .filter((track) => track.kind === 'video')
    .flatMap((track) => track.placements)
    .flatMap((placement) => findingOf(doc, placement, format) ?? [])
  const countByGrade: Record<Grade, number> = { free: 0, light: 0, heavy: 0, severe: 0 }
  let [frames, untouched] = [0, 0]
  for (const { placement, toll } of findings) {
    countByGrade[toll.grade]++
    frames += placement.length
    if (toll.grade === 'free') untouched += placement.length
  }
  return { format, findings, frames, untouchedShare: frames ? untouched / frames : 1, countByGrade }
}

/** What happens to one placement in a format; null for sound. */
export function findingOf(doc: Doc, placement: Placement, format: Format): Finding | null {
  const clip = doc.clips[placement.clipId]
  const video = clip?.reading?.video
  if (!clip || !video) return null
  const toll = tollOf(pictureOf(video), format, placement.treatment, weightsOf(doc.project))
  return { placement, clip, toll }
}

/** The worst first: by grade, then by what is lost over the running time. */
export const worstFirst = (findings: readonly Finding[]): Finding[] =>
  [...findings].sort(
    (a, b) =>
      grades.indexOf(b.toll.grade) - grades.indexOf(a.toll.grade) ||
      b.toll.loss * b.placement.length - a.toll.loss * a.placement.length,
  )
