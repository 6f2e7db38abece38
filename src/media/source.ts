import type { ByteSource } from '../core/reading/bytes/source'

/** Where the bytes of a clip can be had from in this session. */
export type MediaLocator =
  | { readonly kind: 'file'; readonly file: File }
  | { readonly kind: 'url'; readonly url: string; readonly sizeBytes: number }

/** A locator as a source that is read by ranges. */
export function byteSource(locator: MediaLocator): ByteSource {
  if (locator.kind === 'file') {
    const { file } = locator
    return {
      size: file.size,
      read: async (offset, length) => new Uint8Array(await file.slice(offset, offset + length).arrayBuffer()),
    }
  }
  return {
    size: locator.sizeBytes,
    async read(offset, length) {
      const last = Math.min(locator.sizeBytes, offset + length) - 1
      const answer = await fetch(locator.url, { headers: { Range: `bytes=${offset}-${last}` } })
      if (answer.status !== 206) throw new Error(`the siding answered ${answer.status}`)
      return new Uint8Array(await answer.arrayBuffer())
    },
  }
}

const hashedPart = 64 * 1024

/** Hash of a file's head and tail: with name and size it tells a file from others without reading it whole. */
export async function hashOf(source: ByteSource): Promise<string> {
  const head = await source.read(0, Math.min(hashedPart, source.size))
  const tailStart = Math.max(head.length, source.size - hashedPart)
  const tail =
    tailStart < source.size ? await source.read(tailStart, source.size - tailStart) : new Uint8Array(0)
  const both = new Uint8Array(head.length + tail.length)
  both.set(head)
  both.set(tail, head.length)
  const digest = new Uint8Array(await crypto.subtle.digest('SHA-256', both))
  return [...digest.subarray(0, 16)].map((byte) => byte.toString(16).padStart(2, '0')).join('')
}
