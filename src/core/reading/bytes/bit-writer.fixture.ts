/** Writes bits as a stream's headers have them: the reverse of `Bits`, for tests. */
export function bitWriter() {
  const bits: number[] = []
  const self = {
    /** `count` bits of a number, the most significant first. */
    u(value: number, count: number) {
      for (let i = count - 1; i >= 0; i--) bits.push(Math.floor(value / 2 ** i) % 2)
      return self
    },
    /** Flags, one bit each. */
    flags(...values: (0 | 1)[]) {
      bits.push(...values)
      return self
    },
    /** Unsigned Exp-Golomb codes. */
    ue(...values: number[]) {
      for (const value of values) {
        const length = Math.floor(Math.log2(value + 1))
        self.u(0, length).u(value + 1, length + 1)
      }
      return self
    },
    /** A signed Exp-Golomb code. */
    se: (value: number) => self.ue(value > 0 ? 2 * value - 1 : -2 * value),
    /** The bytes, with a stop bit and `padding` bits of zeros behind. */
    bytes(padding = 64) {
      const padded = [...bits, 1, ...Array.from({ length: padding }, () => 0)]
      return Uint8Array.from({ length: Math.floor(padded.length / 8) }, (_, i) =>
        padded.slice(i * 8, i * 8 + 8).reduce((byte, bit) => byte * 2 + bit, 0),
      )
    },
  }
  return self
}

/** Guards a unit of H.264 or HEVC against start codes inside, as a stream has it (ITU-T H.264 §7.4.1). */
export function escapedUnit(unit: Uint8Array): Uint8Array {
  const bytes: number[] = []
  for (const byte of unit) {
    if (byte <= 3 && bytes.at(-1) === 0 && bytes.at(-2) === 0) bytes.push(3)
    bytes.push(byte)
  }
  return Uint8Array.from(bytes)
}
