import { byteAt } from '../bytes/byte-at'
import { latin } from '../bytes/cursor'
import type { DeclaredStream } from './demultiplex'

/** Pictures by their type in the program map (ISO/IEC 13818-1 Table 2-34). */
const pictureTypes: Readonly<Record<number, string>> = {
  0x01: 'MPEG-1',
  0x02: 'MPEG-2',
  0x10: 'MPEG-4 Visual',
  0x1b: 'H.264',
  0x21: 'JPEG 2000',
  0x24: 'HEVC',
  0xea: 'VC-1',
}
/** Sound by its type, there and as cable and discs register it. */
const soundTypes: Readonly<Record<number, string>> = {
  0x03: 'MP2',
  0x04: 'MP2',
  0x0f: 'AAC',
  0x11: 'AAC in LATM',
  0x81: 'AC-3',
  0x82: 'DTS',
  0x83: 'TrueHD',
  0x84: 'E-AC-3',
  0x85: 'DTS-HD',
  0x86: 'DTS-HD',
  0x87: 'E-AC-3',
  0x8a: 'DTS',
  0xa1: 'E-AC-3',
  0xa2: 'DTS-HD',
}
/** Private streams by the four letters of their registration. */
const registered: Readonly<Record<string, DeclaredStream>> = {
  'AC-3': { kind: 'sound', coding: 'AC-3' },
  EAC3: { kind: 'sound', coding: 'E-AC-3' },
  DTS1: { kind: 'sound', coding: 'DTS' },
  DTS2: { kind: 'sound', coding: 'DTS' },
  DTS3: { kind: 'sound', coding: 'DTS' },
  BSSD: { kind: 'sound', coding: 'SMPTE 302M' },
  HEVC: { kind: 'picture', codec: 'HEVC' },
  'VC-1': { kind: 'picture', codec: 'VC-1' },
}
/** Private streams by the descriptors of broadcasts (ETSI EN 300 468 §6.2). */
const described: Readonly<Record<number, string>> = { 0x6a: 'AC-3', 0x7a: 'E-AC-3', 0x7b: 'DTS', 0x7c: 'AAC' }

const discs = 'HDMV'
/** Types from which on registrations decide what they mean. */
const firstPrivate = 0x80

/**
 * What a stream is by its type, its registration and its descriptors; null where it is neither picture nor sound that is known.
 * @param program the registration of the whole program, which decides what private types mean
 */
export function streamOfType(
  type: number,
  descriptors: Uint8Array,
  program: string | null,
): DeclaredStream | null {
  const own = registrationIn(descriptors)
  if (type === 6 || type >= firstPrivate) {
    const stream = own === 'Opus' ? opus(descriptors) : own === null ? undefined : registered[own]
    if (stream) return stream
  }
  if (type === 6) {
    for (const [tag] of descriptorsIn(descriptors)) {
      const coding = described[tag]
      if (coding) return { kind: 'sound', coding }
    }
    return null
  }
  if (type === firstPrivate)
    return program === discs || own === discs
      ? { kind: 'sound', coding: 'LPCM of packets' }
      : { kind: 'picture', codec: 'MPEG-2' }
  const [codec, coding] = [pictureTypes[type], soundTypes[type]]
  if (codec) return { kind: 'picture', codec }
  return coding ? { kind: 'sound', coding } : null
}

/** Opus in a transport stream says its channels beside the map: always at 48 kHz. */
function opus(descriptors: Uint8Array): DeclaredStream {
  let channels: number | null = null
  for (const [tag, body] of descriptorsIn(descriptors))
    if (tag === 0x7f && body[0] === 0x80) channels = byteAt(body, 1) || 2
  const isCount = channels !== null && channels <= 8
  return {
    kind: 'sound',
    coding: 'Opus',
    facts: { codec: 'Opus', channels: isCount ? channels : null, sampleRate: 48_000, bitDepth: null },
  }
}

/** The registration among descriptors (§2.6.8); null where there is none. */
export function registrationIn(descriptors: Uint8Array): string | null {
  for (const [tag, body] of descriptorsIn(descriptors))
    if (tag === 5 && body.length >= 4) return latin(body.subarray(0, 4))
  return null
}

function* descriptorsIn(bytes: Uint8Array): Generator<readonly [tag: number, body: Uint8Array]> {
  for (let at = 0; at + 2 <= bytes.length; at += 2 + byteAt(bytes, at + 1))
    yield [byteAt(bytes, at), bytes.subarray(at + 2, at + 2 + byteAt(bytes, at + 1))]
}
