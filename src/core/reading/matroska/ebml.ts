import { Cursor, utf8 } from '../bytes/cursor'
import { nearestRational, type Rational } from '../../rational/rational'

/** An element inside a stretch of memory (RFC 8794). */
export interface Element {
  readonly id: number
  readonly body: Cursor
}

/** A variable-length number; with `keepMarker` as identifiers are written. Infinity where the size is not stated. */
export function readVint(cursor: Cursor, keepMarker = false): number {
  const first = cursor.u8()
  let length = 1
  while (length <= 8 && !(first & (0x80 >> (length - 1)))) length++
  if (length > 8) return Number.NaN
  let value = keepMarker ? first : first & (0xff >> length)
  let allOnes = !keepMarker && value === 0xff >> length
  for (let i = 1; i < length; i++) {
    const byte = cursor.u8()
    value = value * 256 + byte
    allOnes &&= byte === 0xff
  }
  return allOnes ? Infinity : value
}

/** The elements that stand side by side; the last may be cut short. */
export function* elementsIn(body: Cursor): Generator<Element> {
  while (body.left >= 2) {
    const id = readVint(body, true)
    if (Number.isNaN(id) || body.left < 1) return
    const size = readVint(body)
    if (Number.isNaN(size)) return
    yield { id, body: body.sub(Math.min(size, body.left)) }
  }
}

/** The elements of a master by identifier; the first of each. */
export function mapOf(body: Cursor): Map<number, Cursor> {
  const map = new Map<number, Cursor>()
  for (const element of elementsIn(body)) if (!map.has(element.id)) map.set(element.id, element.body)
  return map
}

/** An unsigned whole number; undefined where the element is missing or longer than eight bytes. */
export function unsigned(body: Cursor | undefined): number | undefined {
  if (!body || body.length > 8) return undefined
  let value = 0
  for (const byte of body.bytes) value = value * 256 + byte
  return value
}

export function float(body: Cursor | undefined): number | undefined {
  if (!body) return undefined
  const fresh = new Cursor(body.bytes)
  return body.length === 4 ? fresh.f32() : body.length === 8 ? fresh.f64() : undefined
}

export const text = (body: Cursor | undefined): string | undefined => body && utf8(body.bytes).trim()

/** A positive ratio of two whole numbers, or null. */
export const positiveRatio = (num: number | undefined, den: number | undefined): Rational | null =>
  num && den ? nearestRational(num / den, 1e-6) : null
