import { type Format, formatKey } from '../format/format'
import type { Toll } from './charge'
import { type Picture, pictureKey } from '../picture/picture'
import type { Weights } from './policy'
import { tollOf } from './toll'

/** What clips pay in one format when nobody has treated them. */
export interface FormatTolls {
  /** Equal pictures are priced once. */
  of(picture: Picture): Toll
}

/** Tolls of untreated clips, every distinct picture priced once in every distinct format. */
export interface TollTable {
  readonly weights: Weights
  at(format: Format): FormatTolls
}

/** Rows beyond these are forgotten, the oldest first: trying formats for hours must not fill the memory. */
const mostRows = 400

/** An empty table under some weights: what is asked of it is worked out, and kept. */
export function tollTable(weights: Weights): TollTable {
  const rows = new Map<string, FormatTolls>()
  return {
    weights,
    at(format) {
      const key = formatKey(format)
      let row = rows.get(key)
      if (!row) {
        for (const oldest of rows.keys()) if (rows.size >= mostRows) rows.delete(oldest)
        rows.set(key, (row = rowOf(format, weights)))
      }
      return row
    },
  }
}

function rowOf(format: Format, weights: Weights): FormatTolls {
  const tolls = new Map<string, Toll>()
  return {
    of(picture) {
      const key = pictureKey(picture)
      let toll = tolls.get(key)
      if (!toll) tolls.set(key, (toll = tollOf(picture, format, undefined, weights)))
      return toll
    },
  }
}
