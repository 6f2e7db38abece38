/** A clip of many gigabytes that takes none on disk: real frames at its start, in its middle and at its end, nothing between. */
import { open, readFile } from 'node:fs/promises'

interface Box {
  readonly type: string
  readonly start: number
  readonly end: number
}

function boxesIn(bytes: Buffer, from = 0, to = bytes.length): Box[] {
  const boxes: Box[] = []
  for (let at = from; at + 8 <= to;) {
    const length = bytes.readUInt32BE(at)
    boxes.push({ type: bytes.toString('latin1', at + 4, at + 8), start: at, end: at + length })
    at += length
  }
  return boxes
}

const holding = new Set(['moov', 'trak', 'mdia', 'minf', 'stbl'])
const box = (type: string, body: Buffer) => {
  const head = Buffer.alloc(8)
  head.writeUInt32BE(body.length + 8, 0)
  head.write(type, 4, 'latin1')
  return Buffer.concat([head, body])
}

/** The offsets of chunks as numbers of 64 bits, moved. */
function farOffsets(bytes: Buffer, { start }: Box, place: (chunk: number, box: number) => number): Buffer {
  const count = bytes.readUInt32BE(start + 12)
  const body = Buffer.alloc(8 + 8 * count)
  body.writeUInt32BE(count, 4)
  for (let i = 0; i < count; i++) body.writeBigUInt64BE(BigInt(place(i, count)), 8 + 8 * i)
  return box('co64', body)
}

function rebuilt(
  bytes: Buffer,
  { type, start, end }: Box,
  place: (chunk: number, box: number) => number,
): Buffer {
  if (type === 'stco') return farOffsets(bytes, { type, start, end }, place)
  if (!holding.has(type)) return bytes.subarray(start, end)
  return box(type, Buffer.concat(boxesIn(bytes, start + 8, end).map((inner) => rebuilt(bytes, inner, place))))
}

/**
 * Writes an MP4 with one track again so that a third of its chunks stands at each of three places.
 * @param size of what is written, in bytes
 */
export async function writeSparse(source: string, target: string, size: number): Promise<void> {
  const bytes = await readFile(source)
  const top = boxesIn(bytes)
  const find = (type: string) => top.find((box) => box.type === type)
  const [ftyp, moov] = [find('ftyp'), find('moov')]
  if (!ftyp || !moov) throw new Error(`${source} is no plain MP4`)
  const chunks: number[] = []
  rebuilt(bytes, moov, (i) => chunks.push(i))
  const stco = bytes.indexOf('stco', moov.start, 'latin1') - 4
  const count = bytes.readUInt32BE(stco + 12)
  const offsets = Array.from({ length: count }, (_, i) => bytes.readUInt32BE(stco + 16 + 4 * i))
  const ends = offsets.map((from) => {
    const later = offsets.filter((other) => other > from)
    const mdat = top.find(({ start, end }) => from >= start && from < end)
    return Math.min(mdat?.end ?? bytes.length, ...later)
  })
  const third = (i: number) => Math.min(2, Math.floor((3 * i) / count))
  const room = 2 ** 20 + moov.end - moov.start
  const starts = [room, Math.floor(size / 2), size - (bytes.length + 2 ** 20)]
  const places = offsets.map((_, i) => {
    const before = offsets.map((_, j) => j).filter((j) => j < i && third(j) === third(i))
    return (starts[third(i)] ?? 0) + before.reduce((sum, j) => sum + (ends[j] ?? 0) - (offsets[j] ?? 0), 0)
  })
  const head = Buffer.concat([
    bytes.subarray(ftyp.start, ftyp.end),
    rebuilt(bytes, moov, (i) => places[i] ?? 0),
  ])
  const file = await open(target, 'w')
  try {
    await file.write(head, 0, head.length, 0)
    const mdat = Buffer.alloc(16)
    mdat.writeUInt32BE(1, 0)
    mdat.write('mdat', 4, 'latin1')
    mdat.writeBigUInt64BE(BigInt(size - head.length), 8)
    await file.write(mdat, 0, 16, head.length)
    for (const [i, from] of offsets.entries()) {
      const part = bytes.subarray(from, ends[i])
      await file.write(part, 0, part.length, places[i] ?? 0)
    }
    await file.truncate(size)
  } finally {
    await file.close()
  }
}
