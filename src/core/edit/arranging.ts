import { present } from '../assert'
import { type Draft, asIs } from './draft'
import { timelineIn } from './operations'
import { type Unplaced, behind, cutAt } from './placing'
import type { Doc } from '../model/project'
import { type Placement, type Timeline, type Track, type TrackKind } from '../model/timeline'
import { followPictures, isFree, oneMoreTrack, openUp, startsOf } from './track'

/** What becomes of that which stands where something is put: it moves on, or what is covered of it goes. */
export type Putting = 'insert' | 'over'

type DraftTimeline = Draft<Timeline>
type DraftTrack = Draft<Track>
type DraftPlacement = Draft<Placement>

/** Gives the ids of what is made on the way. */
export type NewId = () => string

/** Makes room on a track between two frames: what lies there goes, what only reaches in is cut. */
function carve(
  doc: Draft<Doc>,
  timeline: DraftTimeline,
  track: DraftTrack,
  { from, to }: { readonly from: number; readonly to: number },
  newId: NewId,
): void {
  const placements = asIs(track).placements as readonly DraftPlacement[]
  track.placements = placements.flatMap((placement) => {
    const end = placement.start + placement.length
    if (end <= from || placement.start >= to) return [placement]
    const left = placement.start < from ? [{ ...placement, length: from - placement.start }] : []
    // What loses its beginning alone goes on under its own name.
    const id = left.length ? newId() : placement.id
    const right = end > to ? [behind(doc, timeline, placement, to, id)] : []
    return [...left, ...right]
  })
}

/** Puts placements on a track where there is room for them. */
function put(track: DraftTrack, placements: readonly DraftPlacement[]): void {
  const there = asIs(track).placements as readonly DraftPlacement[]
  track.placements = [...there, ...placements].sort((a, b) => a.start - b.start)
}

/** A new track of a kind: of pictures above the others, of sound below them. */
export const addTrack = (doc: Draft<Doc>, timelineId: string, kind: TrackKind, newId: NewId): string =>
  oneMoreTrack(timelineIn(doc, timelineId), kind, newId()).id

/** Takes a track out, with all that is on it. */
export function removeTrack(doc: Draft<Doc>, timelineId: string, trackId: string): void {
  const timeline = timelineIn(doc, timelineId)
  const lost = new Set(timeline.tracks.find(({ id }) => id === trackId)?.placements.map(({ id }) => id))
  timeline.tracks = timeline.tracks.filter(({ id }) => id !== trackId)
  timeline.accepted = timeline.accepted.filter(({ placementId }) => !lost.has(placementId))
}

/** Changes what a track is called, and whether it is shown, heard or can be edited. */
export function changeTrack(
  doc: Draft<Doc>,
  timelineId: string,
  trackId: string,
  set: Partial<Pick<Track, 'name' | 'hidden' | 'muted' | 'locked'>>,
): void {
  const track = timelineIn(doc, timelineId).tracks.find(({ id }) => id === trackId)
  if (track) Object.assign(track, set)
}

/** Changes what of a timeline is no picture: its sound, and how its frames are counted. */
export function changeTimeline(
  doc: Draft<Doc>,
  timelineId: string,
  set: Partial<Pick<Timeline, 'soundLayout' | 'sampleRate' | 'startTimecode' | 'dropFrame'>>,
): void {
  Object.assign(timelineIn(doc, timelineId), set)
}

/** Things to be placed together: each on a track of its kind. */
export interface PlacementsToPut {
  readonly kind: TrackKind
  readonly placement: Unplaced
  /** From where all of them are put, in frames. */
  readonly offset: number
  /** How many tracks of its kind above the lowest of them. */
  readonly above: number
}

/** The tracks of a kind that can be edited, and as many more as are wanted. */
function tracksFor(
  doc: Draft<Doc>,
  timeline: DraftTimeline,
  kind: TrackKind,
  index: number,
  newId: NewId,
): DraftTrack {
  const free = () => timeline.tracks.filter((track) => track.kind === kind && !track.locked)
  while (free().length <= index) addTrack(doc, timeline.id, kind, newId)
  return present(free()[index], 'a track that was made is there')
}

/**
 * Puts things at a frame, all as far apart as they are told: what stands there moves on, on every track that can be edited, or is
 * covered.
 */
export function putAt(
  doc: Draft<Doc>,
  timelineId: string,
  wanted: readonly PlacementsToPut[],
  { frame, putting }: { readonly frame: number; readonly putting: Putting },
  newId: NewId,
): void {
  const timeline = timelineIn(doc, timelineId)
  const end = wanted.reduce((most, { offset, placement }) => Math.max(most, offset + placement.length), 0)
  if (putting === 'insert') {
    const all = timeline.tracks.flatMap(({ placements }) => placements.map(({ id }) => id))
    cutAt(doc, timelineId, all, frame, newId)
    for (const track of timeline.tracks)
      if (!track.locked) track.placements = openUp(track.placements, frame, end)
  }
  for (const { kind, placement, offset, above } of wanted) {
    const track = tracksFor(doc, timeline, kind, above, newId)
    const start = frame + offset
    if (putting === 'over') carve(doc, timeline, track, { from: start, to: start + placement.length }, newId)
    put(track, [{ ...placement, start } as DraftPlacement])
  }
}

/** Puts things at the end of the first track of the first one's kind; what belongs to it begins with it. */
export function putAtEnd(
  doc: Draft<Doc>,
  timelineId: string,
  [lead, ...others]: readonly PlacementsToPut[],
  newId: NewId,
): void {
  if (!lead) return
  const track = tracksFor(doc, timelineIn(doc, timelineId), lead.kind, 0, newId)
  const start = track.placements.reduce(
    (end, placement) => Math.max(end, placement.start + placement.length),
    0,
  )
  put(track, [{ ...lead.placement, start } as DraftPlacement])
  putAbove(doc, timelineId, others, start, newId)
}

/** Puts things at a frame on the lowest tracks that are free there, over what is seen: a title, a sound beside another. */
export function putAbove(
  doc: Draft<Doc>,
  timelineId: string,
  wanted: readonly PlacementsToPut[],
  frame: number,
  newId: NewId,
): void {
  const timeline = timelineIn(doc, timelineId)
  for (const { kind, placement, offset } of wanted) {
    const stretch = { start: frame + offset, length: placement.length }
    const tracks = timeline.tracks.filter((track) => track.kind === kind)
    // Pictures must not come to lie under what is there already; sounds are all heard.
    const highest = kind === 'video' ? tracks.findLastIndex((track) => !isFree(track, stretch)) : -1
    const found = tracks.find((track, i) => i > highest && isFree(track, stretch) && !track.locked)
    const id = found?.id ?? addTrack(doc, timelineId, kind, newId)
    const track = present(
      timeline.tracks.find((track) => track.id === id),
      'a track that was made is there',
    )
    put(track, [{ ...placement, start: stretch.start } as DraftPlacement])
  }
}

/**
 * Moves placements by frames, and by tracks of their kind, up where positive; what they come to lie on is covered, as far as it is
 * not moved itself. Nothing moves before the first frame, off the tracks, or on a track that is locked. What is linked with them and
 * stays is linked with them no more.
 * @param kindThatClimbs tracks of the other kind are kept
 * @returns whether anything moved
 */
export function movePlacements(
  doc: Draft<Doc>,
  timelineId: string,
  ids: ReadonlySet<string>,
  {
    byFrames,
    byTracks,
    kindThatClimbs = 'video',
  }: { readonly byFrames: number; readonly byTracks: number; readonly kindThatClimbs?: TrackKind },
  newId: NewId,
): boolean {
  const timeline = timelineIn(doc, timelineId)
  const moving: { from: DraftTrack; to: DraftTrack; placement: DraftPlacement }[] = []
  for (const from of timeline.tracks) {
    if (from.locked) continue
    const kin = timeline.tracks.filter(({ kind }) => kind === from.kind)
    const to = kin[kin.indexOf(from) + (from.kind === kindThatClimbs ? byTracks : 0)]
    for (const placement of asIs(from).placements)
      if (ids.has(placement.id)) {
        if (!to || to.locked) return false
        moving.push({ from, to, placement: placement })
      }
  }
  const earliest = Math.min(...moving.map(({ placement }) => placement.start))
  const by = Math.max(byFrames, -earliest)
  if (moving.length === 0 || (by === 0 && byTracks === 0)) return false
  const alone = by === 0 ? new Map<string, string>() : movedAlone(timeline, moving, newId)
  for (const from of new Set(moving.map(({ from }) => from)))
    from.placements = (asIs(from).placements as readonly DraftPlacement[]).filter(({ id }) => !ids.has(id))
  for (const { to, placement } of moving) {
    const start = placement.start + by
    carve(doc, timeline, to, { from: start, to: start + placement.length }, newId)
    const { pairId } = placement
    put(to, [{ ...placement, start, pairId: pairId === null ? null : (alone.get(pairId) ?? pairId) }])
  }
  return true
}

/** New names for the links of what moves away from something that it is linked with: from then on it is linked without that. */
function movedAlone(
  timeline: DraftTimeline,
  moving: readonly { readonly placement: DraftPlacement }[],
  newId: NewId,
): Map<string, string> {
  const moves = new Set(moving.map(({ placement }) => placement.id))
  const links = new Set(moving.flatMap(({ placement }) => placement.pairId ?? []))
  if (links.size === 0) return new Map()
  const left = asIs(timeline).tracks.flatMap(({ placements }) =>
    placements.flatMap(({ id, pairId }) =>
      pairId !== null && links.has(pairId) && !moves.has(id) ? pairId : [],
    ),
  )
  return new Map([...new Set(left)].map((link) => [link, newId()]))
}

/** Closes every gap of a track, or of all that can be edited. */
export function closeGaps(doc: Draft<Doc>, timelineId: string, trackId: string | null): void {
  const timeline = timelineIn(doc, timelineId)
  const before = startsOf(asIs(timeline))
  for (const track of timeline.tracks) {
    if (track.locked || (trackId !== null && track.id !== trackId)) continue
    let end = 0
    for (const placement of track.placements) {
      placement.start = end
      end += placement.length
    }
  }
  followPictures(timeline, before)
}

/** Changes how placements sound. */
export function changeSound(
  doc: Draft<Doc>,
  timelineId: string,
  ids: ReadonlySet<string>,
  set: Partial<Pick<Placement, 'gain' | 'channels'>>,
): void {
  for (const track of timelineIn(doc, timelineId).tracks)
    for (const placement of track.placements)
      if (ids.has(placement.id)) Object.assign(placement, structuredClone(set))
}

/** Placements as they can be put again elsewhere: with their treatments, as far apart as they stand. */
export function copied(timeline: Timeline, ids: ReadonlySet<string>, newId: NewId): PlacementsToPut[] {
  const pairs = new Map<string, string>()
  const pairOf = (pairId: string | null) => {
    if (pairId === null) return null
    const known = pairs.get(pairId) ?? newId()
    pairs.set(pairId, known)
    return known
  }
  const taken = timeline.tracks.flatMap((track) => {
    const index = timeline.tracks.filter(({ kind }) => kind === track.kind).indexOf(track)
    return track.placements
      .filter(({ id }) => ids.has(id))
      .map((placement) => ({ kind: track.kind, index, placement }))
  })
  const first = Math.min(...taken.map(({ placement }) => placement.start))
  const lowest = (kind: TrackKind) =>
    Math.min(...taken.filter((held) => held.kind === kind).map(({ index }) => index))
  return taken.map(({ kind, index, placement: { start, ...placement } }) => ({
    kind,
    above: index - lowest(kind),
    offset: start - first,
    placement: { ...placement, id: newId(), pairId: pairOf(placement.pairId) },
  }))
}
