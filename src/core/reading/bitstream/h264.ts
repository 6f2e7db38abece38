import { byteAt } from '../bytes/byte-at'
import type { PictureClaim, ClaimedFacts } from '../claims'
import { Bits } from '../bytes/bits'
import { ReadingFault } from '../fault'
import { messagesIn, unescapeUnit } from './nal'
import { readPictureUsability } from './vui'

/** The facts of a sequence parameter set (ITU-T H.264 §7.3.2.1), and what later headers need of it. */
export interface H264Sequence {
  readonly id: number
  readonly facts: ClaimedFacts
  readonly frameMbsOnly: boolean
  readonly frameNumBits: number
  readonly separatePlanes: boolean
  readonly picStructPresent: boolean
  /** Bits to pass before `pic_struct` in a picture timing message. */
  readonly delayBits: number
  /** Ticks of `num_units_in_tick` a second over two: the frame rate that the stream states, or null. */
  readonly statedRate: number | null
  /** Whether all pictures are that far apart (`fixed_frame_rate_flag`). */
  readonly statedIsFixed: boolean
}

const profiles: Record<number, string> = {
  66: 'Baseline',
  77: 'Main',
  88: 'Extended',
  100: 'High',
  110: 'High 10',
  122: 'High 4:2:2',
  244: 'High 4:4:4 Predictive',
  44: 'CAVLC 4:4:4 Intra',
}
const withChromaFormat = new Set([100, 110, 122, 244, 44, 83, 86, 118, 128, 138, 139, 134, 135])

function profileName(idc: number, constraints: number): string | null {
  if (idc === 66 && constraints & 0x40) return 'Constrained Baseline'
  if (idc === 110 && constraints & 0x10) return 'High 10 Intra'
  if (idc === 122 && constraints & 0x10) return 'High 4:2:2 Intra'
  return profiles[idc] ?? null
}

/** Reads a sequence parameter set, header byte included. @throws ReadingFault `damaged` */
export function readH264Sequence(unit: Uint8Array): H264Sequence {
  const bits = new Bits(unescapeUnit(unit))
  bits.skip(8)
  const profileIdc = bits.u(8)
  const constraints = bits.u(8)
  bits.skip(8)
  const id = bits.ue()
  let chromaFormat = 1
  let separatePlanes = false
  let bitDepth = 8
  if (withChromaFormat.has(profileIdc)) {
    chromaFormat = bits.ue()
    if (chromaFormat === 3) separatePlanes = bits.flag()
    bitDepth = 8 + bits.ue()
    bits.ue()
    bits.skip(1)
    if (bits.flag())
      for (let i = 0; i < (chromaFormat === 3 ? 12 : 8); i++)
        if (bits.flag()) skipScalingList(bits, i < 6 ? 16 : 64)
  }
  const frameNumBits = bits.ue() + 4
  const pocType = bits.ue()
  if (pocType === 0) bits.ue()
  else if (pocType === 1) {
    bits.skip(1)
    bits.se()
    bits.se()
    const cycle = Math.min(bits.ue(), 255)
    for (let i = 0; i < cycle; i++) bits.se()
  }
  bits.ue()
  bits.skip(1)
  const widthMbs = bits.ue() + 1
  const heightMapUnits = bits.ue() + 1
  const frameMbsOnly = bits.flag()
  if (!frameMbsOnly) bits.skip(1)
  bits.skip(1)
  const [left, right, top, bottom] = bits.flag()
    ? ([bits.ue(), bits.ue(), bits.ue(), bits.ue()] as const)
    : ([0, 0, 0, 0] as const)
  const cropX = chromaFormat === 1 || chromaFormat === 2 ? 2 : 1
  const cropY = (chromaFormat === 1 ? 2 : 1) * (frameMbsOnly ? 1 : 2)
  const width = widthMbs * 16 - cropX * (left + right)
  const height = heightMapUnits * 16 * (frameMbsOnly ? 1 : 2) - cropY * (top + bottom)
  const facts: ClaimedFacts = {
    profile: profileName(profileIdc, constraints),
    bitDepth,
    chroma: ['4:0:0', '4:2:0', '4:2:2', '4:4:4'][chromaFormat] ?? null,
    scan: frameMbsOnly ? 'progressive' : undefined,
  }
  if (width > 0 && height > 0 && width <= 65535 && height <= 65535) Object.assign(facts, { width, height })
  const vui = bits.flag() ? readVui(bits) : null
  return {
    id,
    facts: { ...facts, ...vui?.facts },
    frameMbsOnly,
    frameNumBits,
    separatePlanes,
    picStructPresent: vui?.picStructPresent ?? false,
    delayBits: vui?.delayBits ?? 0,
    statedRate: vui?.statedRate ?? null,
    statedIsFixed: vui?.statedIsFixed ?? false,
  }
}

function skipScalingList(bits: Bits, size: number) {
  let [last, next] = [8, 8]
  for (let i = 0; i < size; i++) {
    if (next !== 0) next = (last + bits.se() + 256) % 256
    last = next === 0 ? last : next
  }
}

/** Video usability information, Annex E. */
function readVui(bits: Bits) {
  const facts = readPictureUsability(bits)
  let delayBits = 0
  let statedRate: number | null = null
  let statedIsFixed = false
  if (bits.flag()) {
    bits.ue()
    bits.ue()
  }
  if (bits.flag()) {
    const units = bits.u(32)
    const scale = bits.u(32)
    statedIsFixed = bits.flag()
    if (units > 0 && scale > 0) statedRate = scale / (2 * units)
  }
  const readHrd = () => {
    const count = Math.min(bits.ue() + 1, 32)
    bits.skip(8)
    for (let i = 0; i < count; i++) {
      bits.ue()
      bits.ue()
      bits.skip(1)
    }
    bits.skip(5)
    const cpbBits = bits.u(5) + 1
    const dpbBits = bits.u(5) + 1
    bits.skip(5)
    delayBits = cpbBits + dpbBits
  }
  const nalHrd = bits.flag()
  if (nalHrd) readHrd()
  const vclHrd = bits.flag()
  if (vclHrd) readHrd()
  if (nalHrd || vclHrd) bits.skip(1)
  const picStructPresent = bits.flag()
  return { facts, delayBits, picStructPresent, statedRate, statedIsFixed }
}

/** How the frames of a stream are coded, seen from its first pictures. */
interface CodedPictures {
  fieldPictures: number
  bottomFirstField: boolean | null
  /** `pic_struct` of picture timing messages, Table D-1. */
  structures: number[]
}

/**
 * What an H.264 stream says of the picture, from its parameter sets and its first pictures.
 * @param units NAL units in stream order: at least the sequence parameter set.
 * @returns the claims, and the frame rate that the stream states.
 */
export function claimsOfH264(units: Iterable<Uint8Array>): {
  claims: PictureClaim[]
  statedRate: number | null
  statedIsFixed: boolean
  fieldCoded: boolean
} {
  let sequence: H264Sequence | null = null
  const coded: CodedPictures = { fieldPictures: 0, bottomFirstField: null, structures: [] }
  for (const unit of units) {
    if (unit.length < 2) continue
    const type = byteAt(unit, 0) & 31
    if (type === 7) sequence ??= readH264Sequence(unit)
    else if (type === 6 && sequence) readTiming(unit, sequence, coded)
    else if ((type === 1 || type === 5) && sequence && !sequence.frameMbsOnly)
      readSlice(unit, sequence, coded)
  }
  if (!sequence) return { claims: [], statedRate: null, statedIsFixed: false, fieldCoded: false }
  const claims: PictureClaim[] = [
    { layer: 'stream', origin: 'sequence parameter set', facts: sequence.facts },
  ]
  const scan = scanOf(coded)
  if (!sequence.frameMbsOnly && scan) claims.push(scan)
  const { statedRate, statedIsFixed } = sequence
  return { claims, statedRate, statedIsFixed, fieldCoded: coded.fieldPictures > 0 }
}

function scanOf(coded: CodedPictures): PictureClaim | null {
  const topFirst = coded.structures.filter((s) => s === 3 || s === 5 || s === 1).length
  const bottomFirst = coded.structures.filter((s) => s === 4 || s === 6 || s === 2).length
  const layer = 'stream'
  if (coded.fieldPictures > 0) {
    const fieldOrder = coded.bottomFirstField ? 'bottom-first' : 'top-first'
    return { layer, origin: 'slice header: field pictures', facts: { scan: 'interlaced', fieldOrder } }
  }
  const frames = coded.structures.filter((s) => s === 3 || s === 4).length
  if (frames > 0 || topFirst + bottomFirst > 0) {
    const fieldOrder = topFirst >= bottomFirst ? 'top-first' : 'bottom-first'
    return { layer, origin: 'picture timing', facts: { scan: 'interlaced', fieldOrder } }
  }
  if (coded.structures.length > 0) return { layer, origin: 'picture timing', facts: { scan: 'progressive' } }
  return null
}

/** Supplemental messages, §7.3.2.3.1; only picture timing (type 1) is of interest. */
function readTiming(unit: Uint8Array, sequence: H264Sequence, coded: CodedPictures) {
  if (!sequence.picStructPresent) return
  for (const { type, body } of messagesIn(unescapeUnit(unit).subarray(1))) {
    const bits = new Bits(body)
    if (type !== 1 || bits.left < sequence.delayBits + 4) continue
    bits.skip(sequence.delayBits)
    coded.structures.push(bits.u(4))
  }
}

/** The start of a slice header, §7.3.3, as far as the field flags; null where it cannot be read. */
function fieldOfSlice(unit: Uint8Array, sequence: H264Sequence): 'none' | 'top' | 'bottom' | null {
  const bits = new Bits(unescapeUnit(unit.subarray(0, 64)))
  if (bits.left < 32) return null
  bits.skip(8)
  const firstMb = bits.ue()
  bits.ue()
  bits.ue()
  if (sequence.separatePlanes) bits.skip(2)
  bits.skip(sequence.frameNumBits)
  if (sequence.frameMbsOnly || !bits.flag() || firstMb !== 0) return 'none'
  return bits.flag() ? 'bottom' : 'top'
}

/** Whether a slice, header byte included, is of a field that is coded by itself. */
export function isFieldSlice(unit: Uint8Array, sequence: H264Sequence): boolean {
  if (sequence.frameMbsOnly) return false
  try {
    const field = fieldOfSlice(unit, sequence)
    return field === 'top' || field === 'bottom'
  } catch (error) {
    if (error instanceof ReadingFault) return false
    throw error
  }
}

function readSlice(unit: Uint8Array, sequence: H264Sequence, coded: CodedPictures) {
  const field = fieldOfSlice(unit, sequence)
  if (field !== 'top' && field !== 'bottom') return
  coded.bottomFirstField ??= field === 'bottom'
  coded.fieldPictures++
}
