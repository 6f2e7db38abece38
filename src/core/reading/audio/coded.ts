import { byteAt } from '../bytes/byte-at'
import type { AudioFacts } from '../reading'
import { ac3Frame, adtsFrame, dtsFrame, latmFrame, mpegAudioFrame } from './frames'

/** Sound as multiplexes carry it: how it is called, and what its bytes say. To add a coding, add a line to `codings`. */
interface Coding {
  readonly codec: string
  /** @param bytes of the stream from the beginning of a packet on; null where they say nothing */
  readonly read: (bytes: Uint8Array) => AudioFacts | null
}

/** The first place at which a frame is found. */
const sought =
  (frameAt: (bytes: Uint8Array, at: number) => AudioFacts | null, first: number) =>
  (bytes: Uint8Array): AudioFacts | null => {
    for (let at = bytes.indexOf(first); at >= 0; at = bytes.indexOf(first, at + 1)) {
      const facts = frameAt(bytes, at)
      if (facts) return facts
    }
    return null
  }

/** A frame whose length is known is one where the next begins behind it; the last in sight has nothing behind it. */
function followed(
  bytes: Uint8Array,
  at: number,
  frame: { facts: AudioFacts; length: number } | null,
): AudioFacts | null {
  if (!frame) return null
  const next = at + frame.length
  return next + 2 > bytes.length || (bytes[next] === 0xff && (byteAt(bytes, next + 1) & 0xe0) === 0xe0)
    ? frame.facts
    : null
}
const mpegAudio = sought((bytes, at) => followed(bytes, at, mpegAudioFrame(bytes, at)), 0xff)
const adts = sought((bytes, at) => followed(bytes, at, adtsFrame(bytes, at)), 0xff)
const ac3 = sought(ac3Frame, 0x0b)
const dts = sought(dtsFrame, 0x7f)

const pcm = (channels: number | undefined, sampleRate: number | undefined, bitDepth: number | undefined) =>
  channels && sampleRate && bitDepth ? { codec: 'PCM', channels, sampleRate, bitDepth } : null

/** Of discs (DVD-Video): three bytes behind the number of the stream. */
const ofDiscs = (b: Uint8Array) =>
  b.length < 3
    ? null
    : pcm(
        (byteAt(b, 1) & 7) + 1,
        [48_000, 96_000, 44_100, 32_000][(byteAt(b, 1) >> 4) & 3],
        [16, 20, 24][byteAt(b, 1) >> 6],
      )
/** Of Blu-ray discs and what records like them: four bytes in front of each packet. */
const ofPackets = (b: Uint8Array) =>
  b.length < 4
    ? null
    : pcm(
        [0, 1, 0, 2, 3, 3, 4, 4, 5, 6, 7, 8][byteAt(b, 2) >> 4],
        { 1: 48_000, 4: 96_000, 5: 192_000 }[byteAt(b, 2) & 15],
        [0, 16, 20, 24][byteAt(b, 3) >> 6],
      )
/** SMPTE ST 302 §6: pairs of channels at 48 kHz. */
const of302 = (b: Uint8Array) =>
  b.length < 4 ? null : pcm(2 * ((byteAt(b, 2) >> 6) + 1), 48_000, [16, 20, 24][(byteAt(b, 3) >> 4) & 3])

const codings: Readonly<Record<string, Coding>> = {
  MP2: { codec: 'MP2', read: mpegAudio },
  AAC: { codec: 'AAC', read: (bytes) => adts(bytes) ?? sought(latmFrame, 0x56)(bytes) },
  'AAC in LATM': { codec: 'AAC', read: sought(latmFrame, 0x56) },
  'AC-3': { codec: 'AC-3', read: ac3 },
  'E-AC-3': { codec: 'E-AC-3', read: ac3 },
  DTS: { codec: 'DTS', read: dts },
  'DTS-HD': { codec: 'DTS-HD', read: dts },
  TrueHD: { codec: 'TrueHD', read: () => null },
  Opus: { codec: 'Opus', read: () => null },
  'LPCM of discs': { codec: 'PCM', read: ofDiscs },
  'LPCM of packets': { codec: 'PCM', read: ofPackets },
  'SMPTE 302M': { codec: 'PCM', read: of302 },
}

/** What a coding is called where its bytes say nothing. */
export const codecOfSound = (coding: string | null): string => codings[coding ?? '']?.codec ?? 'unknown'

/**
 * What a stream of sound says of itself. What is declared decides what is looked for: a sync byte that stands there by chance never does.
 * @param coding as declared; null where nothing is: MPEG audio, or AAC
 */
export function soundFacts(coding: string | null, bytes: Uint8Array): AudioFacts | null {
  if (coding === null) return mpegAudio(bytes) ?? adts(bytes)
  const known = codings[coding]
  const facts = known?.read(bytes) ?? null
  return facts && known && coding === 'DTS-HD' ? { ...facts, codec: known.codec } : facts
}
