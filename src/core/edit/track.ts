import type { Placement, Track, TrackKind } from './timeline'

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

interface PairedTracks {
  readonly tracks: readonly {
    readonly kind: string
    readonly locked: boolean
    placements: readonly PairedPlacement[]
  }[]
}
type PairedPlacement = Stretch & Pick<Placement, 'id' | 'pairId'> & { start: number }

/** Where everything stands, to be told apart from where it stands afterwards. */
export const startsOf = ({ tracks }: PairedTracks): ReadonlyMap<string, number> =>
  new Map(tracks.flatMap(({ placements }) => placements.map(({ id, start }) => [id, start] as const)))

/**
 * Lets what is paired with pictures that have moved follow them, each by as far as its picture went, on its own track or on another of
 * its kind where that is not free; where none is, it stays.
 */
export function followPairs(timeline: PairedTracks, before: ReadonlyMap<string, number>): void {
  const { tracks } = timeline
  const moved = new Map<string, number>()
  for (const { kind, placements } of tracks)
    if (kind === 'video')
      for (const { id, pairId, start } of placements) {
        const from = before.get(id)
        if (pairId !== null && from !== undefined) moved.set(pairId, start - from)
      }
  /** Those that are behind their picture, the first to go first: earlier ones make room for later ones. */
  const behind: Follower[] = []
  for (const from of tracks) {
    if (from.kind === 'video' || from.locked) continue
    for (const placement of from.placements) {
      const [was, by] = [before.get(placement.id), moved.get(placement.pairId ?? '')]
      if (was !== undefined && by !== undefined && placement.start !== was + by)
        behind.push({ from, placement, start: was + by })
    }
  }
  // Those that find no room stay, and take their room from who would have gone there: the others are tried again without them.
  const as = tracks.map(({ placements }) => placements)
  let going: readonly Follower[] = behind
  for (let left = follow(tracks, going); left.size > 0; left = follow(tracks, going)) {
    going = going.filter((follower) => !left.has(follower))
    tracks.forEach((track, i) => (track.placements = as[i] ?? []))
  }
}

interface Follower {
  readonly from: PairedTracks['tracks'][number]
  readonly placement: PairedPlacement
  /** Where its picture went. */
  readonly start: number
}

/** Puts followers where they go. @returns those that find no room */
function follow(tracks: PairedTracks['tracks'], going: readonly Follower[]): Set<Follower> {
  const left = new Set<Follower>()
  for (const { from, placement } of going)
    from.placements = from.placements.filter(({ id }) => id !== placement.id)
  for (const follower of going) {
    const { from, placement, start } = follower
    const isFree = ({ placements }: PairedTracks['tracks'][number]) =>
      start >= 0 &&
      placements.every(
        (other) => other.start + other.length <= start || other.start >= start + placement.length,
      )
    const kin = [from, ...tracks.filter(({ kind, locked }) => kind === from.kind && !locked)]
    const there = kin.find(isFree)
    if (there)
      there.placements = [...there.placements, { ...placement, start }].sort((a, b) => a.start - b.start)
    else left.add(follower)
  }
  return left
}
