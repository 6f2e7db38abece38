import { ReadingFault } from '../fault'

/**
 * Reads numbers from a stretch of bytes, front to back, never past its end. Big-endian unless `le` says otherwise.
 * `base` is where the stretch lies in the file, so that a fault can say where it was found.
 */
export class Cursor {
  at = 0
  readonly #view: DataView

  constructor(
    readonly bytes: Uint8Array,
    readonly base = 0,
  ) {
    this.#view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
  }

  get length(): number {
    return this.bytes.length
  }
  get left(): number {
    return this.bytes.length - this.at
  }
  /** Where the next byte lies in the file. */
  get offset(): number {
    return this.base + this.at
  }

  /** Moves on by `count` bytes and tells where they start. @throws ReadingFault `damaged` past the end. */
  take(count: number): number {
    const at = this.at
    if (!(count >= 0) || count > this.left) {
      throw new ReadingFault('damaged', `${count} bytes are expected, ${this.left} are left`, this.offset)
    }
    this.at += count
    return at
  }

  skip(count: number): this {
    this.take(count)
    return this
  }
  u8(): number {
    return this.#view.getUint8(this.take(1))
  }
  i8(): number {
    return this.#view.getInt8(this.take(1))
  }
  u16(le = false): number {
    return this.#view.getUint16(this.take(2), le)
  }
  i16(le = false): number {
    return this.#view.getInt16(this.take(2), le)
  }
  u24(): number {
    return this.u8() * 65536 + this.u16()
  }
  u32(le = false): number {
    return this.#view.getUint32(this.take(4), le)
  }
  i32(le = false): number {
    return this.#view.getInt32(this.take(4), le)
  }
  f32(le = false): number {
    return this.#view.getFloat32(this.take(4), le)
  }
  f64(le = false): number {
    return this.#view.getFloat64(this.take(8), le)
  }
  /** 64 bits as a number; beyond 2⁵³ it is no longer exact, and no file is that long. */
  u64(le = false): number {
    return Number(this.#view.getBigUint64(this.take(8), le))
  }
  i64(le = false): number {
    return Number(this.#view.getBigInt64(this.take(8), le))
  }

  /** The next `count` bytes, shared with the cursor's own. */
  slice(count: number): Uint8Array {
    const at = this.take(count)
    return this.bytes.subarray(at, at + count)
  }
  /** A cursor over the next `count` bytes; this one moves past them. */
  sub(count: number): Cursor {
    const base = this.offset
    return new Cursor(this.slice(count), base)
  }
  /** The next `count` bytes as Latin letters. */
  text(count: number): string {
    return latin(this.slice(count))
  }
  /** A four-character code. */
  code(): string {
    return this.text(4)
  }
}

/** Bytes as Latin-1 text. */
export const latin = (bytes: Uint8Array): string => {
  let text = ''
  for (const byte of bytes) text += String.fromCharCode(byte)
  return text
}

/** Bytes as UTF-8 text up to the first zero. */
export const utf8 = (bytes: Uint8Array): string => {
  const end = bytes.indexOf(0)
  return new TextDecoder().decode(end < 0 ? bytes : bytes.subarray(0, end))
}
