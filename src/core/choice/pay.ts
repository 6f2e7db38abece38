import { grades } from '../toll/grade'
import type { Format } from '../format/format'
import type { Reading } from '../reading/reading'
import { type Toll } from '../toll/charge'
import { type Picture, gatherPictures } from '../picture/picture'
import type { TollTable } from '../toll/table'

/** Clips that pay the same in every format. */
export interface Payers {
  readonly picture: Picture
  readonly ids: readonly string[]
}

/** What some clips pay in a format. */
export interface Payment extends Payers {
  readonly toll: Toll
}

/** Gathers clips with a picture, stills included: they do not vote, but they pay. */
export const gatherPayers = (clips: readonly { id: string; reading: Reading | null }[]): Payers[] =>
  gatherPictures(
    clips,
    ({ reading }) => reading?.video ?? null,
    (picture): { picture: Picture; ids: string[] } => ({ picture, ids: [] }),
    (payers, { id }) => payers.ids.push(id),
  )

/** What each pays in a format, the dearest first. Equal pictures are priced once. */
export const payIn = (payers: readonly Payers[], format: Format, table: TollTable): Payment[] => {
  const row = table.at(format)
  return payers
    .map((payer) => ({ ...payer, toll: row.of(payer.picture) }))
    .sort((a, b) => grades.indexOf(b.toll.grade) - grades.indexOf(a.toll.grade) || b.toll.loss - a.toll.loss)
}
