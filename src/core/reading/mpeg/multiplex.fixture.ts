import { concat } from '../bytes/concat'
import { bitWriter } from '../bytes/bit-writer.fixture'

/** Writes small multiplexes as another writer would: streams of MPEG-2 pictures and of sound, laid into packets. */

/** A packet of a stream: its bytes, and the time it bears, in seconds; null for none. */
export interface StreamPacket {
  readonly time: number | null
  readonly bytes: Uint8Array
}
export interface Carried {
  readonly id: number
  /** Its type in the program map, and descriptors behind it. */
  readonly type: number
  readonly descriptors?: readonly number[]
  readonly parts: readonly StreamPacket[]
}

const joined = (parts: readonly (Uint8Array | readonly number[])[]): Uint8Array =>
  concat(parts.map((part) => (part instanceof Uint8Array ? part : Uint8Array.from(part))))

/** Bytes that hold no start code and no sync of any sound. */
export const filler = (length: number) => new Uint8Array(length).fill(0x55)

/** An MPEG-2 picture of so many bytes, the first of a group with its headers. */
export function picture({
  order,
  opens = false,
  repeats = false,
  rateCode = 3,
  size = 400,
}: {
  readonly order: number
  readonly opens?: boolean
  readonly repeats?: boolean
  readonly rateCode?: number
  readonly size?: number
}): Uint8Array {
  const unit = (code: number, bits: ReturnType<typeof bitWriter>) => [0, 0, 1, code, ...bits.bytes(8)]
  const headers = [
    ...unit(
      0xb3,
      bitWriter().u(720, 12).u(576, 12).u(3, 4).u(rateCode, 4).u(0x3ffff, 18).u(1, 1).u(100, 10).u(0, 3),
    ),
    ...unit(
      0xb5,
      bitWriter().u(1, 4).u(0x48, 8).u(0, 1).u(1, 2).u(0, 4).u(0, 12).u(1, 1).u(0, 8).u(0, 1).u(0, 7),
    ),
    ...unit(0xb8, bitWriter().u(0, 1).u(10, 5).u(0, 6).u(1, 1).u(0, 6).u(0, 6).u(1, 2)),
  ]
  const own = [
    ...unit(0, bitWriter().u(order, 10).u(1, 3).u(0xffff, 16).u(0, 3)),
    ...unit(
      0xb5,
      bitWriter()
        .u(8, 4)
        .u(0xffff, 16)
        .u(0, 2)
        .u(3, 2)
        .u(1, 1)
        .u(0, 5)
        .u(repeats ? 1 : 0, 1)
        .u(1, 1)
        .u(1, 1)
        .u(0, 1),
    ),
  ]
  const head = opens ? [...headers, ...own] : own
  return joined([head, filler(Math.max(0, size - head.length))])
}

/** Pictures in groups of twelve as I B B P …, in the order stored, with the time of each. */
export function groups(
  count: number,
  rate: number,
  make: (n: number) => {
    readonly size?: number
    readonly repeats?: boolean
    readonly rateCode?: number
  } = () => ({}),
  timeOf: (n: number) => number = (n) => n / rate,
): StreamPacket[] {
  const parts: StreamPacket[] = []
  for (let first = 0; first < count; first += 12) {
    const length = Math.min(12, count - first)
    const stored: number[] = []
    for (let n = 0; n < length; n += 3) {
      const next = Math.min(n, length - 1)
      stored.push(next, ...[next - 2, next - 1].filter((b) => n > 0 && b >= 0))
    }
    const left = Array.from({ length }, (_, n) => n).filter((n) => !stored.includes(n))
    // What is left behind the last reference is stored in its order.
    for (const order of [...stored, ...left])
      parts.push({
        time: timeOf(first + order),
        bytes: picture({ order, opens: order === 0, ...make(first + order) }),
      })
  }
  return parts
}

const stamp = (seconds: number): number[] => {
  const ticks = Math.round(seconds * 90_000)
  const high = Math.floor(ticks / 2 ** 30)
  return [
    0x21 | (high << 1),
    (ticks >> 22) & 255,
    ((ticks >> 14) & 254) | 1,
    (ticks >> 7) & 255,
    ((ticks << 1) & 254) | 1,
  ]
}
function pes(id: number, { time, bytes }: StreamPacket, hasLength: boolean): Uint8Array {
  const header = time === null ? [] : stamp(time)
  const length = hasLength ? 3 + header.length + bytes.length : 0
  return joined([
    [0, 0, 1, id, length >> 8, length & 255, 0x80, time === null ? 0 : 0x80, header.length, ...header],
    bytes,
  ])
}

const packetPayload = 184
function packets(pid: number, payload: Uint8Array): Uint8Array[] {
  const all: Uint8Array[] = []
  for (let at = 0; at < payload.length; at += packetPayload) {
    const part = payload.subarray(at, at + packetPayload)
    const stuffing = packetPayload - part.length
    const control = stuffing ? 0x30 : 0x10
    const adaptation =
      stuffing === 0 ? [] : stuffing === 1 ? [0] : [stuffing - 1, 0, ...filler(stuffing - 2).fill(0xff)]
    all.push(joined([[0x47, (at === 0 ? 0x40 : 0) | (pid >> 8), pid & 255, control], adaptation, part]))
  }
  return all
}
function section(table: number, body: readonly number[]): Uint8Array {
  const length = body.length + 5 + 4
  const bytes = [0, table, 0xb0 | (length >> 8), length & 255, 0, 1, 0xc1, 0, 0, ...body, 0, 0, 0, 0]
  return joined([bytes, filler(packetPayload - bytes.length).fill(0xff)])
}

/** All parts of some streams, by their time. */
const inTime = (streams: readonly Carried[]) => {
  const all = streams.flatMap(({ id, parts }) => {
    let last = 0
    return parts.map((part, i) => ({ id, part, i, at: (last = Math.max(last, part.time ?? last)) }))
  })
  return all.sort((a, b) => a.at - b.at || a.id - b.id || a.i - b.i)
}

/** A transport stream. @param program the registration of the whole program */
export function transportOf(streams: readonly Carried[], program: string | null = null): Uint8Array {
  const about = program ? [5, 4, ...program].map((c) => (typeof c === 'string' ? c.charCodeAt(0) : c)) : []
  const map = [
    ...[0xe1, 0, 0xf0, about.length, ...about],
    ...streams.flatMap(({ id, type, descriptors = [] }) => [
      type,
      0xe0 | (id >> 8),
      id & 255,
      0xf0,
      descriptors.length,
      ...descriptors,
    ]),
  ]
  return joined([
    ...packets(0, section(0, [0, 1, 0xe0, 0x20])),
    ...packets(0x20, section(2, map)),
    ...inTime(streams).flatMap(({ id, part }) => packets(id, pes(id < 0x110 ? 0xe0 : 0xbd, part, false))),
  ])
}

/** A program stream. */
export function programOf(streams: readonly Carried[]): Uint8Array {
  const pack = [0, 0, 1, 0xba, 0x44, 0, 4, 0, 4, 1, 0, 0x0a, 0xf3, 0xf8]
  return joined(
    inTime(streams).flatMap(({ id, part: { time, bytes } }) => {
      const pieces: Uint8Array[] = []
      // A packet says its length in 16 bits.
      for (let at = 0; at < bytes.length; at += 60_000)
        pieces.push(pes(id, { time: at === 0 ? time : null, bytes: bytes.subarray(at, at + 60_000) }, true))
      return [Uint8Array.from(pack), ...pieces]
    }),
  )
}
