import { byteAt } from '../bytes/byte-at'
import { Bits } from '../bytes/bits'
import type { AudioFacts } from '../reading'

const mpegRates = [44100, 48000, 32000]
const aacRates = [96000, 88200, 64000, 48000, 44100, 32000, 24000, 22050, 16000, 12000, 11025, 8000, 7350]
/** Channels of AC-3 by audio coding mode (ETSI TS 102 366 Table 4.3), without the low one. */
export const ac3Channels: readonly number[] = [2, 1, 2, 3, 3, 4, 4, 5]
const dtsChannels = [1, 2, 2, 2, 2, 3, 3, 4, 4, 5, 6, 6, 6, 7, 8, 8]
const dtsRates = [0, 8000, 16000, 32000, 0, 0, 11025, 22050, 44100, 0, 0, 12000, 24000, 48000, 0, 0]
const bitRatesLayer3 = [0, 32, 40, 48, 56, 64, 80, 96, 112, 128, 160, 192, 224, 256, 320]
const bitRatesLayer2 = [0, 32, 48, 56, 64, 80, 96, 112, 128, 160, 192, 224, 256, 320, 384]
const bitRatesLow = [0, 8, 16, 24, 32, 40, 48, 56, 64, 80, 96, 112, 128, 144, 160]

/** One MPEG audio frame header (ISO/IEC 11172-3 §2.4.1.3). */
export interface MpegAudioFrame {
  readonly facts: AudioFacts
  readonly length: number
  readonly samples: number
  readonly bitRate: number
  readonly mono: boolean
  readonly low: boolean
}

export function mpegAudioFrame(b: Uint8Array, at = 0): MpegAudioFrame | null {
  if (at + 4 > b.length || b[at] !== 0xff || (byteAt(b, at + 1) & 0xe0) !== 0xe0) return null
  const version = (byteAt(b, at + 1) >> 3) & 3
  const layer = (byteAt(b, at + 1) >> 1) & 3
  const rateIndex = byteAt(b, at + 2) >> 4
  const sampleIndex = (byteAt(b, at + 2) >> 2) & 3
  if (version === 1 || layer === 0 || layer === 3 || rateIndex === 0 || rateIndex === 15 || sampleIndex === 3)
    return null
  const low = version !== 3
  const bitRates = low ? bitRatesLow : layer === 1 ? bitRatesLayer3 : bitRatesLayer2
  const bitRate = 1000 * (bitRates[rateIndex] ?? 0)
  const sampleRate = (mpegRates[sampleIndex] ?? 0) / (version === 3 ? 1 : version === 2 ? 2 : 4)
  const samples = layer === 1 && low ? 576 : 1152
  const padding = (byteAt(b, at + 2) >> 1) & 1
  const mono = byteAt(b, at + 3) >> 6 === 3
  const facts = { codec: layer === 1 ? 'MP3' : 'MP2', channels: mono ? 1 : 2, sampleRate, bitDepth: null }
  return {
    facts,
    length: Math.floor(((samples / 8) * bitRate) / sampleRate) + padding,
    samples,
    bitRate,
    mono,
    low,
  }
}

/** An ADTS header (ISO/IEC 13818-7 §6.2): AAC outside of a wrapper. */
export function adtsFrame(b: Uint8Array, at = 0): { facts: AudioFacts; length: number } | null {
  if (at + 7 > b.length || b[at] !== 0xff || (byteAt(b, at + 1) & 0xf6) !== 0xf0) return null
  const sampleRate = aacRates[(byteAt(b, at + 2) >> 2) & 15]
  const length = ((byteAt(b, at + 3) & 3) << 11) | (byteAt(b, at + 4) << 3) | (byteAt(b, at + 5) >> 5)
  if (!sampleRate || length < 7) return null
  const channels = ((byteAt(b, at + 2) & 1) << 2) | (byteAt(b, at + 3) >> 6)
  return {
    facts: { codec: 'AAC', channels: channels === 7 ? 8 : channels || null, sampleRate, bitDepth: null },
    length,
  }
}

/** An AC-3 synchronisation frame (ATSC A/52 §5.3). */
export function ac3Frame(b: Uint8Array, at = 0): AudioFacts | null {
  if (at + 8 > b.length || b[at] !== 0x0b || b[at + 1] !== 0x77) return null
  const id = byteAt(b, at + 5) >> 3
  if (id > 10) return enhancedAc3Frame(b, at)
  const sampleRate = [48000, 44100, 32000][byteAt(b, at + 4) >> 6] ?? null
  const mode = byteAt(b, at + 6) >> 5
  // The low-frequency flag stands behind mixing levels that depend on the mode.
  const skip = (mode & 1 && mode !== 1 ? 2 : 0) + (mode & 4 ? 2 : 0) + (mode === 2 ? 2 : 0)
  const lfe = ((byteAt(b, at + 6) * 256 + byteAt(b, at + 7)) >> (12 - skip)) & 1
  return { codec: 'AC-3', channels: (ac3Channels[mode] ?? 0) + lfe, sampleRate, bitDepth: null }
}

/** An E-AC-3 frame (ATSC A/52 Annex E §2.3): rates half as high are told by a second code, and blocks are six then. */
function enhancedAc3Frame(b: Uint8Array, at: number): AudioFacts {
  const code = byteAt(b, at + 4) >> 6
  const sampleRate =
    code < 3 ? [48000, 44100, 32000][code] : [24000, 22050, 16000][(byteAt(b, at + 4) >> 4) & 3]
  const mode = (byteAt(b, at + 4) >> 1) & 7
  const lfe = byteAt(b, at + 4) & 1
  return {
    codec: 'E-AC-3',
    channels: (ac3Channels[mode] ?? 0) + lfe,
    sampleRate: sampleRate ?? null,
    bitDepth: null,
  }
}

/** A core frame of DTS (ETSI TS 102 114 §5.3). */
export function dtsFrame(b: Uint8Array, at = 0): AudioFacts | null {
  if (at + 12 > b.length || ![0x7f, 0xfe, 0x80, 0x01].every((byte, i) => b[at + i] === byte)) return null
  const bits = new Bits(b.subarray(at + 4, at + 12))
  bits.skip(1 + 5 + 1 + 7 + 14)
  const [mode, rate] = [bits.u(6), bits.u(4)]
  bits.skip(5 + 1 + 1 + 1 + 1 + 1 + 3 + 1 + 1)
  const hasLow = bits.u(2) > 0
  const channels = dtsChannels[mode]
  return {
    codec: 'DTS',
    channels: channels === undefined ? null : channels + (hasLow ? 1 : 0),
    sampleRate: dtsRates[rate] || null,
    bitDepth: null,
  }
}

/** AAC in LATM with its synchronisation (ISO/IEC 14496-3 §1.7): the first element that says how it is coded. */
export function latmFrame(b: Uint8Array, at = 0): AudioFacts | null {
  if (at + 12 > b.length || b[at] !== 0x56 || (byteAt(b, at + 1) & 0xe0) !== 0xe0) return null
  const bits = new Bits(b.subarray(at + 3, at + 12))
  // The same as before; another version; several programs or layers: not said here.
  if (bits.flag() || bits.flag() || !bits.flag() || bits.u(6) + bits.u(4) + bits.u(3) > 0) return null
  bits.skip(5)
  const sampleRate = aacRates[bits.u(4)]
  const channels = bits.u(4)
  if (!sampleRate || channels === 0 || channels > 7) return null
  return { codec: 'AAC', channels: channels === 7 ? 8 : channels, sampleRate, bitDepth: null }
}
