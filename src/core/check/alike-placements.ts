import type { Doc } from '../model/project'
import { type SettledPlacement, settling } from '../plan/running'
import type { Placement, Timeline } from '../model/timeline'
import type { Toll } from '../toll/charge'
import type { Check } from './check'
import { knownKey } from './proposals'

/** Placements that stand alike, are treated alike and of which the same is known, and so pay the same and are helped by the same: a film has many placements, and few of these. */
export interface AlikePlacements {
  readonly settled: SettledPlacement
  readonly toll: Toll
  /** One of them. */
  readonly first: Placement
  /** Where they are among what was found, ascending. */
  readonly places: readonly number[]
  readonly count: number
  readonly frames: number
  /** Frames of the longest. */
  readonly longest: number
}

/** What was found on a timeline, by what stands alike. */
export function alikePlacementsOf(doc: Doc, timeline: Timeline, check: Check): AlikePlacements[] {
  const settle = settling(doc, timeline, check.format)
  type Growing = { -readonly [Part in keyof AlikePlacements]: AlikePlacements[Part] } & { places: number[] }
  const known = new Map<SettledPlacement, Map<string, Growing>>()
  for (const [place, { placement, toll }] of check.findings.entries()) {
    const settled = settle(placement)
    const { length } = placement
    const alike = known.get(settled) ?? new Map<string, Growing>()
    known.set(settled, alike)
    const key = knownKey(doc, placement)
    const standing = alike.get(key)
    if (!standing) {
      alike.set(key, {
        settled,
        toll,
        first: placement,
        places: [place],
        count: 1,
        frames: length,
        longest: length,
      })
      continue
    }
    standing.places.push(place)
    standing.count++
    standing.frames += length
    standing.longest = Math.max(standing.longest, length)
  }
  return [...known.values()].flatMap((alike) => [...alike.values()])
}

/** The places of all that stand in one of these ways, ascending. */
export const placesOf = (standings: Iterable<AlikePlacements>): Int32Array =>
  Int32Array.from([...standings].flatMap(({ places }) => places)).sort()

/** What a whole timeline comes to. */
export interface Whole {
  /** Share of frames that run untouched; 1 of an empty timeline. */
  readonly untouched: number
  readonly severe: number
  readonly heavy: number
  /** Loss over the running time. */
  readonly loss: number
}

/** What so many pictures, of so many frames together, come to that pay a toll each. */
export function wholeOf(
  paid: Iterable<{ readonly toll: Toll; readonly count: number; readonly frames: number }>,
): Whole {
  const counts = { severe: 0, heavy: 0 }
  let [all, untouched, loss] = [0, 0, 0]
  for (const { toll, count, frames } of paid) {
    if (toll.grade === 'severe' || toll.grade === 'heavy') counts[toll.grade] += count
    all += frames
    if (toll.untouched) untouched += frames
    loss += toll.loss * frames
  }
  return { ...counts, untouched: all ? untouched / all : 1, loss: all ? loss / all : 0 }
}
