import { Cursor } from '../bytes/cursor'
import type { FileWindow } from '../bytes/source'

/** A key, as hexadecimal text, and where its value lies (SMPTE ST 336). */
export interface Klv {
  readonly key: string
  readonly offset: number
  readonly start: number
  readonly length: number
}

const hexOfByte = Array.from({ length: 256 }, (_, byte) => byte.toString(16).padStart(2, '0'))

/** Bytes as hexadecimal text, as keys and identifiers are compared. */
export function hex(bytes: Uint8Array): string {
  let text = ''
  for (const byte of bytes) text += hexOfByte[byte]
  return text
}

/** Bytes that a key and a length take, at most. */
const headLength = 16 + 9

/** Reads the key and the length at `offset`; null where none is there. */
export async function readKlv(file: FileWindow, offset: number): Promise<Klv | null> {
  const head = new Cursor(await file.some(offset, headLength), offset)
  return klvAt(head, offset)
}

function klvAt(head: Cursor, offset: number): Klv | null {
  if (head.left < 17) return null
  const key = hex(head.slice(16))
  if (!key.startsWith('060e2b34')) return null
  const length = berLength(head)
  return length === null ? null : { key, offset, start: offset + head.at, length }
}

/** A length after ISO/IEC 8825-1: short, or led by its own number of bytes. */
function berLength(head: Cursor): number | null {
  const first = head.u8()
  if (first < 0x80) return first
  const bytes = first & 0x7f
  if (bytes === 0 || bytes > 8 || bytes > head.left) return null
  let length = 0
  for (let i = 0; i < bytes; i++) length = length * 256 + head.u8()
  return length
}

/** A local set of header metadata: its kind (15th byte of the key), and its items by tag. */
export interface LocalSet {
  readonly kind: number
  readonly items: ReadonlyMap<number, Cursor>
}

/** Keys of the local sets of structural metadata, up to the byte that tells the kind. */
const setPrefix = '060e2b34025301010d01010101'

/** The local sets of a stretch of header metadata (SMPTE ST 377-1 §9). Other packs between them are stepped over. */
export function* setsIn(metadata: Cursor): Generator<LocalSet> {
  while (metadata.left >= 17) {
    const start = metadata.at
    const klv = klvAt(new Cursor(metadata.bytes.subarray(start), metadata.base + start), 0)
    if (!klv) return
    metadata.at = start + klv.start
    const body = metadata.sub(Math.min(klv.length, metadata.left))
    if (klv.key.startsWith(setPrefix)) {
      yield { kind: Number.parseInt(klv.key.slice(28, 30), 16), items: itemsOf(body) }
    }
  }
}

function itemsOf(body: Cursor): Map<number, Cursor> {
  const items = new Map<number, Cursor>()
  while (body.left >= 4) {
    const tag = body.u16()
    const length = body.u16()
    if (length > body.left) break
    items.set(tag, body.sub(length))
  }
  return items
}

const fresh = (item: Cursor) => new Cursor(item.bytes, item.base)

/** Items as values; undefined where the item is missing or too short. */
export const u8Of = (item?: Cursor) => (item && item.length >= 1 ? fresh(item).u8() : undefined)
export const u16Of = (item?: Cursor) => (item && item.length >= 2 ? fresh(item).u16() : undefined)
export const u32Of = (item?: Cursor) => (item && item.length >= 4 ? fresh(item).u32() : undefined)
export const i64Of = (item?: Cursor) => (item && item.length >= 8 ? fresh(item).i64() : undefined)
export const labelOf = (item?: Cursor) =>
  item && item.length >= 16 ? hex(item.bytes.subarray(0, 16)) : undefined

export function ratioOf(item?: Cursor): { num: number; den: number } | undefined {
  if (!item || item.length < 8) return undefined
  const cursor = fresh(item)
  const [num, den] = [cursor.i32(), cursor.i32()]
  return num > 0 && den > 0 ? { num, den } : undefined
}

/** A batch or an array: a count, the size of one, then the values. */
export function batchOf(item: Cursor | undefined, size: number): Cursor[] {
  if (!item || item.length < 8) return []
  const cursor = fresh(item)
  const count = cursor.u32()
  if (cursor.u32() !== size) return []
  return Array.from({ length: Math.min(count, Math.floor(cursor.left / size)) }, () => cursor.sub(size))
}
