/** Stretches of bytes one after the other; where only one of them is not empty it is that one, not copied. */
export function concat(parts: readonly Uint8Array[]): Uint8Array {
  const full = parts.filter(({ length }) => length > 0)
  if (full.length === 1 && full[0]) return full[0]
  const whole = new Uint8Array(full.reduce((sum, { length }) => sum + length, 0))
  let at = 0
  for (const part of full) {
    whole.set(part, at)
    at += part.length
  }
  return whole
}
