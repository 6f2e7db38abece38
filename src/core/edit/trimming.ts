import { framesBefore, framesLeft, sourceTimeAfter } from '../motion/shown'
import { type Rational, rational } from '../rational/rational'
import { type Draft, asIs, readable } from './draft'
import { timelineIn } from './operations'
import type { Doc } from '../model/project'
import { runningOf, timingOfPlacement } from '../plan/running'
import type { Placement, Timeline, Track } from '../model/timeline'
import { followPictures, startsOf } from './track'

/** What becomes of that which follows: it stays where it is, or moves along so that nothing opens and nothing is covered. */
export type Following = 'stays' | 'moves'

type DraftTrack = Draft<Track>

/** A placement on its track. */
interface Member {
  readonly track: DraftTrack
  readonly index: number
  readonly placement: Draft<Placement>
}

/** A placement and what is linked with it, in their order on their tracks; none where its own track is locked. */
function linkedWith(timeline: Draft<Timeline>, id: string): Member[] {
  const { tracks } = asIs(timeline)
  const own = tracks.find(({ placements }) => placements.some((placement) => placement.id === id))
  if (!own || own.locked) return []
  const pairId = own.placements.find((placement) => placement.id === id)?.pairId ?? null
  return tracks.flatMap(({ placements }, at) =>
    placements.flatMap((placement, index) => {
      const isMeant = placement.id === id || (pairId !== null && placement.pairId === pairId)
      const track = isMeant ? timeline.tracks[at] : undefined
      const written = track?.placements[index]
      return track && written ? [{ track, index, placement: written }] : []
    }),
  )
}

/**
 * The placements that are trimmed together at an end: one, and what is linked with it, on tracks that are not locked; of several on one
 * track the one at that end.
 */
function meant(timeline: Draft<Timeline>, id: string, at: 'start' | 'end'): Member[] {
  const byTrack = new Map<string, Member>()
  for (const member of linkedWith(timeline, id)) {
    const { track, placement } = member
    if (track.locked || byTrack.get(track.id)?.placement.id === id) continue
    if (at === 'end' || placement.id === id || !byTrack.has(track.id)) byTrack.set(track.id, member)
  }
  return [...byTrack.values()]
}

/** The moment of its source at which a placement stands so many frames after (or before) its first. */
function sourceAfter(
  doc: Draft<Doc>,
  timeline: Draft<Timeline>,
  placement: Draft<Placement>,
  frames: number,
): Rational {
  const [frozen, plain] = [readable(doc), timeline as Timeline]
  if (!plain.rate) return placement.sourceIn
  const running = runningOf(frozen, plain, placement)
  const moment = sourceTimeAfter(running, timingOfPlacement(frozen, placement), plain.rate, frames)
  // What is nearest to the beginning may be told a little before it.
  return moment.num < 0 ? rational(0) : moment
}

/** How many frames there are before a placement's first in its source; null where its source has no beginning. */
function framesAhead(doc: Draft<Doc>, timeline: Draft<Timeline>, placement: Draft<Placement>): number | null {
  const [frozen, plain] = [readable(doc), timeline as Timeline]
  if (!plain.rate) return 0
  const running = runningOf(frozen, plain, placement)
  return framesBefore(running, timingOfPlacement(frozen, placement), plain.rate)
}

/** How many frames a placement can have from its first on; null for what never ends. */
function framesAfter(doc: Draft<Doc>, timeline: Draft<Timeline>, placement: Draft<Placement>): number | null {
  const [frozen, plain] = [readable(doc), timeline as Timeline]
  if (!plain.rate) return placement.length
  const running = runningOf(frozen, plain, placement)
  return framesLeft(running, timingOfPlacement(frozen, placement), plain.rate)
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
  readonly at: 'start' | 'end'
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
  { by, following }: { readonly by: number; readonly following: Following },
  end: End,
): number {
  const timeline = timelineIn(doc, timelineId)
  const all = meant(timeline, id, end.at)
  const moved = within(
    by,
    all.map(({ track, index, placement }) => end.limits(track, index, placement)),
  )
  if (moved === 0 || all.length === 0) return 0
  const before = following === 'moves' ? startsOf(asIs(timeline)) : null
  for (const { track, index, placement } of all) {
    const pushed = end.apply(placement, moved)
    if (following === 'moves') shift(track, index + 1, pushed)
  }
  if (before) followPictures(timeline, before)
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
  return trimmed(
    doc,
    timelineId,
    id,
    { by, following },
    {
      at: 'start',
      limits(track, index, placement) {
        const before = track.placements[index - 1]
        const room = placement.start - (before ? before.start + before.length : 0)
        const there = framesAhead(doc, timeline, placement) ?? Infinity
        return [-Math.min(there, following === 'stays' ? room : Infinity), placement.length - 1]
      },
      apply(placement, moved) {
        placement.sourceIn = sourceAfter(doc, timeline, placement, moved)
        placement.length -= moved
        if (following === 'stays') placement.start += moved
        return -moved
      },
    },
  )
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
  return trimmed(
    doc,
    timelineId,
    id,
    { by, following },
    {
      at: 'end',
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
    },
  )
}

/** Makes a placement so long, and what is linked with it longer or shorter by as much; what follows on its track moves along. */
export function lengthen(doc: Draft<Doc>, timelineId: string, id: string, frames: number): void {
  const timeline = timelineIn(doc, timelineId)
  const before = startsOf(asIs(timeline))
  const all = meant(timeline, id, 'end')
  const member = all.find(({ placement }) => placement.id === id)
  const by = member ? Math.max(1, frames) - member.placement.length : 0
  if (by === 0) return
  for (const { track, index, placement } of all) {
    const length = Math.max(1, placement.length + by)
    shift(track, index + 1, length - placement.length)
    placement.length = length
  }
  followPictures(timeline, before)
}

/** Makes placements so short, each by its id, but on locked tracks; what follows on their tracks moves up. */
export function shorten(doc: Draft<Doc>, timelineId: string, lengths: ReadonlyMap<string, number>): void {
  const timeline = timelineIn(doc, timelineId)
  const before = startsOf(asIs(timeline))
  for (const track of timeline.tracks) {
    if (track.locked) continue
    let by = 0
    for (const placement of track.placements) {
      if (by > 0) placement.start -= by
      const length = lengths.get(placement.id)
      if (length === undefined) continue
      by += placement.length - length
      placement.length = length
    }
  }
  followPictures(timeline, before)
}

/**
 * Moves what is inside of a placement, and of what is linked with it, by frames of the timeline: positive shows later ones. Where
 * something that is linked with it stands on a locked track, nothing moves.
 * @returns by how many it moved
 */
export function slip(doc: Draft<Doc>, timelineId: string, id: string, by: number): number {
  const timeline = timelineIn(doc, timelineId)
  const all = linkedWith(timeline, id)
  if (all.length === 0 || all.some(({ track }) => track.locked)) return 0
  const moved = within(
    by,
    all.map(({ placement }) => {
      const [before, after] = [framesAhead(doc, timeline, placement), framesAfter(doc, timeline, placement)]
      return [-(before ?? 0), after === null ? 0 : after - placement.length]
    }),
  )
  if (moved !== 0)
    for (const { placement } of all) placement.sourceIn = sourceAfter(doc, timeline, placement, moved)
  return moved
}
