import { byteAt } from './byte-at'
import { ReadingFault } from '../fault'

/** Reads single bits from a stretch of bytes, most significant first, with the Exp-Golomb codes of ITU-T H.264 §9.1. */
export class Bits {
  /** Position in bits. */
  at = 0

  constructor(readonly bytes: Uint8Array) {}

  get left(): number {
    return this.bytes.length * 8 - this.at
  }

  /** `count` bits (0…32) as a number. @throws ReadingFault `damaged` past the end. */
  u(count: number): number {
    if (count > this.left) throw new ReadingFault('damaged', 'a bitstream header ends too early')
    let value = 0
    for (let i = 0; i < count; i++, this.at++) {
      value = value * 2 + ((byteAt(this.bytes, this.at >> 3) >> (7 - (this.at & 7))) & 1)
    }
    return value
  }

  flag(): boolean {
    return this.u(1) === 1
  }

  skip(count: number): void {
    if (!(count >= 0) || count > this.left)
      throw new ReadingFault('damaged', 'a bitstream header ends too early')
    this.at += count
  }

  /** Unsigned Exp-Golomb. */
  ue(): number {
    let zeros = 0
    while (this.u(1) === 0) {
      if (++zeros > 32) throw new ReadingFault('damaged', 'a bitstream header holds a number without end')
    }
    return 2 ** zeros - 1 + this.u(zeros)
  }

  /** Signed Exp-Golomb. */
  se(): number {
    const code = this.ue()
    return code % 2 ? (code + 1) / 2 : -code / 2
  }
}
