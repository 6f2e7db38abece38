import { constants } from 'node:fs'
import { type FileHandle, open, realpath } from 'node:fs/promises'
import { sep } from 'node:path'
import { pipeline } from 'node:stream/promises'
import type { Request, Response } from 'express'
import type { PlacedFile } from './watch-folder'
import type { Watch } from './watch'
import { byteRangeOf } from '../src/core/card/range'
import { endsHead, endsOfSize, mostTogether } from '../src/core/card/ends'

/** A file that is what was listed, open; or why it is refused. */
type Opened =
  | { readonly handle: FileHandle; readonly size: number; readonly modified: Date }
  | { readonly status: 404 | 409; readonly error: string }

/** Neither follows a link nor waits for a pipe. */
const carefully = constants.O_RDONLY | constants.O_NOFOLLOW | constants.O_NONBLOCK
const gone = { status: 404, error: 'The card has no such file any more.' } as const

/**
 * Opens a file of a card. What is no longer the file that was listed – a link, a pipe, gone, or shorter – is refused at once.
 * @param root the card's folder as it really lies; nothing outside of it is opened
 */
async function openListed(file: PlacedFile, root: string): Promise<Opened> {
  let handle: FileHandle
  try {
    // A folder on the way may have become a link since.
    if ((await realpath(file.path)) !== file.path || !file.path.startsWith(root + sep)) return gone
    handle = await open(file.path, carefully)
  } catch {
    return gone
  }
  const facts = await handle.stat()
  if (facts.isFile() && facts.size >= file.sizeBytes)
    return { handle, size: facts.size, modified: facts.mtime }
  await handle.close()
  return facts.isFile()
    ? { status: 409, error: 'The file is shorter than when it was listed. Look at the card again.' }
    : gone
}

async function readAt(handle: FileHandle, first: number, length: number): Promise<Buffer> {
  const { buffer, bytesRead } = await handle.read(Buffer.alloc(length), 0, length, first)
  return buffer.subarray(0, bytesRead)
}

/** Stretches up to this are read and sent in one. */
const atOnce = 256 * 1024

/** Sends a file of a card, or the stretch of it that is asked for. */
export async function sendFile(
  file: PlacedFile,
  root: string,
  request: Request,
  response: Response,
): Promise<void> {
  const opened = await openListed(file, root)
  if (!('handle' in opened)) return void response.status(opened.status).json({ error: opened.error })
  const { handle, size, modified } = opened
  try {
    const stretch = byteRangeOf(request.headers.range, size)
    response.set({
      'Accept-Ranges': 'bytes',
      'Cache-Control': 'no-cache',
      'Content-Type': 'application/octet-stream',
      'Last-Modified': modified.toUTCString(),
    })
    if (stretch === 'unsatisfiable')
      return void response.status(416).set('Content-Range', `bytes */${size}`).end()
    const { first, last } = stretch ?? { first: 0, last: size - 1 }
    response.set('Content-Length', String(last - first + 1))
    if (stretch) response.status(206).set('Content-Range', `bytes ${first}-${last}/${size}`)
    if (request.method === 'HEAD' || last < first) return void response.end()
    if (last - first < atOnce) return void response.end(await readAt(handle, first, last - first + 1))
    // Whoever asked may leave at any time: that ends the sending, not the server.
    await pipeline(handle.createReadStream({ start: first, end: last, autoClose: false }), response).catch(
      () => response.destroy(),
    )
  } finally {
    await handle.close().catch(() => {})
  }
}

/** Sends both ends of several files in one answer (`core/card/ends`). */
export async function sendEnds(
  watch: Watch,
  root: string,
  request: Request,
  response: Response,
): Promise<void> {
  const ids = typeof request.query.ids === 'string' ? request.query.ids.split(',') : []
  if (ids.length === 0 || ids.length > mostTogether)
    return void response.status(400).json({ error: `From 1 to ${mostTogether} ids are asked for at once.` })
  const parts = await Promise.all(ids.map(async (id) => endsOf(await watch.find(id), root)))
  response.set({ 'Cache-Control': 'no-store', 'Content-Type': 'application/octet-stream' })
  response.end(Buffer.concat(parts.flat()))
}

async function endsOf(file: PlacedFile | null, root: string): Promise<Uint8Array[]> {
  const opened = file ? await openListed(file, root) : gone
  if (!file || !('handle' in opened)) return [endsHead('status' in opened ? opened.status : 404, 0, 0)]
  try {
    // As long as it was listed: what has been added since is of the next look.
    const size = file.sizeBytes
    const { headLength, tailStart } = endsOfSize(size)
    const head = await readAt(opened.handle, 0, headLength)
    const tail = await readAt(opened.handle, tailStart, size - tailStart)
    return [endsHead(200, head.length, tail.length), head, tail]
  } finally {
    await opened.handle.close()
  }
}
