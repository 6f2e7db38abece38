import { framesLeft, sourceTimeAfter } from '../motion/shown'
import { type Rational, toNumber } from '../rational/rational'
import type { Draft } from './draft'
import { timelineIn } from './operations'
import type { Doc } from './project'
import { runningOf, timingOfPlacement } from './running'
import type { Placement, Timeline, Track } from './timeline'
import { followPairs, startsOf } from './track'

/** What becomes of that which follows: it stays where it is, or moves along so that nothing opens and nothing is covered. */
export type Following = 'stays' | 'moves'

type DraftTrack = Draft<Track>

/** The placements that are trimmed together: one, and what is paired with it, on tracks that are not locked. */
function meant(timeline: Draft<Timeline>, id: string): { track: DraftTrack; index: number }[] {
  const all = timeline.tracks.flatMap((track) =>
    track.locked ? [] : track.placements.map((placement, index) => ({ track, index, placement })),
  )
  const one = all.find(({ placement }) => placement.id === id)?.placement
  if (!one) return []
  return all.filter(
    ({ placement }) => placement.id === id || (one.pairId !== null && placement.pairId === one.pairId),
  )
}

/** The moment of its source at which a placement stands so many frames after (or before) its first. */
function sourceAfter(
  doc: Draft<Doc>,
  timeline: Draft<Timeline>,
  placement: Draft<Placement>,
  frames: number,
): Rational {
  const [of, plain] = [doc as Doc, timeline as Timeline]
  if (!plain.rate) return placement.sourceIn
  const running = runningOf(of, plain, placement as Placement)
  return sourceTimeAfter(running, timingOfPlacement(of, placement as Placement), plain.rate, frames)
}

/** How many frames there are before a placement's first in its source; null where its source has no beginning. */
function framesBefore(
  doc: Draft<Doc>,
  timeline: Draft<Timeline>,
  placement: Draft<Placement>,
): number | null {
  const timing = timingOfPlacement(doc as Doc, placement as Placement)
  if (timing.kind === 'still' || !timeline.rate) return null
  const perFrame = toNumber(sourceAfter(doc, timeline, placement, 1)) - toNumber(placement.sourceIn)
  return perFrame > 0 ? Math.floor(toNumber(placement.sourceIn) / perFrame + 1e-6) : 0
}

/** How many frames a placement can have from its first on; null for what never ends. */
function framesAfter(doc: Draft<Doc>, timeline: Draft<Timeline>, placement: Draft<Placement>): number | null {
  const [of, plain] = [doc as Doc, timeline as Timeline]
  if (!plain.rate) return placement.length
  const running = runningOf(of, plain, placement as Placement)
  return framesLeft(running, timingOfPlacement(of, placement as Placement), plain.rate)
}

/** How far an end can be moved: the tightest of all that are trimmed together. */
function within(by: number, limits: readonly (readonly [least: number, most: number])[]): number {
  return limits.reduce(
    (move, [least, most]) => Math.max(Math.min(least, 0), Math.min(Math.max(most, 0), move)),
    by,
  )
}

function shift(track: DraftTrack, from: number, by: number): void {
  for (const placement of track.placements.slice(from)) placement.start += by
}

/** What of an end is trimmed: how far it can go on a track, and what becomes of the placement. */
interface End {
  limits(
    track: DraftTrack,
    index: number,
    placement: Draft<Placement>,
  ): readonly [least: number, most: number]
  /** @returns by how much what follows on its track moves, where it moves along */
  apply(placement: Draft<Placement>, moved: number): number
}

function trimmed(
  doc: Draft<Doc>,
  timelineId: string,
  id: string,
  by: number,
  following: Following,
  end: End,
): number {
  const timeline = timelineIn(doc, timelineId)
  const all = meant(timeline, id).map(({ track, index }) => ({
    track,
    index,
    placement: track.placements[index] as Draft<Placement>,
  }))
  const moved = within(
    by,
    all.map(({ track, index, placement }) => end.limits(track, index, placement)),
  )
  if (moved === 0 || all.length === 0) return 0
  const before = startsOf(timeline)
  for (const { track, index, placement } of all) {
    const pushed = end.apply(placement, moved)
    if (following === 'moves') shift(track, index + 1, pushed)
  }
  if (following === 'moves') followPairs(timeline, before)
  return moved
}

/**
 * Moves the beginning of a placement, and of what is paired with it, by frames: later ones show less, earlier ones more, as far
 * as the source and what stands before allow.
 * @returns by how many it moved
 */
export function trimStart(
  doc: Draft<Doc>,
  timelineId: string,
  id: string,
  by: number,
  following: Following,
): number {
  const timeline = timelineIn(doc, timelineId)
  return trimmed(doc, timelineId, id, by, following, {
    limits(track, index, placement) {
      const before = track.placements[index - 1]
      const room = placement.start - (before ? before.start + before.length : 0)
      const there = framesBefore(doc, timeline, placement) ?? Infinity
      return [-Math.min(there, following === 'stays' ? room : Infinity), placement.length - 1]
    },
    apply(placement, moved) {
      placement.sourceIn = sourceAfter(doc, timeline, placement, moved) as Draft<Rational>
      placement.length -= moved
      if (following === 'stays') placement.start += moved
      return -moved
    },
  })
}

/**
 * Moves the end of a placement, and of what is paired with it, by frames, as far as the source and what follows allow.
 * @returns by how many it moved
 */
export function trimEnd(
  doc: Draft<Doc>,
  timelineId: string,
  id: string,
  by: number,
  following: Following,
): number {
  const timeline = timelineIn(doc, timelineId)
  return trimmed(doc, timelineId, id, by, following, {
    limits(track, index, placement) {
      const next = track.placements[index + 1]
      const room = next ? next.start - placement.start - placement.length : Infinity
      const there = (framesAfter(doc, timeline, placement) ?? Infinity) - placement.length
      return [1 - placement.length, Math.min(there, following === 'stays' ? room : Infinity)]
    },
    apply(placement, moved) {
      placement.length += moved
      return moved
    },
  })
}

/** Makes a placement so long; what follows on its track moves along. */
export function lengthen(doc: Draft<Doc>, timelineId: string, id: string, frames: number): void {
  const timeline = timelineIn(doc, timelineId)
  const before = startsOf(timeline)
  for (const { track, index } of meant(timeline, id)) {
    const placement = track.placements[index] as Draft<Placement>
    const by = Math.max(1, frames) - placement.length
    placement.length += by
    shift(track, index + 1, by)
  }
  followPairs(timeline, before)
}

/**
 * Moves what is inside of a placement, and of what is paired with it, by frames of the timeline: positive shows later ones.
 * @returns by how many it moved
 */
export function slip(doc: Draft<Doc>, timelineId: string, id: string, by: number): number {
  const timeline = timelineIn(doc, timelineId)
  const all = meant(timeline, id)
  const moved = within(
    by,
    all.map(({ track, index }) => {
      const placement = track.placements[index] as Draft<Placement>
      const [before, after] = [framesBefore(doc, timeline, placement), framesAfter(doc, timeline, placement)]
      return [-(before ?? 0), after === null ? 0 : after - placement.length]
    }),
  )
  if (all.length === 0) return 0
  if (moved !== 0)
    for (const { track, index } of all) {
      const placement = track.placements[index] as Draft<Placement>
      placement.sourceIn = sourceAfter(doc, timeline, placement, moved) as Draft<Rational>
    }
  return moved
}
