import { type Clip } from '../model/clip'
import { type Doc, formatOf, sourceName } from '../model/project'
import { type SettledPlacement, settlePlacement, settling } from '../plan/running'
import { type Placement, type Timeline, deepestNesting, lengthOf, timecodeAt } from '../model/timeline'
import type { Format } from '../format/format'
import { type Toll } from '../toll/charge'
import { type Grade, grades } from '../toll/grade'

/** What happens to one placed picture: untouched, or exactly what, and why. */
export interface Finding {
  readonly placement: Placement
  /** The clip that is placed; null for another timeline and the test figure. */
  readonly clip: Clip | null
  /** What it is called: the name of its clip or timeline. */
  readonly name: string
  readonly toll: Toll
  /** Of a placed timeline: how its own placements run in it. */
  readonly inner: Check | null
}

/** A timeline checked: the worst first, and the whole at a glance. */
export interface Check {
  readonly format: Format
  /** In order of the timeline. */
  readonly findings: readonly Finding[]
  /** Of the cut: to the end of its last placement. */
  readonly frames: number
  /** Of all placed pictures, one beside the other: what shares are of. */
  readonly placedFrames: number
  /** The timecode of a frame, as the timeline counts. */
  readonly timecode: (frame: number) => string
  /** Share of placed picture frames that run untouched; 1 for an empty timeline. */
  readonly untouchedShare: number
  readonly countByGrade: Readonly<Record<Grade, number>>
}

/** Checks every placed picture of a timeline. @returns null while the timeline has no format */
export function checkTimeline(doc: Doc, timeline: Timeline, depth = 0): Check | null {
  const format = formatOf(doc, timeline)
  if (!format) return null
  const settle = settling(doc, timeline, format)
  const findings = timeline.tracks
    .filter((track) => track.kind === 'video')
    .flatMap((track) => track.placements)
    .flatMap((placement) => foundOf(doc, placement, settle(placement), depth) ?? [])
  const countByGrade: Record<Grade, number> = { free: 0, light: 0, heavy: 0, severe: 0 }
  let [placedFrames, untouched] = [0, 0]
  for (const { placement, toll } of findings) {
    countByGrade[toll.grade]++
    placedFrames += placement.length
    if (toll.untouched) untouched += placement.length
  }
  return {
    format,
    findings,
    frames: lengthOf(timeline),
    placedFrames,
    timecode: (frame) => timecodeAt(timeline, frame),
    untouchedShare: placedFrames ? untouched / placedFrames : 1,
    countByGrade,
  }
}

/** Placements that are counted before others have their turn. */
const inOneBit = 1000

/** How many placed pictures pay a severe toll, told bit by bit: what is given adds up. */
export function* severeBitByBit(doc: Doc, timeline: Timeline): Generator<number> {
  const format = formatOf(doc, timeline)
  if (!format) return
  const settle = settling(doc, timeline, format)
  let [seen, severe] = [0, 0]
  for (const { kind, placements } of timeline.tracks) {
    if (kind !== 'video') continue
    for (const placement of placements) {
      const { picture, toll } = settle(placement)
      if (picture && toll.grade === 'severe') severe++
      if (++seen % inOneBit > 0) continue
      yield severe
      severe = 0
    }
  }
  yield severe
}

/** What happens to one placement in a format; null for sound. */
export function findingOf(
  doc: Doc,
  timeline: Timeline,
  placement: Placement,
  format: Format,
): Finding | null {
  return foundOf(doc, placement, settlePlacement(doc, timeline, placement, format), 0)
}

function foundOf(
  doc: Doc,
  placement: Placement,
  { toll, picture }: SettledPlacement,
  depth: number,
): Finding | null {
  if (!picture) return null
  const { source } = placement
  const clip = source.kind === 'clip' ? (doc.clips[source.clipId] ?? null) : null
  const within = source.kind === 'timeline' ? (doc.timelines[source.timelineId] ?? null) : null
  return {
    placement,
    clip,
    name: sourceName(doc, source),
    toll,
    inner: within && depth < deepestNesting ? checkTimeline(doc, within, depth + 1) : null,
  }
}

/** The worst first: by grade, then by what is lost over the running time. */
export const worstFirst = (findings: readonly Finding[]): Finding[] =>
  [...findings].sort(
    (a, b) =>
      grades.indexOf(b.toll.grade) - grades.indexOf(a.toll.grade) ||
      b.toll.loss * b.placement.length - a.toll.loss * a.placement.length,
  )
