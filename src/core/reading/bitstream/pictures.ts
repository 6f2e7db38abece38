import { byteAt } from '../bytes/byte-at'
import { ReadingFault } from '../fault'
import { type H264Sequence, isFieldSlice, readH264Sequence } from './h264'

/** A picture of an elementary stream, in the order stored. */
export interface CodedPicture {
  /** Where what belongs to it begins in the stream: the first header in front of it. */
  readonly at: number
  /** How many fields it is shown for: two a frame, three with one repeated, one where it is a field alone. */
  readonly fields: number
  /** Its place in the order of display, within its group; null where the codec counts otherwise. */
  readonly order: number | null
  /** Whether a group begins with it: places are counted anew. */
  readonly opensGroup: boolean
}

/** What is found of each kind of codec by its start codes; null where none stands in front of a picture. */
type Finder = (stream: Uint8Array) => CodedPicture[]

const finders: Readonly<Record<string, Finder>> = {
  'MPEG-1': mpeg2Pictures,
  'MPEG-2': mpeg2Pictures,
  'MPEG-4 Visual': (stream) => unitPictures(stream, (_, at) => stream[at] === 0xb6, isMpeg4Header),
  'H.264': h264Pictures,
  HEVC: (stream) => unitPictures(stream, isHevcPicture, isHevcHeader),
  'VC-1': (stream) => unitPictures(stream, (_, at) => stream[at] === 0x0d, isVc1Header),
}

/**
 * The pictures in a stretch of an elementary stream; fields of one frame are one picture. Null for a codec whose pictures are not told
 * by start codes: its packets are its pictures.
 */
export function codedPictures(codec: string, stream: Uint8Array): CodedPicture[] | null {
  const found = finders[codec]?.(stream)
  return found ? joinedFields(found) : null
}

/** Fields that are coded one by one: two of them are a frame. */
function joinedFields(pictures: readonly CodedPicture[]): CodedPicture[] {
  const frames: CodedPicture[] = []
  let isOpen = false
  for (const picture of pictures) {
    const last = frames.at(-1)
    if (picture.fields === 1 && isOpen && last) {
      frames[frames.length - 1] = { ...last, fields: 2 }
      isOpen = false
      continue
    }
    frames.push(picture)
    isOpen = picture.fields === 1
  }
  return frames
}

/** Where the start codes 00 00 01 stand: the byte behind each. Ones are sparse, so they are what is sought. */
function* startCodes(stream: Uint8Array): Generator<number> {
  for (let at = stream.indexOf(1, 2); at >= 0; at = stream.indexOf(1, at + 1))
    if (stream[at - 1] === 0 && stream[at - 2] === 0 && at + 1 < stream.length) yield at + 1
}

/** Sequence, group and picture headers of ISO/IEC 13818-2 §6.2, with what the picture coding extension says of fields. */
function mpeg2Pictures(stream: Uint8Array): CodedPicture[] {
  const pictures: CodedPicture[] = []
  let [begins, opensGroup, isProgressive] = [-1, false, false]
  for (const at of startCodes(stream)) {
    const code = byteAt(stream, at)
    if (code === 0xb3 || code === 0xb8) {
      if (begins < 0) begins = at - 3
      if (code === 0xb8) opensGroup = true
    } else if (code === 0) {
      const order = (byteAt(stream, at + 1) << 2) | (byteAt(stream, at + 2) >> 6)
      pictures.push({ at: begins < 0 ? at - 3 : begins, fields: 2, order, opensGroup })
      ;[begins, opensGroup] = [-1, false]
    } else if (code === 0xb5) {
      const kind = byteAt(stream, at + 1) >> 4
      const last = pictures.at(-1)
      if (kind === 1) isProgressive = (byteAt(stream, at + 2) & 8) !== 0
      else if (kind === 8 && last && begins < 0)
        pictures[pictures.length - 1] = {
          ...last,
          fields: fieldsOf(byteAt(stream, at + 3), byteAt(stream, at + 4), isProgressive),
        }
    }
  }
  return pictures
}

/** Fields of a picture, §6.3.10: in a progressive sequence a repeat is one of whole frames. */
function fieldsOf(third: number, fourth: number, isProgressive: boolean): number {
  const isFrame = (third & 3) === 3
  if (!isFrame) return 1
  const [topFirst, repeats] = [(fourth & 0x80) !== 0, (fourth & 2) !== 0]
  if (!repeats) return 2
  return isProgressive ? (topFirst ? 6 : 4) : 3
}

/** Pictures whose codec numbers none of them: units that begin one, and headers that stand in front. */
function unitPictures(
  stream: Uint8Array,
  begins: (stream: Uint8Array, at: number) => boolean,
  isHeader: (stream: Uint8Array, at: number) => boolean,
  fieldsAt: (at: number) => number = () => 2,
): CodedPicture[] {
  const pictures: CodedPicture[] = []
  let header = -1
  for (const at of startCodes(stream)) {
    if (begins(stream, at)) {
      pictures.push({
        at: header < 0 ? at - 3 : header,
        fields: fieldsAt(at),
        order: null,
        opensGroup: false,
      })
      header = -1
    } else if (header < 0 && isHeader(stream, at)) header = at - 3
  }
  return pictures
}

const isMpeg4Header = (stream: Uint8Array, at: number) => {
  const code = byteAt(stream, at)
  return code === 0xb0 || code === 0xb3 || code === 0xb5 || (code >= 0x20 && code <= 0x2f)
}
const isVc1Header = (stream: Uint8Array, at: number) => byteAt(stream, at) === 0x0f || stream[at] === 0x0e

/** A slice segment that is the first of its picture, ITU-T H.265 §7.3.6.1. */
const isHevcPicture = (stream: Uint8Array, at: number) =>
  (byteAt(stream, at) & 0x80) === 0 &&
  ((byteAt(stream, at) >> 1) & 63) < 32 &&
  (byteAt(stream, at + 2) & 0x80) !== 0
const isHevcHeader = (stream: Uint8Array, at: number) => {
  const type = (byteAt(stream, at) >> 1) & 63
  return type >= 32 && type <= 39
}

/** A slice whose first macroblock is the first of its picture, ITU-T H.264 §7.3.3. */
function h264Pictures(stream: Uint8Array): CodedPicture[] {
  let sequence: H264Sequence | null = null
  const isSlice = (at: number) => {
    const type = byteAt(stream, at) & 31
    return (type === 1 || type === 2 || type === 5) && (byteAt(stream, at + 1) & 0x80) !== 0
  }
  return unitPictures(
    stream,
    (_, at) => isSlice(at),
    (_, at) => {
      const type = byteAt(stream, at) & 31
      if (type === 7) sequence = sequenceAt(stream, at) ?? sequence
      return type >= 6 && type <= 9
    },
    (at) => (sequence && isFieldSlice(stream.subarray(at, at + 64), sequence) ? 1 : 2),
  )
}

function sequenceAt(stream: Uint8Array, at: number): H264Sequence | null {
  try {
    return readH264Sequence(stream.subarray(at, at + 1024))
  } catch (error) {
    if (error instanceof ReadingFault) return null
    throw error
  }
}
