import { type Rotation } from '../../picture/turn'
import type { AudioFacts } from '../reading'
import { Cursor, utf8 } from '../bytes/cursor'
import { boxesIn, findBox, readFullBox } from './box'
import { type VisualDescription, readSound, readVisual } from './description'
import type { CondensedTable } from './large-index'
import { type SampleTable, readSampleTable } from './samples'

/** A timecode sample entry (QuickTime `tmcd`). */
export interface TimecodeDescription {
  readonly dropFrame: boolean
  readonly timescale: number
  readonly frameDuration: number
  readonly framesPerSecond: number
  /** The reel that the timecode counts on, where it is named. */
  readonly reel: string | null
}

/** One `trak` of the movie box. */
export interface IsoTrack {
  readonly id: number
  /** `vide`, `soun`, `tmcd` … */
  readonly handler: string
  /** Units a second of the media's clock. */
  readonly timescale: number
  readonly duration: number
  readonly rotation: Rotation
  readonly mirrored: boolean
  readonly visual: VisualDescription | null
  readonly sound: AudioFacts | null
  readonly timecode: TimecodeDescription | null
  readonly samples: SampleTable
  /** Edit list: durations in the movie's clock, start in the media's (−1 = empty). */
  readonly edits: readonly { duration: number; mediaTime: number }[]
}

/** Reads a `trak`. @returns null where it has no media. @throws ReadingFault `damaged` */
export function readTrack(trak: Cursor, condensed?: ReadonlyMap<number, CondensedTable>): IsoTrack | null {
  const header = findBox(trak, 'tkhd')
  const mediaHeader = findBox(trak, 'mdia', 'mdhd')
  const handlerBox = findBox(trak, 'mdia', 'hdlr')
  const tables = findBox(trak, 'mdia', 'minf', 'stbl')
  if (!header || !mediaHeader || !handlerBox) return null

  const head = readHeader(header.body)
  const { timescale, duration } = readMediaHeader(mediaHeader.body)
  handlerBox.body.skip(8)
  const handler = handlerBox.body.code()
  const stbl = tables?.body ?? new Cursor(new Uint8Array(0))
  return {
    id: head.id,
    handler,
    timescale,
    duration,
    rotation: head.rotation,
    mirrored: head.mirrored,
    ...readDescription(stbl, handler),
    samples: readSampleTable(new Cursor(stbl.bytes, stbl.base), condensed),
    edits: readEdits(trak),
  }
}

function readHeader(body: Cursor) {
  const { version } = readFullBox(body)
  body.skip(version === 1 ? 16 : 8)
  const id = body.u32()
  body.skip(4 + (version === 1 ? 8 : 4) + 8 + 8)
  const [a, b, , c, d] = [body.i32(), body.i32(), body.i32(), body.i32(), body.i32()]
  return { id, ...turnOf(a, b, c, d) }
}

/** The clockwise turn of a transformation matrix; a mirrored picture is told, and turned as if it were not. */
function turnOf(a: number, b: number, c: number, d: number): { rotation: Rotation; mirrored: boolean } {
  const mirrored = a * d - b * c < 0
  if (a === 0 && b === 0) return { rotation: 0, mirrored: false }
  const quarter = Math.round(Math.atan2(b, a) / (Math.PI / 2))
  return { rotation: ((((quarter % 4) + 4) % 4) * 90) as Rotation, mirrored }
}

function readMediaHeader(body: Cursor) {
  const { version } = readFullBox(body)
  body.skip(version === 1 ? 16 : 8)
  const timescale = body.u32()
  return { timescale, duration: version === 1 ? body.u64() : body.u32() }
}

function readDescription(stbl: Cursor, handler: string): Pick<IsoTrack, 'visual' | 'sound' | 'timecode'> {
  const none = { visual: null, sound: null, timecode: null }
  const stsd = findBox(stbl, 'stsd')
  if (!stsd || stsd.body.left < 8) return none
  stsd.body.skip(8)
  for (const entry of boxesIn(stsd.body)) {
    if (handler === 'vide') return { ...none, visual: readVisual(entry.type, entry.body) }
    if (handler === 'soun') return { ...none, sound: readSound(entry.type, entry.body) }
    if (entry.type === 'tmcd' && entry.body.left >= 25)
      return { ...none, timecode: readTimecodeEntry(entry.body) }
    return none
  }
  return none
}

function readTimecodeEntry(body: Cursor): TimecodeDescription {
  body.skip(8 + 4)
  const flags = body.u32()
  return {
    dropFrame: (flags & 1) !== 0,
    timescale: body.u32(),
    frameDuration: body.u32(),
    framesPerSecond: body.u8(),
    reel: reelIn(body),
  }
}

/** The source name behind a timecode entry (QuickTime `name`): a length, a language, a text. */
function reelIn(body: Cursor): string | null {
  if (body.left < 1 + 8) return null
  const name = findBox(body.skip(1), 'name')
  if (!name || name.body.left < 4) return null
  const length = name.body.u16()
  const text = utf8(name.body.skip(2).slice(Math.min(length, name.body.left))).trim()
  return text || null
}

function readEdits(trak: Cursor): IsoTrack['edits'] {
  const box = findBox(trak, 'edts', 'elst')
  if (!box || box.body.left < 8) return []
  const { version } = readFullBox(box.body)
  const width = version === 1 ? 20 : 12
  const count = Math.min(box.body.u32(), Math.floor(box.body.left / width))
  return Array.from({ length: count }, () => {
    const duration = version === 1 ? box.body.u64() : box.body.u32()
    const mediaTime = version === 1 ? box.body.i64() : box.body.i32()
    box.body.skip(4)
    return { duration, mediaTime }
  })
}
