import type { ReplacedBytes } from '../../core/reading/still/exr-window'
import type { MediaLocator } from '../source'

/** What the toolkit's file system mounts: a file, or something that gives out parts of itself as one does. */
export interface Mountable {
  readonly name: string
  readonly size: number
  readonly lastModifiedDate: Date
  slice(from: number, to: number): Blob
}

/** Bytes that are asked for at once, and how many such blocks are kept. */
const [blockBytes, mostBlocks] = [256 * 1024, 64]

/** A file of the siding: read by ranges, each request waited for (which workers may), blocks of it kept. */
export function remoteFile(url: string, size: number, name: string): Mountable {
  const blocks = new Map<number, Uint8Array<ArrayBuffer>>()
  function block(index: number): Uint8Array<ArrayBuffer> {
    const known = blocks.get(index)
    if (known) return known
    const from = index * blockBytes
    const request = new XMLHttpRequest()
    request.open('GET', url, false)
    request.responseType = 'arraybuffer'
    request.setRequestHeader('Range', `bytes=${from}-${Math.min(size, from + blockBytes) - 1}`)
    request.send()
    if (request.status !== 206) throw new Error(`the siding answered ${request.status}`)
    const bytes = new Uint8Array(request.response as ArrayBuffer)
    for (const oldest of blocks.keys()) if (blocks.size >= mostBlocks) blocks.delete(oldest)
    blocks.set(index, bytes)
    return bytes
  }
  return {
    name,
    size,
    lastModifiedDate: new Date(0),
    slice(from, to) {
      const end = Math.min(size, to)
      const parts: Uint8Array<ArrayBuffer>[] = []
      for (let at = from; at < end;) {
        const index = Math.floor(at / blockBytes)
        const within = at - index * blockBytes
        const part = block(index).subarray(within, Math.min(blockBytes, within + end - at))
        if (part.length === 0) break
        parts.push(part)
        at += part.length
      }
      return new Blob(parts)
    },
  }
}

/** What of a locator is mounted under a name. */
export const mountable = (locator: MediaLocator, name: string): Mountable => {
  if (locator.kind === 'url') return remoteFile(locator.url, locator.sizeBytes, name)
  const { file } = locator
  return {
    name,
    size: file.size,
    lastModifiedDate: new Date(0),
    slice: (from, to) => file.slice(from, to),
  }
}

/** A file some of whose bytes are others. @param patches in order, none over another */
export function patched(file: Mountable, patches: readonly ReplacedBytes[]): Mountable {
  if (patches.length === 0) return file
  return {
    ...file,
    slice(from, to) {
      const parts: BlobPart[] = []
      let done = from
      for (const { at, bytes } of patches) {
        const [begin, end] = [Math.max(done, at), Math.min(to, at + bytes.length)]
        if (begin >= end) continue
        parts.push(file.slice(done, begin), bytes.slice(begin - at, end - at))
        done = end
      }
      return new Blob([...parts, file.slice(done, to)])
    },
  }
}
