import type { Format } from '../format/format'
import type { Reading } from '../reading/reading'
import { type Toll, grades } from '../toll/charge'
import { type Picture, pictureKey, pictureOf } from '../toll/picture'
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
export function gatherPayers(clips: readonly { id: string; reading: Reading | null }[]): Payers[] {
  const payers = new Map<string, { picture: Picture; ids: string[] }>()
  for (const { id, reading } of clips) {
    if (!reading?.video) continue
    const picture = pictureOf(reading.video)
    const key = pictureKey(picture)
    const entry = payers.get(key)
    if (entry) entry.ids.push(id)
    else payers.set(key, { picture, ids: [id] })
  }
  return [...payers.values()]
}

/** What each pays in a format, the dearest first. Equal pictures are priced once. */
export const payIn = (payers: readonly Payers[], format: Format, table: TollTable): Payment[] => {
  const row = table.at(format)
  return payers
    .map((payer) => ({ ...payer, toll: row.of(payer.picture) }))
    .sort((a, b) => grades.indexOf(b.toll.grade) - grades.indexOf(a.toll.grade) || b.toll.loss - a.toll.loss)
}
