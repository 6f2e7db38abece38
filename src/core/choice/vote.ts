import * as z from 'zod'
import type { Reading, VideoFacts } from '../reading/reading'
import { type Picture, gatherPictures } from '../picture/picture'
import type { Policy } from '../toll/policy'
import { isFilmedOtherwise } from './rates'
import { holds, totalWeight } from './weight'
import type { Bloc } from './bloc'

/** How much a clip counts when the format is chosen. */
export const Priority = z.enum(['normal', 'key', 'left-out'])
export type Priority = z.infer<typeof Priority>

const factors: Record<Priority, number> = { normal: 1, key: 3, 'left-out': 0 }

/** A clip as far as voting needs it: its reading as corrected. */
export interface Elector {
  readonly id: string
  readonly reading: Reading | null
  readonly priority: Priority
}

export type Exclusion = 'still' | 'sound' | 'left-out' | 'not-read' | 'no-duration'

export interface Ballot {
  readonly blocs: readonly Bloc[]
  readonly excluded: readonly { readonly id: string; readonly why: Exclusion }[]
}

/** An elector whose vote counts, with what it counts for. */
interface Voter {
  readonly id: string
  readonly video: VideoFacts
  readonly seconds: number
  readonly weight: number
}

/** Gathers the votes: video clips only, by running time and priority. Stills and sound never decide a format. */
export function gatherVotes(electors: readonly Elector[]): Ballot {
  const excluded: { id: string; why: Exclusion }[] = []
  const voting: Voter[] = []
  for (const elector of electors) {
    const voter = voterOf(elector)
    if (typeof voter === 'string') excluded.push({ id: elector.id, why: voter })
    else voting.push(voter)
  }
  const blocs = gatherPictures(
    voting,
    ({ video }) => video,
    (picture): { picture: Picture; ids: string[]; seconds: number; weight: number } => ({
      picture,
      ids: [],
      seconds: 0,
      weight: 0,
    }),
    (bloc, { id, seconds, weight }) => {
      bloc.ids.push(id)
      bloc.seconds += seconds
      bloc.weight += weight
    },
  )
  return { blocs, excluded }
}

/**
 * Footage as it counts: hours of a watching camera of which seconds are used, and what was filmed for slow motion, decide less than what is
 * shown as it was filmed, as long as there is some of that.
 */
export function countedBlocs(blocs: readonly Bloc[], { shares }: Policy): readonly Bloc[] {
  const isOther = ({ picture }: Bloc) => picture.rate !== null && isFilmedOtherwise(picture.rate)
  const others = blocs.filter(isOther)
  if (others.length === 0) return blocs
  if (!holds(totalWeight(blocs) - totalWeight(others), totalWeight(blocs), shares.usualRates)) return blocs
  return blocs.map((bloc) =>
    isOther(bloc)
      ? { ...bloc, weight: bloc.weight * shares.filmedOtherwise, frameForFrame: shares.filmedOtherwise }
      : bloc,
  )
}

function voterOf({ id, reading, priority }: Elector): Voter | Exclusion {
  if (!reading) return 'not-read'
  if (reading.kind === 'still') return 'still'
  if (reading.kind === 'audio' || !reading.video) return 'sound'
  if (priority === 'left-out') return 'left-out'
  if (!reading.video.rate) return 'not-read'
  const { video, durationSec: seconds } = reading
  return seconds ? { id, video, seconds, weight: seconds * factors[priority] } : 'no-duration'
}
