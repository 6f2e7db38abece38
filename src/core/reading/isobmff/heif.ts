import type { Colour } from '../../picture/colour'
import type { Rotation } from '../../picture/turn'
import { type Rational, rational } from '../../rational/rational'
import type { WrapperReading } from '../assemble'
import { byteAt } from '../bytes/byte-at'
import { Cursor } from '../bytes/cursor'
import type { FileWindow } from '../bytes/source'
import { colourFromCodes } from '../colour'
import { ReadingFault } from '../fault'
import type { Note } from '../reading'
import { stillReading } from '../still/still'
import { type Box, boxesIn, readFullBox } from './box'
import { readIsobmff } from './isobmff'

/** Its descriptions are no longer than this. */
const mostMeta = 1024 * 1024
const codecs: Readonly<Record<string, string>> = {
  hvc1: 'HEVC',
  hev1: 'HEVC',
  av01: 'AV1',
  avc1: 'H.264',
  jpeg: 'JPEG',
  j2k1: 'JPEG 2000',
  unci: 'uncompressed',
}

/** What an item is, and its properties in the order in which they are applied. */
interface Item {
  readonly type: string
  readonly properties: readonly Box[]
}
interface Meta {
  readonly primary: number
  readonly items: ReadonlyMap<number, Item>
  /** By the kind of their reference: which item refers to which. */
  readonly references: readonly {
    readonly kind: string
    readonly from: number
    readonly to: readonly number[]
  }[]
}

/**
 * Reads HEIF and AVIF: the primary item, its size, turn, crop, depth and colour. A file with an index of samples is a sequence, and read as
 * one. What is alpha, depth, a gain map or a thumbnail is told as what it is, and is no picture.
 */
export async function readHeif(file: FileWindow): Promise<WrapperReading> {
  let meta: Cursor | null = null
  let isSequence = false
  for (let offset = 0, n = 0; offset + 8 <= file.size && n < 200; n++) {
    const head = new Cursor(await file.some(offset, 16), offset)
    let [size, header] = [head.u32(), 8]
    const type = head.code()
    if (size === 1 && head.left >= 8) [size, header] = [head.u64(), 16]
    else if (size === 0) size = file.size - offset
    if (size < header) break
    if (type === 'moov') isSequence = true
    if (type === 'meta' && !meta) {
      if (offset + size > file.size)
        throw new ReadingFault(
          'truncated',
          'The descriptions of the picture are cut off. Copy it again.',
          file.size,
        )
      if (size > mostMeta)
        throw new ReadingFault('unsupported', 'Its descriptions are longer than is read here.', offset)
      meta = new Cursor((await file.exactly(offset + header, size - header)).slice(), offset + header)
    }
    offset += size
  }
  if (isSequence) return readIsobmff(file)
  if (!meta)
    throw new ReadingFault(
      'truncated',
      'The descriptions of the picture (meta) are missing: the file is cut off. Copy it again.',
      file.size,
    )
  return readingOf(file, metaOf(meta))
}

function metaOf(body: Cursor): Meta {
  readFullBox(body)
  let primary = 0
  const types = new Map<number, string>()
  const references: { kind: string; from: number; to: number[] }[] = []
  let properties: Box[] = []
  const owned = new Map<number, number[]>()
  for (const box of boxesIn(body)) {
    const inside = box.body
    if (box.type === 'pitm') primary = readFullBox(inside).version === 0 ? inside.u16() : inside.u32()
    else if (box.type === 'iinf') {
      inside.skip(readFullBox(inside).version === 0 ? 2 : 4)
      for (const entry of boxesIn(inside)) {
        const { version } = readFullBox(entry.body)
        if (entry.type !== 'infe' || version < 2) continue
        const id = version === 2 ? entry.body.u16() : entry.body.u32()
        types.set(id, entry.body.skip(2).code())
      }
    } else if (box.type === 'iref') {
      const { version } = readFullBox(inside)
      const id = (cursor: Cursor) => (version === 0 ? cursor.u16() : cursor.u32())
      for (const { type: kind, body: reference } of boxesIn(inside)) {
        const from = id(reference)
        const to = Array.from({ length: Math.min(reference.u16(), reference.left / 2) }, () => id(reference))
        references.push({ kind, from, to })
      }
    } else if (box.type === 'iprp')
      for (const part of boxesIn(inside)) {
        if (part.type === 'ipco') properties = [...boxesIn(part.body)]
        else if (part.type === 'ipma') readAssociations(part.body, owned)
      }
  }
  const items = new Map(
    [...types].map(([id, type]): [number, Item] => [
      id,
      { type, properties: (owned.get(id) ?? []).flatMap((index) => properties[index - 1] ?? []) },
    ]),
  )
  return { primary, items, references }
}

function readAssociations(body: Cursor, owned: Map<number, number[]>): void {
  const { version, flags } = readFullBox(body)
  for (let n = body.u32(); n > 0 && body.left >= 3; n--) {
    const id = version < 1 ? body.u16() : body.u32()
    const indexes: number[] = []
    for (let i = body.u8(); i > 0 && body.left > 0; i--)
      indexes.push(flags & 1 ? body.u16() & 0x7fff : body.u8() & 0x7f)
    owned.set(id, indexes)
  }
}

/** Properties are read from their beginning, however often. */
const bodyOf = (item: Item | undefined, type: string): Cursor | null => {
  const box = item?.properties.find((box) => box.type === type)
  return box ? new Cursor(box.body.bytes) : null
}

function readingOf(file: FileWindow, { primary, items, references }: Meta): WrapperReading {
  const item = items.get(primary)
  if (!item) throw new ReadingFault('damaged', 'It names no primary picture. Copy it again.', 0)
  const extent = bodyOf(item, 'ispe')
  if (!extent || extent.left < 12)
    throw new ReadingFault('damaged', 'Nothing in the file states the size of the picture.', 0)
  let [width, height] = [extent.skip(4).u32(), extent.u32()]
  // A grid or an overlay is put together of tiles: what they are coded as, the picture is.
  const tile = items.get(
    references.find(({ kind, from }) => kind === 'dimg' && from === primary)?.to[0] ?? -1,
  )
  const coded = codecs[item.type] ? item : (tile ?? item)
  const setup = setupOf(coded)
  const clean = bodyOf(item, 'clap')
  if (clean && clean.left >= 16) {
    const [wn, wd, hn, hd] = [clean.u32(), clean.u32(), clean.u32(), clean.u32()]
    if (wn > 0 && wd > 0 && hn > 0 && hd > 0) [width, height] = [Math.round(wn / wd), Math.round(hn / hd)]
  }
  const turn = bodyOf(item, 'irot')
  const rotation = (((4 - (turn && turn.left > 0 ? turn.u8() & 3 : 0)) % 4) * 90) as Rotation
  const depths = bodyOf(item, 'pixi') ?? bodyOf(tile, 'pixi')
  const notes: Note[] = []
  if (bodyOf(item, 'imir')) notes.push({ code: 'mirrored', message: 'The picture is stored mirrored.' })
  if (tile && coded === tile) {
    const count = references.find(({ kind, from }) => kind === 'dimg' && from === primary)?.to.length ?? 0
    notes.push({
      code: 'tiles',
      message: `It is put together of ${count} pictures (${item.type === 'iovl' ? 'an overlay' : 'a grid'}).`,
    })
  }
  const auxiliaries = references
    .filter(({ kind, to }) => kind === 'auxl' && to.includes(primary))
    .map(({ from }) => kindOfAuxiliary(items.get(from)))
  const others = [
    ...auxiliaries.filter((kind) => kind !== 'alpha'),
    ...(references.some(({ kind, to }) => kind === 'thmb' && to.includes(primary)) ? ['a thumbnail'] : []),
    ...([...items.values()].some(({ type }) => type === 'tmap') ? ['a gain map'] : []),
  ]
  if (others.length > 0)
    notes.push({
      code: 'other-items',
      message: `Beside the picture it holds ${[...new Set(others)].join(', ')}: they are no pictures of their own.`,
    })
  const container = codecs[coded.type] === 'AV1' ? 'AVIF' : 'HEIF'
  return {
    reading: stillReading(container, file.size, {
      codec: codecs[coded.type] ?? `unknown (${coded.type})`,
      width,
      height,
      bitDepth: depths && depths.left >= 6 ? depths.skip(5).u8() : setup.bitDepth,
      chroma: setup.chroma,
      alpha: auxiliaries.includes('alpha'),
      premultiplied: references.some(({ kind, from }) => kind === 'prem' && from === primary),
      rotation,
      pixelAspect: shapeOf(bodyOf(item, 'pasp')),
      colour: colourOf(item) ?? colourOf(tile),
      notes,
    }),
    origins: {
      'video.width': 'ispe',
      'video.rotation': 'irot',
      'video.bitDepth': depths ? 'pixi' : 'configuration',
    },
    fault: null,
  }
}

function shapeOf(body: Cursor | null): Rational {
  const [num, den] = body && body.left >= 8 ? [body.u32(), body.u32()] : [1, 1]
  return num > 0 && den > 0 ? rational(num, den) : rational(1)
}

/** Depth and chroma by the codec's own configuration: `hvcC` (ISO/IEC 14496-15 §8.3.3), `av1C`. */
function setupOf(item: Item): { bitDepth: number | null; chroma: string | null } {
  const hevc = bodyOf(item, 'hvcC')?.bytes
  if (hevc && hevc.length > 18)
    return {
      bitDepth: (byteAt(hevc, 17) & 7) + 8,
      chroma: ['4:0:0', '4:2:0', '4:2:2', '4:4:4'][byteAt(hevc, 16) & 3] ?? null,
    }
  const av1 = bodyOf(item, 'av1C')?.bytes
  if (av1 && av1.length >= 4) {
    const flags = byteAt(av1, 2)
    const chroma = flags & 16 ? '4:0:0' : flags & 8 ? (flags & 4 ? '4:2:0' : '4:2:2') : '4:4:4'
    return { bitDepth: flags & 64 ? (flags & 32 ? 12 : 10) : 8, chroma }
  }
  return { bitDepth: null, chroma: null }
}

/** Colour by its codes, where they stand; a profile of its own leaves them unsaid. */
function colourOf(item: Item | undefined): Partial<Colour> | undefined {
  for (const { type, body } of item?.properties ?? []) {
    const inside = new Cursor(body.bytes)
    if (type !== 'colr' || inside.left < 11 || inside.code() !== 'nclx') continue
    const codes = [inside.u16(), inside.u16(), inside.u16()] as const
    return colourFromCodes(...codes, (inside.u8() & 0x80) !== 0)
  }
  return undefined
}

/** What an auxiliary picture is, by its name (`auxC`). */
function kindOfAuxiliary(item: Item | undefined): string {
  const body = bodyOf(item, 'auxC')
  const name = body && body.left > 4 ? body.skip(4).text(body.left).replace(/\0.*$/s, '') : ''
  if (/alpha$|auxid:1$/.test(name)) return 'alpha'
  if (/depth$|auxid:2$/.test(name)) return 'a depth map'
  return /gainmap/i.test(name) ? 'a gain map' : 'a picture for another purpose'
}
