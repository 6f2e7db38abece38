import { Bits } from '../bytes/bits'
import { ReadingFault } from '../fault'
import type { AudioFacts } from '../reading'

/** What a FLAC stream information block says (RFC 9639 §8.2). @throws ReadingFault `damaged` where it states no sample rate */
export function flacFacts(info: Uint8Array): { facts: AudioFacts; samples: number } {
  const bits = new Bits(info)
  bits.skip(80)
  const sampleRate = bits.u(20)
  const channels = bits.u(3) + 1
  const bitDepth = bits.u(5) + 1
  const samples = bits.u(4) * 2 ** 32 + bits.u(32)
  if (sampleRate === 0) throw new ReadingFault('damaged', 'The sample rate is stated as 0.', 8)
  return { facts: { codec: 'FLAC', channels, sampleRate, bitDepth }, samples }
}
