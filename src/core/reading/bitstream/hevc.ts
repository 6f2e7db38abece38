import { byteAt } from '../bytes/byte-at'
import { Bits } from '../bytes/bits'
import type { PictureClaim, ClaimedFacts } from '../claims'
import { messagesIn, unescapeUnit } from './nal'
import { readPictureUsability } from './vui'

const profiles: Record<number, string> = {
  1: 'Main',
  2: 'Main 10',
  3: 'Main Still Picture',
  5: 'High Throughput',
  9: 'Screen Content',
}

/** Types of units that are looked into, Table 7-1. */
const [sequenceSet, prefixMessages] = [33, 39]

/**
 * What an HEVC stream says of the picture: its first sequence parameter set (ITU-T H.265 §7.3.2.2), and the picture timing
 * message of the first picture, which tells the order of fields (§D.2.3).
 */
export function claimsOfHevc(units: Iterable<Uint8Array>): {
  claims: PictureClaim[]
  statedRate: number | null
} {
  let sequence: Sequence | null = null
  for (const unit of units) {
    const type = unit.length > 2 ? (byteAt(unit, 0) >> 1) & 63 : -1
    if (type === sequenceSet) sequence ??= readSequence(unit)
    if (type !== prefixMessages || !sequence?.tellsFields) continue
    const timing = pictureTiming(unit)
    if (timing) return { claims: [timing, setClaim(sequence)], statedRate: sequence.statedRate }
  }
  return { claims: sequence ? [setClaim(sequence)] : [], statedRate: sequence?.statedRate ?? null }
}

const setClaim = ({ facts }: Sequence): PictureClaim => ({
  layer: 'stream',
  origin: 'sequence parameter set',
  facts,
})

/** `pic_struct` of Table D.2: single fields, both fields, fields with a repeat, fields paired with a neighbour. */
const topFirst = new Set([1, 3, 5, 10, 11])
const bottomFirst = new Set([2, 4, 6, 9, 12])

/** The first picture timing message in a unit of messages; null where there is none that tells fields. */
function pictureTiming(unit: Uint8Array): PictureClaim | null {
  for (const { type, body } of messagesIn(unescapeUnit(unit).subarray(2))) {
    if (type !== 1 || body.length < 1) continue
    const bits = new Bits(body)
    const structure = bits.u(4)
    const source = bits.u(2)
    const order = topFirst.has(structure) ? 'top-first' : bottomFirst.has(structure) ? 'bottom-first' : null
    const facts: ClaimedFacts | null =
      order && source !== 1
        ? { scan: 'interlaced', fieldOrder: order }
        : structure === 0 || source === 1
          ? { scan: 'progressive' }
          : null
    return facts && { layer: 'stream', origin: 'picture timing', facts }
  }
  return null
}

/** What a sequence parameter set comes to. */
interface Sequence {
  readonly facts: ClaimedFacts
  readonly statedRate: number | null
  /** Whether picture timing messages begin with the structure of the picture. */
  readonly tellsFields: boolean
}

function readSequence(unit: Uint8Array): Sequence {
  const bits = new Bits(unescapeUnit(unit))
  bits.skip(16 + 4)
  const subLayers = bits.u(3)
  bits.skip(1)
  const { profileIdc, scan } = readProfile(bits, subLayers)
  bits.ue()
  const chromaFormat = bits.ue()
  if (chromaFormat === 3) bits.skip(1)
  const [codedWidth, codedHeight] = [bits.ue(), bits.ue()]
  const [left, right, top, bottom] = bits.flag()
    ? ([bits.ue(), bits.ue(), bits.ue(), bits.ue()] as const)
    : ([0, 0, 0, 0] as const)
  const width = codedWidth - (chromaFormat === 1 || chromaFormat === 2 ? 2 : 1) * (left + right)
  const height = codedHeight - (chromaFormat === 1 ? 2 : 1) * (top + bottom)
  const bitDepth = 8 + bits.ue()
  const chroma = ['4:0:0', '4:2:0', '4:2:2', '4:4:4'][chromaFormat] ?? null
  const facts: ClaimedFacts = { profile: profileName(profileIdc, chroma, bitDepth), bitDepth, chroma, scan }
  if (width > 0 && height > 0 && width <= 65535 && height <= 65535) Object.assign(facts, { width, height })
  const vui = readToVui(bits, subLayers)
  return { ...vui, facts: { ...facts, ...vui.facts } }
}

const profileName = (idc: number, chroma: string | null, depth: number): string | null =>
  idc === 4
    ? `Main ${chroma === '4:2:0' ? '' : `${chroma} `}${depth > 8 ? depth : ''}`.trim()
    : (profiles[idc] ?? null)

/** profile_tier_level, §7.3.3. The source flags tell progressive from interlaced where exactly one is set. */
function readProfile(bits: Bits, subLayers: number): { profileIdc: number; scan: ClaimedFacts['scan'] } {
  bits.skip(3)
  const profileIdc = bits.u(5)
  bits.skip(32)
  const [progressive, interlaced] = [bits.flag(), bits.flag()]
  bits.skip(46 + 8)
  const present = Array.from({ length: subLayers }, () => [bits.flag(), bits.flag()])
  if (subLayers > 0) bits.skip(2 * (8 - subLayers))
  for (const [profile, level] of present) bits.skip((profile ? 88 : 0) + (level ? 8 : 0))
  return {
    profileIdc,
    scan: progressive === interlaced ? undefined : progressive ? 'progressive' : 'interlaced',
  }
}

/** From the bit depths to the end of the usability information. */
function readToVui(bits: Bits, subLayers: number): Sequence {
  bits.ue()
  const pocBits = bits.ue() + 4
  for (let i = bits.flag() ? 0 : subLayers; i <= subLayers; i++) {
    bits.ue()
    bits.ue()
    bits.ue()
  }
  for (let i = 0; i < 6; i++) bits.ue()
  if (bits.flag() && bits.flag()) skipScalingLists(bits)
  bits.skip(2)
  if (bits.flag()) {
    bits.skip(8)
    bits.ue()
    bits.ue()
    bits.skip(1)
  }
  skipReferenceSets(bits)
  if (bits.flag()) for (let n = Math.min(bits.ue(), 32); n > 0; n--) bits.skip(pocBits + 1)
  bits.skip(2)
  return bits.flag() ? readVui(bits) : { facts: {}, statedRate: null, tellsFields: false }
}

function skipScalingLists(bits: Bits) {
  for (let size = 0; size < 4; size++) {
    for (let matrix = 0; matrix < 6; matrix += size === 3 ? 3 : 1) {
      if (!bits.flag()) bits.ue()
      else {
        if (size > 1) bits.se()
        for (let i = 0; i < Math.min(64, 1 << (4 + (size << 1))); i++) bits.se()
      }
    }
  }
}

/** Short-term reference picture sets, §7.3.7: each may be told as a change of the one before. */
function skipReferenceSets(bits: Bits) {
  const count = Math.min(bits.ue(), 64)
  let pictures = 0
  for (let set = 0; set < count; set++) {
    if (set > 0 && bits.flag()) {
      bits.skip(1)
      bits.ue()
      let kept = 0
      for (let i = 0; i <= pictures; i++) {
        const used = bits.flag()
        if (used || bits.flag()) kept++
      }
      pictures = kept
    } else {
      const negative = Math.min(bits.ue(), 16)
      const positive = Math.min(bits.ue(), 16)
      for (let i = 0; i < negative + positive; i++) {
        bits.ue()
        bits.skip(1)
      }
      pictures = negative + positive
    }
  }
}

/** Annex E, as far as the timing. */
function readVui(bits: Bits): Sequence {
  const facts = readPictureUsability(bits)
  if (bits.flag()) {
    bits.ue()
    bits.ue()
  }
  bits.skip(1)
  // Fields coded one by one: the picture is interlaced whatever the profile's flags leave open.
  if (bits.flag()) facts.scan = 'interlaced'
  const tellsFields = bits.flag()
  if (bits.flag()) for (let i = 0; i < 4; i++) bits.ue()
  if (!bits.flag()) return { facts, statedRate: null, tellsFields }
  const [units, scale] = [bits.u(32), bits.u(32)]
  return { facts, statedRate: units > 0 && scale > 0 ? scale / units : null, tellsFields }
}
