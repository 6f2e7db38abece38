import { type Rational, rational } from '../../rational/rational'
import { Bits } from '../bytes/bits'
import { latin } from '../bytes/cursor'
import type { ClaimedFacts } from '../claims'

/** A Theora identification header. */
export interface TheoraHeader {
  readonly facts: ClaimedFacts
  readonly rate: Rational | null
  /** Bits of a granule position that count frames since the last key frame. */
  readonly keyFrameShift: number
  /** From 3.2.1 on positions count frames, before they were indices. */
  readonly countsFrames: boolean
}

/** Reads the identification header (Theora specification §6.2). @returns null where the packet is none */
export function theoraHeader(packet: Uint8Array): TheoraHeader | null {
  if (packet.length < 42 || packet[0] !== 0x80 || latin(packet.subarray(1, 7)) !== 'theora') return null
  const bits = new Bits(packet.subarray(7))
  const version = bits.u(8) * 65536 + bits.u(8) * 256 + bits.u(8)
  bits.skip(32)
  const [width, height] = [bits.u(24), bits.u(24)]
  bits.skip(16)
  const [rateNum, rateDen] = [bits.u(32), bits.u(32)]
  const [shapeNum, shapeDen] = [bits.u(24), bits.u(24)]
  const colourSpace = bits.u(8)
  bits.skip(24 + 6)
  const keyFrameShift = bits.u(5)
  const chroma = ['4:2:0', null, '4:2:2', '4:4:4'][bits.u(2)]
  if (!width || !height) return null
  return {
    facts: {
      width,
      height,
      bitDepth: 8,
      chroma,
      scan: 'progressive',
      // 0 : 0 and 1 : 0 stand for not stated.
      ...(shapeNum && shapeDen ? { pixelAspect: rational(shapeNum, shapeDen) } : {}),
      ...(colourSpace === 1 ? { primaries: 'bt470m', transfer: 'bt709', matrix: 'bt601-525' } : {}),
      ...(colourSpace === 2 ? { primaries: 'bt601-625', transfer: 'bt709', matrix: 'bt601-625' } : {}),
    },
    rate: rateNum && rateDen ? rational(rateNum, rateDen) : null,
    keyFrameShift,
    countsFrames: version >= 0x030201,
  }
}

/** The number of frames up to a granule position. */
export const framesAt = (granule: bigint, { keyFrameShift, countsFrames }: TheoraHeader): number =>
  Number(granule >> BigInt(keyFrameShift)) +
  Number(granule & ((1n << BigInt(keyFrameShift)) - 1n)) +
  (countsFrames ? 0 : 1)
