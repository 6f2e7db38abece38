import type { Fault } from './fault'

/** Raw of cameras whose makers keep their layout to themselves, by the endings of their names. */
const endings =
  /\.(ari|arx|arw|braw|cr2|cr3|crm|crw|kdc|mef|mrw|nef|nrw|orf|pef|r3d|raf|rw2|sr2|srf|srw|x3f)$/i

/**
 * What is said of a maker's closed raw, by its name: it is not read, whatever its first bytes look like.
 * @returns null for any other file
 */
export function closedRaw(place: string): Fault | null {
  const [ending] = endings.exec(place) ?? []
  return ending
    ? {
        code: 'unsupported',
        message: `A camera's own raw (${ending.toLowerCase()}) is not read here. Develop or transcode it with the maker's software, and drop the result here.`,
      }
    : null
}
