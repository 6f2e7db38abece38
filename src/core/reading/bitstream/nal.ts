import { byteAt } from '../bytes/byte-at'
/** Network abstraction layer units: how H.264 and HEVC streams are cut into pieces (ITU-T H.264 Annex B, ISO/IEC 14496-15). */

/** The units in a sample whose units are led by their length, in `lengthSize` bytes. Stops at the first that does not fit. */
export function* lengthPrefixedUnits(sample: Uint8Array, lengthSize: number): Generator<Uint8Array> {
  let at = 0
  while (at + lengthSize < sample.length) {
    let length = 0
    for (let i = 0; i < lengthSize; i++) length = length * 256 + byteAt(sample, at + i)
    at += lengthSize
    if (length === 0) return
    yield sample.subarray(at, Math.min(sample.length, at + length))
    at += length
  }
}

/** The units in a byte stream whose units are led by a start code 00 00 01. */
export function* startCodeUnits(stream: Uint8Array): Generator<Uint8Array> {
  let start = -1
  for (let i = 0; i + 2 < stream.length; i++) {
    if (stream[i] !== 0 || stream[i + 1] !== 0 || stream[i + 2] !== 1) continue
    if (start >= 0) yield stream.subarray(start, i)
    start = i + 3
    i += 2
  }
  if (start >= 0 && start < stream.length) yield stream.subarray(start)
}

/** Headers lie at the front of a unit: no more than this is unescaped. */
const headerLength = 4096

/** A unit's payload without the emulation prevention bytes (00 00 03 → 00 00). */
export function unescapeUnit(unit: Uint8Array): Uint8Array {
  const length = Math.min(unit.length, headerLength)
  const payload = new Uint8Array(length)
  let zeros = 0
  let size = 0
  for (let i = 0; i < length; i++) {
    const byte = byteAt(unit, i)
    if (zeros >= 2 && byte === 3) {
      zeros = 0
      continue
    }
    zeros = byte === 0 ? zeros + 1 : 0
    payload[size++] = byte
  }
  return payload.subarray(0, size)
}

/** The supplemental messages of a unit, from behind its header (ITU-T H.264 §7.3.2.3.1, H.265 §7.3.2.4). */
export function* messagesIn(payload: Uint8Array): Generator<{ type: number; body: Uint8Array }> {
  let at = 0
  const number = () => {
    let value = 0
    while (payload[at] === 255 && at < payload.length) {
      value += 255
      at++
    }
    return value + (payload[at++] ?? 0)
  }
  while (at + 2 < payload.length) {
    const [type, size] = [number(), number()]
    if (at + size <= payload.length) yield { type, body: payload.subarray(at, at + size) }
    at += size
  }
}
