/** A stretch of a file, both ends included. */
export interface ByteRange {
  readonly first: number
  readonly last: number
}

/**
 * The stretch that a Range header asks for (RFC 9110 §14.1.2), of a file of `size` bytes.
 * @returns null where the whole is to be sent (no header, another unit, several ranges), `unsatisfiable` where it asks for
 * what is not there. More than there is from the end is the whole.
 */
export function byteRangeOf(
  header: string | null | undefined,
  size: number,
): ByteRange | null | 'unsatisfiable' {
  const match = /^bytes=\s*(\d*)\s*-\s*(\d*)\s*$/i.exec(header ?? '')
  if (!match || (match[1] === '' && match[2] === '')) return null
  const stated = (digits = '') => (digits === '' ? null : Number(digits))
  const [from, to] = [stated(match[1]), stated(match[2])]
  if (from === null) {
    if (to === 0 || size === 0) return 'unsatisfiable'
    return { first: Math.max(0, size - (to ?? 0)), last: size - 1 }
  }
  if (to !== null && to < from) return null
  if (from >= size) return 'unsatisfiable'
  return { first: from, last: Math.min(size - 1, to ?? size - 1) }
}
