/**
 * Both ends of several files in one answer, since a card of thousands of small files would be thousands of requests: for each in turn
 * three numbers of 32 bits, the higher byte first – a status (200, 404, 409), the bytes of the head, those of the tail –, then these
 * bytes.
 */

/** Bytes at each end; a file up to twice as long comes whole. */
export const endLength = 64 * 1024
/** Ends of this many files are sent in one answer, at most. */
export const mostTogether = 48

/** Where the tail of a file begins, and how long its head is. */
export function endsOfSize(size: number): { readonly headLength: number; readonly tailStart: number } {
  const headLength = Math.min(endLength, size)
  return { headLength, tailStart: Math.max(headLength, size - endLength) }
}

/** The numbers before the ends of one file. */
export function endsHead(status: number, headLength: number, tailLength: number): Uint8Array<ArrayBuffer> {
  const view = new DataView(new ArrayBuffer(12))
  ;[status, headLength, tailLength].forEach((value, i) => view.setUint32(4 * i, value))
  return new Uint8Array(view.buffer)
}

/** The bytes at both ends of a file; of a small one they are all of it. */
export interface Ends {
  readonly head: Uint8Array
  readonly tail: Uint8Array
}

/** The ends of so many files out of an answer; null for each whose status is not 200. @throws RangeError where the answer is shorter than it says */
export function readEnds(bytes: Uint8Array, count: number): (Ends | null)[] {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
  let offset = 0
  const take = (length: number) => {
    if (offset + length > bytes.length)
      throw new RangeError('The answer ends before the files that it names.')
    return bytes.subarray(offset, (offset += length))
  }
  return Array.from({ length: count }, () => {
    const [status, headLength, tailLength] = [0, 4, 8].map((at) => view.getUint32(offset + at)) as [
      number,
      number,
      number,
    ]
    offset += 12
    const ends = { head: take(headLength), tail: take(tailLength) }
    return status === 200 ? ends : null
  })
}
