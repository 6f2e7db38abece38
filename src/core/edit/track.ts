import { present } from '../assert'
import type { Draft } from './draft'
import type { Placement, Timeline, Track, TrackKind } from '../model/timeline'

/** A name for one more track of a kind that no other has: `V3`, `A2`. */
export function freeTrackName(tracks: readonly Pick<Track, 'kind' | 'name'>[], kind: TrackKind): string {
  const names = new Set(tracks.map(({ name }) => name))
  const letter = kind === 'video' ? 'V' : 'A'
  let number = tracks.filter((track) => track.kind === kind).length + 1
  while (names.has(`${letter}${number}`)) number++
  return `${letter}${number}`
}

type Stretch = Pick<Placement, 'start' | 'length'>

/** Closes up what is left of a track where placements were taken out: each gap they leave is closed, others stay. */
export const closeUp = <P extends Stretch>(staying: readonly P[], leaving: readonly Stretch[]): P[] =>
  staying.map((placement) => {
    const before = leaving.filter(({ start }) => start < placement.start)
    return { ...placement, start: placement.start - before.reduce((sum, { length }) => sum + length, 0) }
  })

/** Opens a track at a frame: what begins there or later moves on by a length. */
export const openUp = <P extends Stretch>(placements: readonly P[], frame: number, length: number): P[] =>
  placements.map((placement) =>
    placement.start >= frame ? { ...placement, start: placement.start + length } : placement,
  )

type DraftTimeline = Draft<Timeline>
type DraftTrack = DraftTimeline['tracks'][number]
type DraftPlacement = DraftTrack['placements'][number]

/** Where everything stands, to be told apart from where it stands afterwards. */
export const startsOf = ({ tracks }: Pick<Timeline, 'tracks'>): ReadonlyMap<string, number> =>
  new Map(tracks.flatMap(({ placements }) => placements.map(({ id, start }) => [id, start] as const)))

/**
 * Lets sounds that are linked with pictures which have moved follow them, each by as far as its picture went: on its own track, on
 * another of its kind where that is not free, or on a new one. What would come to stand before the first frame loses that much of its
 * beginning. On a locked track nothing moves: such a sound is linked no more once it is out of step.
 */
export function followPictures(timeline: DraftTimeline, before: ReadonlyMap<string, number>): void {
  const { tracks } = timeline
  const moved = new Map<string, number>()
  for (const { kind, placements } of tracks)
    if (kind === 'video')
      for (const { id, pairId, start } of placements) {
        const from = before.get(id)
        if (pairId !== null && from !== undefined) moved.set(pairId, start - from)
      }
  const behind: Follower[] = []
  for (const from of tracks) {
    if (from.kind === 'video' || from.locked) continue
    for (const placement of from.placements) {
      const [was, by] = [before.get(placement.id), moved.get(placement.pairId ?? '')]
      if (was !== undefined && by !== undefined && placement.start !== was + by)
        behind.push({ from, placement, start: was + by })
    }
  }
  for (const { from, placement } of behind)
    from.placements = from.placements.filter(({ id }) => id !== placement.id)
  for (const { from, placement, start } of behind) {
    const cut = Math.max(0, -start)
    if (cut >= placement.length) continue
    const going = { ...placement, start: start + cut, length: placement.length - cut }
    const kin = [from, ...tracks.filter(({ kind, locked }) => kind === from.kind && !locked)]
    const there = kin.find((track) => isFree(track, going)) ?? oneMoreTrack(timeline, from.kind)
    there.placements = [...there.placements, going].sort((a, b) => a.start - b.start)
  }
}

interface Follower {
  readonly from: DraftTrack
  readonly placement: DraftPlacement
  /** Where it stands beside its picture. */
  readonly start: number
}

/** Whether nothing on a track shares a frame with a stretch. */
export const isFree = (
  { placements }: { readonly placements: readonly Stretch[] },
  { start, length }: Stretch,
): boolean =>
  placements.every((other) => other.start + other.length <= start || other.start >= start + length)

/** One more track of a kind: of pictures above the others, of sound below them; its id follows from its place. */
export function oneMoreTrack(timeline: DraftTimeline, kind: TrackKind, id?: string): DraftTrack {
  const taken = new Set(timeline.tracks.map((track) => track.id))
  const count = timeline.tracks.filter((track) => track.kind === kind).length
  let own = id ?? `${timeline.id}-${kind === 'video' ? 'v' : 'a'}${count + 1}`
  while (taken.has(own)) own = `${own}+`
  const name = freeTrackName(timeline.tracks, kind)
  const track: DraftTrack = {
    id: own,
    kind,
    name,
    hidden: false,
    muted: false,
    locked: false,
    placements: [],
  }
  const after = timeline.tracks.findLastIndex((other) => other.kind === kind)
  const at = after >= 0 ? after + 1 : kind === 'video' ? 0 : timeline.tracks.length
  timeline.tracks.splice(at, 0, track)
  return present(timeline.tracks[at], 'a track that was put in is there')
}
