/** A byte of a stretch of bytes; beyond its end there are zeros, as a decoder takes them. */
export const byteAt = (bytes: Uint8Array, index: number): number => bytes[index] ?? 0
