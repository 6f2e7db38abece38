import { type FileHandle, open } from 'node:fs/promises'
import type { Readable } from 'node:stream'
import { type Planes, planesOf } from '../src/core/planes/planes'
import { type Y4mHead, frameMark, readY4mHead } from '../src/core/planes/y4m'

/** What stops a stream before its end: told with what was read until then. */
export class StreamFault extends Error {
  constructor(
    readonly code: 'empty' | 'not-media' | 'truncated' | 'damaged',
    message: string,
    readonly offset: number,
  ) {
    super(message)
  }
}

/** Bytes of a stream, asked for in lengths. */
interface Bytes {
  /** So many bytes from where it stands, or fewer at its end. */
  take(length: number): Promise<Buffer>
  /** Passes over so many bytes. @returns how many were there */
  pass(length: number): Promise<number>
}

/** A whole frame of a stream with its number. */
export interface NumberedFrame {
  readonly index: number
  readonly planes: Planes
}

/** A stream of raw frames, opened: what its head says, and those of its frames that are wanted. */
export interface Y4mStream {
  readonly head: Y4mHead
  /** How many frames the file has; null of a pipe. */
  readonly frameCount: number | null
  frames(wanted: (index: number) => boolean): AsyncGenerator<NumberedFrame>
  close(): Promise<void>
}

const longestHead = 1024

/** Opens a file of YUV4MPEG2, or standard input as `-`. @throws StreamFault where it is none */
export async function openY4m(path: string, input: Readable = process.stdin): Promise<Y4mStream> {
  const handle = path === '-' ? null : await open(path)
  try {
    const size = handle ? (await handle.stat()).size : null
    const bytes = handle ? bytesOfFile(handle, size ?? 0) : bytesOfPipe(input)
    const start = await bytes.take(longestHead)
    if (start.length === 0) throw new StreamFault('empty', 'It is empty.', 0)
    const head = readY4mHead(start)
    if ('wrong' in head) throw new StreamFault('not-media', head.wrong, 0)
    const rest = pushedBack(bytes, start.subarray(head.headBytes))
    const each = head.frameBytes + frameMark.length + 1
    return {
      head,
      frameCount: size === null ? null : Math.floor((size - head.headBytes) / each),
      frames: (wanted) => framesOf(rest, head, wanted),
      close: async () => handle?.close(),
    }
  } catch (error) {
    await handle?.close()
    throw error
  }
}

async function* framesOf(
  bytes: Bytes,
  head: Y4mHead,
  wanted: (index: number) => boolean,
): AsyncGenerator<NumberedFrame> {
  let offset = head.headBytes
  for (let index = 0; ; index++) {
    const mark = await frameHead(bytes)
    if (mark === '') return
    if (!mark.startsWith(frameMark))
      throw new StreamFault('damaged', `Frame ${index} does not begin where it should.`, offset)
    offset += mark.length
    const samples = wanted(index) ? await bytes.take(head.frameBytes) : null
    const there = samples?.length ?? (await bytes.pass(head.frameBytes))
    if (there < head.frameBytes)
      throw new StreamFault('truncated', `Frame ${index} is cut off; those before it were looked at.`, offset)
    if (samples) yield { index, planes: planesOf(head, samples) }
    offset += head.frameBytes
  }
}

/** The line before a frame, its end included; empty at the end of the stream. */
async function frameHead(bytes: Bytes): Promise<string> {
  let line = (await bytes.take(frameMark.length + 1)).toString('latin1')
  if (line.startsWith(frameMark))
    while (line.length < longestHead && !line.endsWith('\n')) {
      const more = (await bytes.take(1)).toString('latin1')
      if (more === '') break
      line += more
    }
  return line
}

function bytesOfFile(handle: FileHandle, size: number): Bytes {
  let position = 0
  return {
    async take(length) {
      const buffer = Buffer.allocUnsafe(length)
      let filled = 0
      while (filled < length) {
        const { bytesRead } = await handle.read(buffer, filled, length - filled, position)
        if (bytesRead === 0) break
        filled += bytesRead
        position += bytesRead
      }
      return buffer.subarray(0, filled)
    },
    async pass(length) {
      const there = Math.min(length, size - position)
      position += there
      return there
    },
  }
}

function bytesOfPipe(input: Readable): Bytes {
  const chunks = input[Symbol.asyncIterator]() as AsyncIterator<Buffer>
  let held: Buffer = Buffer.alloc(0)
  async function take(length: number): Promise<Buffer> {
    const parts = [held]
    let there = held.length
    while (there < length) {
      const { value, done } = await chunks.next()
      if (done) break
      parts.push(value)
      there += value.length
    }
    const all = parts.length > 1 ? Buffer.concat(parts) : held
    held = all.subarray(Math.min(length, all.length))
    return all.subarray(0, Math.min(length, all.length))
  }
  return { take, pass: async (length) => (await take(length)).length }
}

/** A stream whose first bytes were taken already. */
function pushedBack(bytes: Bytes, first: Buffer): Bytes {
  let held = first
  return {
    async take(length) {
      const from = held.subarray(0, length)
      held = held.subarray(from.length)
      return from.length === length ? from : Buffer.concat([from, await bytes.take(length - from.length)])
    },
    async pass(length) {
      const from = Math.min(length, held.length)
      held = held.subarray(from)
      return length > from ? from + (await bytes.pass(length - from)) : from
    },
  }
}
