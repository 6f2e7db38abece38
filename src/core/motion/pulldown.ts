import type { Phase } from '../treatment/treatment'

/**
 * 2:3 pulldown: of four film frames A B C D five frames are made, AA BB BC CD DD, first field and second field. The phase says
 * at which of the five places the first frame stands.
 */
const letters = [
  [0, 0],
  [1, 1],
  [1, 2],
  [2, 3],
  [3, 3],
] as const
const [filmFrames, places] = [4, 5]

/** Two frames, one for each field of a frame in the order of its fields. */
export interface FieldPair {
  readonly first: number
  readonly second: number
}

const lettersAt = (place: number): readonly [number, number] => letters[place as Phase]

/** Frame `m` of a film pulled down: the film frames that its fields carry, the one on at the start counted as 0. */
export function pulldownFrame(m: number, phase: Phase): FieldPair {
  const group = Math.floor((m + phase) / places)
  const [first, second] = lettersAt(m + phase - group * places)
  const start = filmFrames * group - lettersAt(phase)[0]
  return { first: start + first, second: start + second }
}

/** Where a film frame lies in a pulled-down clip: the frames whose first and whose second field carry it. */
export interface FilmFrame extends FieldPair {
  /** Of three fields the one that repeats another, in the frame where it stands; null where there are two. */
  readonly third: { readonly frame: number; readonly field: 'first' | 'second' } | null
}

/** Frame `m` of the film that a pulled-down clip holds. */
export function filmFrame(m: number, phase: Phase): FilmFrame {
  const counted = m + lettersAt(phase)[0]
  const group = Math.floor(counted / filmFrames)
  const start = places * group - phase
  switch (counted - group * filmFrames) {
    case 0:
      return { first: start, second: start, third: null }
    case 1:
      return { first: start + 1, second: start + 1, third: { frame: start + 2, field: 'first' } }
    case 2:
      // C begins on the second field of BC and ends on the first of CD.
      return { first: start + 3, second: start + 2, third: null }
    default:
      return { first: start + 4, second: start + 4, third: { frame: start + 3, field: 'second' } }
  }
}
