import { constants } from 'node:fs'
import { type FileHandle, open, realpath } from 'node:fs/promises'
import { sep } from 'node:path'
import { pipeline } from 'node:stream/promises'
import type { Request, Response } from 'express'
import { stretchOf } from './range'
import type { PlacedFile } from './siding'

/** Neither follows a link nor waits for a pipe. */
const carefully = constants.O_RDONLY | constants.O_NOFOLLOW | constants.O_NONBLOCK

/**
 * Sends a file of a card, or a stretch of it. What is no longer the file that was listed – a link, a pipe, gone, or shorter –
 * is refused at once.
 * @param root the card's folder as it really lies; nothing outside of it is sent
 */
export async function sendFile(
  file: PlacedFile,
  root: string,
  request: Request,
  response: Response,
): Promise<void> {
  const refuse = (status: 404 | 409, error: string) => void response.status(status).json({ error })
  let handle: FileHandle
  try {
    // A folder on the way may have become a link since.
    if ((await realpath(file.path)) !== file.path || !file.path.startsWith(root + sep))
      return refuse(404, 'The card has no such file any more.')
    handle = await open(file.path, carefully)
  } catch {
    return refuse(404, 'The card has no such file any more.')
  }
  try {
    const facts = await handle.stat()
    if (!facts.isFile()) return refuse(404, 'The card has no such file any more.')
    if (facts.size < file.sizeBytes)
      return refuse(409, 'The file is shorter than when it was listed. Look at the card again.')
    const stretch = stretchOf(request.headers.range, facts.size)
    response.set({
      'Accept-Ranges': 'bytes',
      'Cache-Control': 'no-cache',
      'Content-Type': 'application/octet-stream',
      'Last-Modified': facts.mtime.toUTCString(),
    })
    if (stretch === 'unsatisfiable') {
      response.status(416).set('Content-Range', `bytes */${facts.size}`).end()
      return
    }
    const { first, last } = stretch ?? { first: 0, last: facts.size - 1 }
    response.set('Content-Length', String(last - first + 1))
    if (stretch) response.status(206).set('Content-Range', `bytes ${first}-${last}/${facts.size}`)
    if (request.method === 'HEAD' || last < first) {
      response.end()
      return
    }
    // Whoever asked may leave at any time: that ends the sending, not the server.
    await pipeline(handle.createReadStream({ start: first, end: last, autoClose: false }), response).catch(
      () => response.destroy(),
    )
  } finally {
    await handle.close().catch(() => {})
  }
}
