import { byteAt } from '../bytes/byte-at'
import { concat } from '../bytes/concat'
import { ivfFrames } from './ivf'

/** What one picture takes of an AV1 stream, whole. */
export interface TemporalUnit {
  /** Where it lies in the stretch, with what the file puts in front of it. */
  readonly at: number
  readonly end: number
  /** Its units, each with its size, without the delimiter: as other wrappers hold it. */
  bytes(): Uint8Array
}

/** How AV1 lies in a file of its own: in IVF, or as a stream of units, each with its size or sizes in front (AV1 specification §5.2, annex B). */
export type Av1File = 'IVF' | 'units' | 'sized units'

const [sequenceHeader, delimiter, frameHeader, frame, padding] = [1, 2, 3, 6, 15]
const typeOf = (header: number) => (header >> 3) & 15
const hasSize = (header: number) => (header & 2) !== 0
const headerLength = (header: number) => (header & 4 ? 2 : 1)

/** A size in seven bits a byte, the least first (`leb128`). @returns null where none ends within eight bytes */
function sizeAt(bytes: Uint8Array, at: number): { size: number; next: number } | null {
  let size = 0
  for (let i = 0; i < 8 && at + i < bytes.length; i++) {
    const byte = byteAt(bytes, at + i)
    size += (byte & 0x7f) * 2 ** (7 * i)
    if (!(byte & 0x80)) return { size, next: at + i + 1 }
  }
  return null
}

function sized(size: number): Uint8Array {
  const bytes: number[] = []
  for (let left = size; bytes.length === 0 || left > 0; left = Math.floor(left / 128))
    bytes.push((left % 128) | (left >= 128 ? 0x80 : 0))
  return Uint8Array.from(bytes)
}

/** A unit of a stream of units: where it begins, its type, and where it ends. */
interface Unit {
  readonly at: number
  readonly type: number
  readonly end: number
}

/** Units one after the other, each with its size; up to the first that is not whole. */
function* unitsOf(bytes: Uint8Array, from: number, end: number): Generator<Unit> {
  for (let at = from; at < end;) {
    const header = byteAt(bytes, at)
    const size = hasSize(header) ? sizeAt(bytes, at + headerLength(header)) : null
    if (header & 0x80 || !size || size.next + size.size > end) return
    yield { at, type: typeOf(header), end: size.next + size.size }
    at = size.next + size.size
  }
}

/** Units of a temporal unit of annex B: frame units with their sizes, in them units with theirs. Null where the sizes do not add up. */
function unitsOfSized(bytes: Uint8Array, from: number, end: number): { at: number; end: number }[] | null {
  const units: { at: number; end: number }[] = []
  for (let at = from; at < end;) {
    const outer = sizeAt(bytes, at)
    if (!outer || outer.next + outer.size > end) return null
    at = outer.next
    while (at < outer.next + outer.size) {
      const inner = sizeAt(bytes, at)
      if (!inner || inner.size === 0 || inner.next + inner.size > outer.next + outer.size) return null
      if (byteAt(bytes, inner.next) & 0x80) return null
      units.push({ at: inner.next, end: inner.next + inner.size })
      at = inner.next + inner.size
    }
  }
  return units
}

/** A unit with its size behind its header, whether it had it or not. */
function withSize(unit: Uint8Array): Uint8Array {
  const header = byteAt(unit, 0)
  if (hasSize(header)) return unit
  const length = headerLength(header)
  const head = unit.slice(0, length)
  head[0] = header | 2
  return concat([head, sized(unit.length - length), unit.subarray(length)])
}

/** How AV1 lies in a file that begins so; null where it is none. */
export function av1FileOf(head: Uint8Array): Av1File | null {
  if (String.fromCharCode(...head.subarray(0, 4)) === 'DKIF')
    return String.fromCharCode(...head.subarray(8, 12)) === 'AV01' ? 'IVF' : null
  // A delimiter is empty; the sequence header follows it.
  if (head[0] === 0x12 && head[1] === 0) return typeOf(byteAt(head, 2)) === sequenceHeader ? 'units' : null
  const outer = sizeAt(head, 0)
  const inner = outer && sizeAt(head, outer.next)
  if (!inner || outer.size < inner.size || inner.size < 4) return null
  const [first, second] = [sizeAt(head, inner.next), sizeAt(head, inner.next + 2)]
  // One byte for the delimiter's size, one for its header without a size of its own.
  const isDelimiter = first?.size === 1 && byteAt(head, first.next) === delimiter << 3
  const isSequence = second && (byteAt(head, second.next) & 0xf9) >> 3 === sequenceHeader
  return isDelimiter && isSequence && second.size > 2 && second.size < inner.size ? 'sized units' : null
}

/** Whole temporal units in a stretch from the beginning of a file; the one that the stretch cuts is not among them. */
export function* temporalUnits(bytes: Uint8Array, kind: Av1File): Generator<TemporalUnit> {
  if (kind === 'units') yield* ofUnits(bytes)
  else if (kind === 'IVF') yield* ofIvf(bytes)
  else yield* ofSizedUnits(bytes)
}

const openUnits = (bytes: Uint8Array, at: number, end: number) =>
  concat(
    [...unitsOf(bytes, at, end)]
      .filter(({ type }) => type !== delimiter && type !== padding)
      .map((unit) => bytes.subarray(unit.at, unit.end)),
  )

function* ofUnits(bytes: Uint8Array): Generator<TemporalUnit> {
  const unitFrom = (at: number, end: number) => ({ at, end, bytes: () => openUnits(bytes, at, end) })
  let [begun, end] = [0, 0]
  let hasPicture = false
  for (const unit of unitsOf(bytes, 0, bytes.length)) {
    if (unit.type === delimiter) {
      if (hasPicture) yield unitFrom(begun, unit.at)
      begun = unit.at
      hasPicture = false
    }
    hasPicture ||= unit.type === frame || unit.type === frameHeader
    end = unit.end
  }
  // A delimiter of which only the beginning is there ends a unit all the same.
  const isEnded = end === bytes.length || typeOf(byteAt(bytes, end)) === delimiter
  if (hasPicture && isEnded) yield unitFrom(begun, end)
}

function* ofIvf(bytes: Uint8Array): Generator<TemporalUnit> {
  for (const { at, begin, end } of ivfFrames(bytes))
    yield { at, end, bytes: () => openUnits(bytes, begin, end) }
}

function* ofSizedUnits(bytes: Uint8Array): Generator<TemporalUnit> {
  for (let at = 0; at < bytes.length;) {
    const size = sizeAt(bytes, at)
    if (!size || size.next + size.size > bytes.length) return
    const end = size.next + size.size
    const units = unitsOfSized(bytes, size.next, end)
    if (!units) return
    yield {
      at,
      end,
      bytes: () =>
        concat(
          units
            .map((unit) => bytes.subarray(unit.at, unit.end))
            .filter((unit) => typeOf(byteAt(unit, 0)) !== delimiter)
            .map(withSize),
        ),
    }
    at = end
  }
}
