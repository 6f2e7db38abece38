import { byteAt } from '../bytes/byte-at'
import { ReadingFault } from '../fault'

/**
 * How the state of a bit moves when it is one (RFC 9043 §3.8.1.4, the default table): reckoned rather than written down.
 * Zeros move by the same table from the other end.
 */
function transitions(): { one: Uint8Array; zero: Uint8Array } {
  const states = new Uint8Array(256)
  const zero = new Uint8Array(256)
  const unit = 2n ** 32n
  const factor = BigInt(Math.floor(0.05 * 2 ** 32))
  const most = 256 - 8
  let p = unit / 2n
  let last = 0
  for (let i = 0; i < 128; i++) {
    let state = Number((256n * p + unit / 2n) >> 32n)
    if (state <= last) state = last + 1
    if (last && last < 256 && state <= most) states[last] = state
    p += ((unit - p) * factor + unit / 2n) >> 32n
    last = state
  }
  for (let i = 256 - most; i <= most; i++) {
    if (states[i]) continue
    p = (BigInt(i) * unit + 128n) >> 8n
    p += ((unit - p) * factor + unit / 2n) >> 32n
    states[i] = Math.min(most, Math.max(i + 1, Number((256n * p + unit / 2n) >> 32n)))
  }
  for (let i = 1; i < 255; i++) zero[i] = 256 - byteAt(states, 256 - i)
  return { one: states, zero }
}

let table: ReturnType<typeof transitions> | null = null

/** A range decoder (RFC 9043 §3.8.1), as far as headers need it. */
export class RangeDecoder {
  #range = 0xff00
  #low: number
  #at = 2
  readonly #moves = (table ??= transitions())

  constructor(private readonly bytes: Uint8Array) {
    if (bytes.length < 3) throw new ReadingFault('damaged', 'a range coded header ends too early')
    this.#low = Math.min(0xff00, byteAt(bytes, 0) * 256 + byteAt(bytes, 1))
  }

  /** One bit under `states[index]`, which moves on. */
  bit(states: Uint8Array, index = 0): boolean {
    const split = (this.#range * byteAt(states, index)) >> 8
    this.#range -= split
    const isOne = this.#low >= this.#range
    if (isOne) {
      this.#low -= this.#range
      this.#range = split
    }
    states[index] = byteAt(isOne ? this.#moves.one : this.#moves.zero, byteAt(states, index))
    while (this.#range < 0x100) {
      if (this.#at > this.bytes.length + 8)
        throw new ReadingFault('damaged', 'a range coded header ends too early')
      this.#range <<= 8
      this.#low = (this.#low << 8) + (this.bytes[this.#at++] ?? 0)
    }
    return isOne
  }

  /** A whole number: whether it is zero, its length, its digits; signed where asked. */
  symbol(states: Uint8Array, signed = false): number {
    if (this.bit(states, 0)) return 0
    let length = 0
    while (this.bit(states, 1 + Math.min(length, 9)))
      if (++length > 31) throw new ReadingFault('damaged', 'a range coded header holds a number without end')
    let value = 1
    for (let i = length - 1; i >= 0; i--) value = value * 2 + Number(this.bit(states, 22 + Math.min(i, 9)))
    return signed && this.bit(states, 11 + Math.min(length, 10)) ? -value : value
  }
}
