import { byteAt } from '../bytes/byte-at'
import { Bits } from '../bytes/bits'
import type { PictureClaim, ClaimedFacts } from '../claims'
import { colourFromCodes } from '../colour'

const profileNames = ['Main', 'High', 'Professional']

/** What an AV1 stream says in its sequence header (AV1 bitstream specification §5.5). @param stream open bitstream units */
export function claimOfAv1(stream: Uint8Array): PictureClaim | null {
  const header = sequenceHeaderOf(stream)
  return header && { layer: 'stream', origin: 'sequence header', facts: readSequence(new Bits(header)) }
}

/** The rate that a sequence header states, where each picture is shown for as long (§5.5.3); null where it states none. */
export function statedRateOfAv1(stream: Uint8Array): number | null {
  const header = sequenceHeaderOf(stream)
  if (!header) return null
  const bits = new Bits(header)
  bits.skip(4)
  const [isReduced, isTimed] = [bits.flag(), bits.flag()]
  if (isReduced || !isTimed) return null
  const [unitsInTick, unitsASecond] = [bits.u(32), bits.u(32)]
  const ticks = bits.flag() ? bits.ue() + 1 : null
  return ticks && unitsInTick && unitsASecond ? unitsASecond / (unitsInTick * ticks) : null
}

/** The first sequence header in a stretch of units. */
function sequenceHeaderOf(stream: Uint8Array): Uint8Array | null {
  let at = 0
  for (let n = 0; n < 16 && at < stream.length; n++) {
    const type = (byteAt(stream, at) >> 3) & 15
    const extended = (byteAt(stream, at) & 4) !== 0
    const sized = (byteAt(stream, at) & 2) !== 0
    at += extended ? 2 : 1
    let size = stream.length - at
    if (sized) {
      size = 0
      for (let i = 0; i < 8 && at < stream.length; i++) {
        const byte = byteAt(stream, at++)
        size += (byte & 0x7f) * 2 ** (7 * i)
        if (!(byte & 0x80)) break
      }
    }
    if (type === 1) return stream.subarray(at, at + size)
    at += size
  }
  return null
}

/** The facts of the configuration record `av1C`: its fixed part, and the sequence header behind it. */
export function claimsOfAv1Configuration(record: Uint8Array): PictureClaim[] {
  const claim = record.length > 4 ? claimOfAv1(record.subarray(4)) : null
  return claim ? [claim] : []
}

function readSequence(bits: Bits): ClaimedFacts {
  const profile = bits.u(3)
  bits.skip(1)
  const reduced = bits.flag()
  if (reduced) bits.skip(5)
  else {
    let decoderModel = 0
    if (bits.flag()) {
      bits.skip(64)
      if (bits.flag()) bits.ue()
      if (bits.flag()) {
        decoderModel = bits.u(5) + 1
        bits.skip(32 + 5 + 5)
      }
    }
    const initialDelay = bits.flag()
    for (let n = bits.u(5); n >= 0; n--) {
      bits.skip(12)
      if (bits.u(5) > 7) bits.skip(1)
      if (decoderModel && bits.flag()) bits.skip(2 * decoderModel + 1)
      if (initialDelay && bits.flag()) bits.skip(4)
    }
  }
  const [widthBits, heightBits] = [bits.u(4) + 1, bits.u(4) + 1]
  const width = bits.u(widthBits) + 1
  const height = bits.u(heightBits) + 1
  if (!reduced && bits.flag()) bits.skip(7)
  bits.skip(3)
  if (!reduced) readTools(bits)
  else bits.skip(3)
  return {
    profile: profileNames[profile] ?? null,
    width,
    height,
    scan: 'progressive',
    ...readColour(bits, profile),
  }
}

/** The switches of coding tools between the size and the colour. */
function readTools(bits: Bits) {
  bits.skip(4)
  const orderHint = bits.flag()
  if (orderHint) bits.skip(2)
  const forceScreen = bits.flag() ? 2 : bits.u(1)
  if (forceScreen > 0 && !bits.flag()) bits.skip(1)
  if (orderHint) bits.skip(3)
  bits.skip(3)
}

function readColour(bits: Bits, profile: number): ClaimedFacts {
  const high = bits.flag()
  const bitDepth = profile === 2 && high ? (bits.flag() ? 12 : 10) : high ? 10 : 8
  const mono = profile === 1 ? false : bits.flag()
  const codes = bits.flag() ? ([bits.u(8), bits.u(8), bits.u(8)] as const) : ([2, 2, 2] as const)
  if (mono) return { bitDepth, chroma: '4:0:0', ...colourFromCodes(...codes, bits.flag()) }
  if (codes[0] === 1 && codes[1] === 13 && codes[2] === 0)
    return { bitDepth, chroma: '4:4:4', ...colourFromCodes(1, 13, 0, true) }
  const colour = colourFromCodes(...codes, bits.flag())
  if (profile === 0) return { bitDepth, chroma: '4:2:0', ...colour }
  if (profile === 1) return { bitDepth, chroma: '4:4:4', ...colour }
  if (bitDepth < 12) return { bitDepth, chroma: '4:2:2', ...colour }
  const across = bits.flag()
  return { bitDepth, chroma: across ? (bits.flag() ? '4:2:0' : '4:2:2') : '4:4:4', ...colour }
}
