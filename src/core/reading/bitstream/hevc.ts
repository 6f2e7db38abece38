import { Bits } from '../bytes/bits'
import type { PictureClaim, PictureFacts } from '../claims'
import { unescapeUnit } from './nal'
import { readPictureUsability } from './vui'

const profiles: Record<number, string> = {
  1: 'Main',
  2: 'Main 10',
  3: 'Main Still Picture',
  5: 'High Throughput',
  9: 'Screen Content',
}

/** What an HEVC stream says of the picture, from its first sequence parameter set (ITU-T H.265 §7.3.2.2). */
export function claimsOfHevc(units: Iterable<Uint8Array>): {
  claims: PictureClaim[]
  statedRate: number | null
} {
  for (const unit of units) {
    if (unit.length > 2 && ((unit[0] >> 1) & 63) === 33) {
      const { facts, statedRate } = readSequence(unit)
      return { claims: [{ layer: 'stream', origin: 'sequence parameter set', facts }], statedRate }
    }
  }
  return { claims: [], statedRate: null }
}

function readSequence(unit: Uint8Array): { facts: PictureFacts; statedRate: number | null } {
  const bits = new Bits(unescapeUnit(unit))
  bits.skip(16 + 4)
  const subLayers = bits.u(3)
  bits.skip(1)
  const { profileIdc, scan } = readProfile(bits, subLayers)
  bits.ue()
  const chromaFormat = bits.ue()
  if (chromaFormat === 3) bits.skip(1)
  const [codedWidth, codedHeight] = [bits.ue(), bits.ue()]
  const crop = bits.flag() ? [bits.ue(), bits.ue(), bits.ue(), bits.ue()] : [0, 0, 0, 0]
  const width = codedWidth - (chromaFormat === 1 || chromaFormat === 2 ? 2 : 1) * (crop[0] + crop[1])
  const height = codedHeight - (chromaFormat === 1 ? 2 : 1) * (crop[2] + crop[3])
  const bitDepth = 8 + bits.ue()
  const chroma = ['4:0:0', '4:2:0', '4:2:2', '4:4:4'][chromaFormat] ?? null
  const facts: PictureFacts = { profile: profileName(profileIdc, chroma, bitDepth), bitDepth, chroma, scan }
  if (width > 0 && height > 0 && width <= 65535 && height <= 65535) Object.assign(facts, { width, height })
  const vui = readToVui(bits, subLayers)
  return { facts: { ...facts, ...vui.facts }, statedRate: vui.statedRate }
}

const profileName = (idc: number, chroma: string | null, depth: number): string | null =>
  idc === 4
    ? `Main ${chroma === '4:2:0' ? '' : `${chroma} `}${depth > 8 ? depth : ''}`.trim()
    : (profiles[idc] ?? null)

/** profile_tier_level, §7.3.3. The source flags tell progressive from interlaced where exactly one is set. */
function readProfile(bits: Bits, subLayers: number): { profileIdc: number; scan: PictureFacts['scan'] } {
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
function readToVui(bits: Bits, subLayers: number): { facts: PictureFacts; statedRate: number | null } {
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
  return bits.flag() ? readVui(bits) : { facts: {}, statedRate: null }
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
function readVui(bits: Bits): { facts: PictureFacts; statedRate: number | null } {
  const facts = readPictureUsability(bits)
  if (bits.flag()) {
    bits.ue()
    bits.ue()
  }
  bits.skip(1)
  // Fields coded one by one: the picture is interlaced whatever the profile's flags leave open.
  if (bits.flag()) facts.scan = 'interlaced'
  bits.skip(1)
  if (bits.flag()) for (let i = 0; i < 4; i++) bits.ue()
  if (!bits.flag()) return { facts, statedRate: null }
  const [units, scale] = [bits.u(32), bits.u(32)]
  return { facts, statedRate: units > 0 && scale > 0 ? scale / units : null }
}
