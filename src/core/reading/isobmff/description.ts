import { rational } from '../../rational/rational'
import type { PictureClaim, ClaimedFacts } from '../claims'
import { ac3Channels } from '../audio/frames'
import { audioCodec, codecOfObjectType, videoCodec } from '../codecs'
import { colourFromCodes } from '../colour'
import { Bits } from '../bytes/bits'
import type { Cursor } from '../bytes/cursor'
import type { AudioFacts } from '../reading'
import { boxesIn, readFullBox } from './box'

/** A visual sample entry (ISO/IEC 14496-12 §12.1.3), and what its extensions claim. */
export interface VisualDescription {
  readonly code: string
  readonly codec: string
  readonly profile: string | null
  readonly claims: readonly PictureClaim[]
  /** The codec's own configuration record, e.g. `avcC`, by its type. */
  readonly configuration: { readonly type: string; readonly bytes: Uint8Array } | null
  readonly cleanAperture: { readonly width: number; readonly height: number } | null
}

const configurations = new Set([
  'avcC',
  'hvcC',
  'av1C',
  'vpcC',
  'esds',
  'glbl',
  'ACLR',
  'ARES',
  'jp2h',
  'dvcC',
])

/** Codecs whose sample entry says by its depth of 32 that there is alpha (QuickTime File Format). */
const mayHaveAlpha = new Set(['ProRes', 'PNG', 'uncompressed', 'run-length'])

/** Reads a visual sample entry after its type. @throws ReadingFault `damaged` */
export function readVisual(code: string, body: Cursor): VisualDescription {
  body.skip(8 + 16)
  const width = body.u16()
  const height = body.u16()
  body.skip(4 + 4 + 4 + 2 + 32)
  const depth = body.u16()
  body.skip(2)
  const known = videoCodec(code)
  const claims: PictureClaim[] = []
  const claim = (origin: string, facts: ClaimedFacts, decides = false) =>
    claims.push({ layer: 'wrapper', origin, facts, ...(decides ? { decides } : {}) })
  if (width && height) claim('sample entry', { width, height })
  const { codec: _, ...ofCode } = known ?? { codec: '' }
  if (known) claim(`code ${code.trim()}`, ofCode)
  if (known && mayHaveAlpha.has(known.codec)) {
    claim('sample entry depth', { alpha: depth === 32 })
  }

  let configuration: VisualDescription['configuration'] = null
  let cleanAperture: VisualDescription['cleanAperture'] = null
  let codec = known?.codec ?? `unknown (${code.trim()})`
  for (const box of boxesIn(body)) {
    const inside = box.body
    if (box.type === 'pasp' && inside.left >= 8) {
      const [num, den] = [inside.u32(), inside.u32()]
      if (num > 0 && den > 0) claim('pasp', { pixelAspect: rational(num, den) })
    } else if (box.type === 'fiel' && inside.left >= 2) {
      claim('fiel', fieldFacts(inside.u8(), inside.u8()))
    } else if (box.type === 'colr' && inside.left >= 10) {
      const kind = inside.code()
      if (kind === 'nclc' || kind === 'nclx') {
        const codes = [inside.u16(), inside.u16(), inside.u16()] as const
        const full = kind === 'nclx' && inside.left >= 1 ? (inside.u8() & 0x80) !== 0 : undefined
        // ISO/IEC 14496-12 §12.1.5.1: what stands here holds against the bitstream.
        claim('colr', colourFromCodes(...codes, full), kind === 'nclx')
      }
    } else if (box.type === 'clap' && inside.left >= 32) {
      const [wn, wd, hn, hd] = [inside.u32(), inside.u32(), inside.u32(), inside.u32()]
      if (wd > 0 && hd > 0 && wn > 0 && hn > 0) cleanAperture = { width: wn / wd, height: hn / hd }
    } else if (configurations.has(box.type)) {
      configuration ??= { type: box.type, bytes: inside.bytes }
      if (box.type === 'esds') codec = codecOfObjectType(decoderConfig(inside).objectType) ?? codec
    }
  }
  return { code, codec, profile: known?.profile ?? null, claims, configuration, cleanAperture }
}

/** QuickTime `fiel`: the number of fields, and their order in display (first digit of the detail byte is the field shown first). */
function fieldFacts(fields: number, detail: number): ClaimedFacts {
  if (fields === 1) return { scan: 'progressive' }
  if (fields !== 2) return {}
  const topFirst = detail === 1 || detail === 9
  const bottomFirst = detail === 6 || detail === 14
  return { scan: 'interlaced', fieldOrder: topFirst ? 'top-first' : bottomFirst ? 'bottom-first' : 'unknown' }
}

/** What an `esds` box says of the decoder (ISO/IEC 14496-1 §7.2.6): its object type, 0 where there is none, and what is set up in it. */
function decoderConfig(body: Cursor): { readonly objectType: number; readonly setup: Uint8Array } {
  const nothing = { objectType: 0, setup: new Uint8Array(0) }
  readFullBox(body)
  const header = () => {
    const tag = body.u8()
    let length = 0
    for (let i = 0, more = true; i < 4 && more; i++) {
      const byte = body.u8()
      length = length * 128 + (byte & 0x7f)
      more = (byte & 0x80) !== 0
    }
    return { tag, length }
  }
  if (body.left < 5 || header().tag !== 3) return nothing
  body.skip(2)
  const flags = body.u8()
  if (flags & 0x80) body.skip(2)
  if (flags & 0x40) body.skip(body.u8())
  if (flags & 0x20) body.skip(2)
  if (header().tag !== 4) return nothing
  const objectType = body.u8()
  if (body.left < 14) return { ...nothing, objectType }
  body.skip(12)
  const { tag, length } = header()
  return { objectType, setup: tag === 5 ? body.slice(Math.min(length, body.left)) : nothing.setup }
}

/** Channels by the configuration of AAC (ISO/IEC 14496-3 §1.6.2.1, Table 1.19); what the sample entry counts is often a template. */
const channelsOfConfiguration = [null, 1, 2, 3, 4, 5, 6, 8, null, null, null, 7, 8, null, 8]

function channelsOfAac(setup: Uint8Array): number | null {
  if (setup.length < 2) return null
  const bits = new Bits(setup)
  if (bits.u(5) === 31) bits.skip(6)
  if (bits.u(4) === 15) bits.skip(24)
  return channelsOfConfiguration[bits.u(4)] ?? null
}

/** Channels at further places that dependent streams add, from the first bit on (Table E.1.1 in Annex F.6). */
const channelsAtPlaces = [2, 2, 1, 1, 2, 2, 2, 1, 1]

/** Channels by the box beside AC-3 and E-AC-3 (ETSI TS 102 366 Annex F.4, F.6): what the sample entry counts is a template. */
function channelsOfAc3(type: 'dac3' | 'dec3', body: Cursor): number | null {
  const bits = new Bits(body.slice(body.left))
  if (bits.left < 24) return null
  if (type === 'dac3') {
    bits.skip(2 + 5 + 3)
    return (ac3Channels[bits.u(3)] ?? 0) + bits.u(1)
  }
  bits.skip(13)
  const streams = bits.u(3) + 1
  let channels = 0
  for (let i = 0; i < streams && bits.left >= 24; i++) {
    bits.skip(2 + 5 + 1 + 1 + 3)
    channels += (ac3Channels[bits.u(3)] ?? 0) + bits.u(1)
    bits.skip(3)
    if (bits.u(4) === 0) bits.skip(1)
    else for (const more of channelsAtPlaces) channels += bits.u(1) * more
  }
  return channels || null
}

/** Reads an audio sample entry after its type: versions 0, 1 and 2 of QuickTime, and ISO's. */
export function readSound(code: string, body: Cursor): AudioFacts {
  body.skip(8)
  const version = body.u16()
  body.skip(6)
  let channels = body.u16()
  let bitDepth: number | null = body.u16()
  body.skip(4)
  let sampleRate = body.u32() / 65536
  if (version === 1 && body.left >= 16) body.skip(16)
  else if (version === 2 && body.left >= 36) {
    body.skip(4)
    sampleRate = body.f64()
    channels = body.u32()
    body.skip(4)
    bitDepth = body.u32()
    body.skip(12)
  }
  const known = audioCodec(code)
  let codec = known?.codec ?? `unknown (${code.trim()})`
  for (const box of boxesIn(body)) {
    if (box.type === 'esds') {
      const { objectType, setup } = decoderConfig(box.body)
      codec = codecOfObjectType(objectType) ?? codec
      if (codec === 'AAC') channels = channelsOfAac(setup) ?? channels
    }
    if (box.type === 'dac3' || box.type === 'dec3') channels = channelsOfAc3(box.type, box.body) ?? channels
    if (box.type === 'pcmC' && box.body.left >= 6) bitDepth = box.body.skip(5).u8()
  }
  const stated = known?.bitDepth ?? bitDepth
  return {
    codec,
    channels: channels || null,
    sampleRate: Number.isFinite(sampleRate) && sampleRate > 0 ? sampleRate : null,
    // Only uncompressed and lossless sound has a depth; others decode to whatever is asked.
    bitDepth: /^(PCM|ALAC|FLAC)/.test(codec) ? stated || null : null,
  }
}
