import { kilobytes } from '../../words/figures'
import { frameToTimecode } from '../../rate/timecode'
import { rational, toNumber } from '../../rational/rational'
import { snapToStandard } from '../../rate/rate'
import { type WrapperReading, assemblePicture, makeReading } from '../assemble'
import { claimsOfStream } from '../bitstream/frame-claims'
import type { FileWindow } from '../bytes/source'
import { type Fault, ReadingFault } from '../fault'
import type { Note, Reading } from '../reading'
import { Cursor } from '../bytes/cursor'
import { type PictureDescriptor, pictureDescriptor, soundDescriptors } from './descriptors'
import { type LocalSet, batchOf, hex, i64Of, labelOf, readKlv, u16Of, u8Of } from './klv'
import { type Partition, findFooter, findHeader, readMetadata } from './partition'

/** Reads MXF files (SMPTE ST 377-1), OP1a (ST 378) and OPAtom (ST 390): header metadata, footer where the header is open. */
export async function readMxf(file: FileWindow): Promise<WrapperReading> {
  const header = await findHeader(file)
  let sets = await readMetadata(file, header)
  const footer =
    header.footerPartition > 0 || !header.complete ? await findFooter(file, header).catch(() => null) : null
  const notes: Note[] = []
  if ((!header.complete || !pictureDescriptor(sets)?.duration) && footer && footer.headerByteCount > 0) {
    const closed = await readMetadata(file, footer)
    if (closed.length > 0) {
      sets = closed
      notes.push({
        code: 'footer-metadata',
        message: 'The header was left open while recording; the facts are from the footer.',
      })
    }
  }
  const descriptor = pictureDescriptor(sets)
  const sounds = soundDescriptors(sets)
  if (!descriptor && sounds.length === 0)
    throw new ReadingFault('damaged', 'The metadata describes neither picture nor sound.', header.klv.offset)

  const picture = descriptor ? await readPicture(file, header, descriptor, sets) : null
  const reading = makeReading({
    kind: picture ? 'video' : 'audio',
    container: 'MXF',
    sizeBytes: file.size,
    durationSec: picture?.durationSec ?? soundDuration(sets),
    video: picture?.video ?? null,
    audio: sounds,
    timecode: timecodeOf(sets),
    recordedAt: dateOf(sets),
    reel: reelOf(sets),
    notes: [...notes, ...(picture?.notes ?? [])],
  })
  const origins = { ...picture?.origins, durationSec: 'picture descriptor', timecode: 'material package' }
  return { reading, origins, fault: footerCutOff(file, header, footer) ?? picture?.fault ?? null }
}

function footerCutOff(file: FileWindow, header: Partition, footer: Partition | null): Fault | null {
  const footerAt = header.klv.offset + header.footerPartition
  if (header.footerPartition === 0 || footer || footerAt < file.size) return null
  const message = `Cut off after ${kilobytes(file.size)}; its footer stood at ${kilobytes(footerAt)}. Copy it again.`
  return { code: 'truncated', message, offset: file.size }
}

async function readPicture(
  file: FileWindow,
  header: Partition,
  descriptor: PictureDescriptor,
  sets: readonly LocalSet[],
) {
  const frame = await firstFrame(file, header)
  const stream = claimsOfStream(descriptor.codec, frame)
  const stated = descriptor.rate ?? trackRate(sets)
  const rate = stated ? (snapToStandard(toNumber(stated)) ?? stated) : null
  const frames = descriptor.duration ?? sequenceDuration(sets)
  const picture = assemblePicture({
    fault: stream.fault,
    codec: stream.codec ?? descriptor.codec,
    profile: descriptor.profile,
    claims: [...stream.claims, ...descriptor.claims],
    rate: { rate, rateMode: rate ? 'constant' : 'unknown' },
    rateOrigin: 'picture descriptor',
    frameCount: frames,
  })
  return { ...picture, durationSec: rate && frames ? frames / toNumber(rate) : null }
}

const firstBytes = 32 * 1024
/** Packs that are stepped over between the header and the first frame: index tables, filler, system items, sound. */
const mostPacks = 400

/** The first bytes of the first picture element (SMPTE ST 379-2 §7.1): its key names a picture or compound item. */
async function firstFrame(file: FileWindow, header: Partition): Promise<Uint8Array> {
  let offset = header.klv.start + header.klv.length + header.headerByteCount + header.indexByteCount
  // Counts that leave out filler lead astray: then every pack is stepped over from the start.
  if (!(await readKlv(file, offset))) offset = header.klv.start + header.klv.length
  for (let n = 0; n < mostPacks && file.canStep; n++) {
    const klv = await readKlv(file, offset)
    if (!klv) break
    if (/^060e2b34010201..0d010301(05|15|18|08)/.test(klv.key))
      return file.some(klv.start, Math.min(klv.length, firstBytes))
    offset = klv.start + klv.length
  }
  return new Uint8Array(0)
}

const kind = {
  track: 0x3b,
  sequence: 0x0f,
  timecode: 0x14,
  material: 0x36,
  source: 0x37,
  tape: 0x2e,
  identification: 0x30,
  preface: 0x2f,
}

const uid = (set: LocalSet) => {
  const item = set.items.get(0x3c0a)
  return item ? hex(item.bytes) : ''
}
const referred = (sets: readonly LocalSet[], set: LocalSet | undefined, tag: number): LocalSet[] => {
  const wanted = batchOf(set?.items.get(tag), 16).map((reference) => hex(reference.bytes))
  return wanted.flatMap((id) => sets.filter((s) => uid(s) === id))
}

function trackRate(sets: readonly LocalSet[]) {
  for (const set of sets) {
    const item = set.kind === kind.track ? set.items.get(0x4b01) : undefined
    if (!item || item.length < 8) continue
    const cursor = new Cursor(item.bytes)
    const [num, den] = [cursor.i32(), cursor.i32()]
    if (num > 0 && den > 0) return rational(num, den)
  }
  return null
}

/** The duration of the first sequence of pictures, in frames. */
function sequenceDuration(sets: readonly LocalSet[]): number | null {
  for (const set of sets) {
    if (
      set.kind !== kind.sequence ||
      !labelOf(set.items.get(0x0201))?.startsWith('060e2b34040101010103020201')
    )
      continue
    const duration = i64Of(set.items.get(0x0202))
    if (duration !== undefined && duration > 0) return duration
  }
  return null
}

function soundDuration(sets: readonly LocalSet[]): number | null {
  for (const set of sets) {
    const duration = i64Of(set.items.get(0x3002))
    const item = set.items.get(0x3001)
    if (duration === undefined || duration <= 0 || !item || item.length < 8) continue
    const cursor = new Cursor(item.bytes)
    const [num, den] = [cursor.i32(), cursor.i32()]
    if (num > 0 && den > 0) return (duration * den) / num
  }
  return null
}

/** The timecode of the material package, which is what an editor sees; else the first that is there. */
function timecodeOf(sets: readonly LocalSet[]): Reading['timecode'] {
  const material = sets.find((set) => set.kind === kind.material)
  const ofMaterial = referred(sets, material, 0x4403)
    .flatMap((track) => {
      const item = track.items.get(0x4803)
      return item ? sets.filter((s) => uid(s) === hex(item.bytes)) : []
    })
    .flatMap((sequence) => referred(sets, sequence, 0x1001))
    .find((component) => component.kind === kind.timecode)
  const component = ofMaterial ?? sets.find((set) => set.kind === kind.timecode)
  const start = i64Of(component?.items.get(0x1501))
  const base = u16Of(component?.items.get(0x1502))
  if (start === undefined || !base || base > 240) return null
  const dropFrame = u8Of(component?.items.get(0x1503)) === 1
  const rate = dropFrame ? rational(base * 1000, 1001) : rational(base)
  return { start: frameToTimecode(start, rate, dropFrame), dropFrame }
}

/** The reel: the name of the physical source package whose descriptor is of a tape (ST 377-1 Annex B). */
function reelOf(sets: readonly LocalSet[]): string | null {
  const tapes = new Set(sets.filter((set) => set.kind === kind.tape).map(uid))
  for (const set of sets) {
    const descriptor = set.kind === kind.source ? set.items.get(0x4701) : undefined
    const name = set.items.get(0x4402)
    if (!descriptor || !name || !tapes.has(hex(descriptor.bytes))) continue
    const text = new TextDecoder('utf-16be').decode(name.bytes).split('\0', 1).join('').trim()
    if (text) return text
  }
  return null
}

/** When the file was last written: the preface's date, else the identification's (ST 377-1 §4.3). */
function dateOf(sets: readonly LocalSet[]): string | null {
  const item =
    sets.find((set) => set.kind === kind.preface)?.items.get(0x3b02) ??
    sets.find((set) => set.kind === kind.identification)?.items.get(0x3c06)
  if (!item || item.length < 8) return null
  const cursor = new Cursor(item.bytes)
  const [year, month, day, hour, minute, second] = [
    cursor.u16(),
    cursor.u8(),
    cursor.u8(),
    cursor.u8(),
    cursor.u8(),
    cursor.u8(),
  ]
  if (
    year < 1970 ||
    month < 1 ||
    month > 12 ||
    day < 1 ||
    day > 31 ||
    hour > 23 ||
    minute > 59 ||
    second > 59
  )
    return null
  const two = (n: number) => String(n).padStart(2, '0')
  return `${year}-${two(month)}-${two(day)}T${two(hour)}:${two(minute)}:${two(second)}Z`
}
