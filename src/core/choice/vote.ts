import { z } from 'zod'
import type { Reading } from '../reading/reading'
import { type Picture, gatherPictures } from '../toll/picture'

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

/** Clips with the same picture vote together. */
export interface Bloc {
  readonly picture: Picture
  readonly ids: readonly string[]
  /** Running time in seconds. */
  readonly seconds: number
  /** Running time × priority. */
  readonly weight: number
}

export type Exclusion = 'still' | 'sound' | 'left-out' | 'not-read' | 'no-duration'

export interface Ballot {
  readonly blocs: readonly Bloc[]
  readonly excluded: readonly { readonly id: string; readonly why: Exclusion }[]
}

/** Gathers the votes: video clips only, by running time and priority. Stills and sound never decide a format. */
export function gatherVotes(electors: readonly Elector[]): Ballot {
  const excluded: { id: string; why: Exclusion }[] = []
  const voting: Elector[] = []
  for (const elector of electors) {
    const why = reasonToExclude(elector.reading, elector.priority)
    if (why) excluded.push({ id: elector.id, why })
    else voting.push(elector)
  }
  const blocs = gatherPictures(
    voting,
    ({ reading }) => reading!.video,
    (picture): { picture: Picture; ids: string[]; seconds: number; weight: number } => ({
      picture,
      ids: [],
      seconds: 0,
      weight: 0,
    }),
    (bloc, { id, reading, priority }) => {
      bloc.ids.push(id)
      bloc.seconds += reading!.durationSec!
      bloc.weight += reading!.durationSec! * factors[priority]
    },
  )
  return { blocs, excluded }
}

function reasonToExclude(reading: Reading | null, priority: Priority): Exclusion | null {
  if (!reading) return 'not-read'
  if (reading.kind === 'still') return 'still'
  if (reading.kind === 'audio' || !reading.video) return 'sound'
  if (priority === 'left-out') return 'left-out'
  if (!reading.video.rate) return 'not-read'
  return reading.durationSec ? null : 'no-duration'
}
