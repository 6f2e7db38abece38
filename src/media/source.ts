import type { ByteSource } from '../core/reading/bytes/source'
import { type Ends, endsOfSize, readEnds } from '../core/card/ends'

/** Where the bytes of a clip can be had from in this session. */
export type MediaLocator =
  | { readonly kind: 'file'; readonly file: File }
  | { readonly kind: 'url'; readonly url: string; readonly sizeBytes: number }

/** Where a file of a card is served. @param writtenAt tells one copy from a later one, so that nothing kept of the one is taken for the other */
export const cardUrl = (card: string, id: string, writtenAt = ''): string => {
  const url = new URL(`/api/${card}/${encodeURIComponent(id)}`, location.href)
  url.hash = writtenAt
  return url.href
}

/** Why a file of a card cannot be read as it was. */
export class NotServed extends Error {}

/** Whether an answer is out of another copy of a file than the one that a locator names, by its size and when it was written. */
function isOtherCopy({ headers }: Response, { url, sizeBytes }: { url: string; sizeBytes: number }): boolean {
  const [, total] = headers.get('Content-Range')?.split('/') ?? []
  if (total !== undefined && Number(total) !== sizeBytes) return true
  const [is, was] = [Date.parse(headers.get('Last-Modified') ?? ''), Date.parse(new URL(url).hash.slice(1))]
  // The header counts whole seconds.
  return Math.abs(is - was) >= 1000
}

/** A locator as a source that is read by ranges. */
export function byteSource(locator: MediaLocator): ByteSource & { requests?: number } {
  if (locator.kind === 'file') {
    const { file } = locator
    return {
      size: file.size,
      read: async (offset, length) => new Uint8Array(await file.slice(offset, offset + length).arrayBuffer()),
    }
  }
  return {
    size: locator.sizeBytes,
    requests: 0,
    async read(offset, length) {
      this.requests = (this.requests ?? 0) + 1
      const last = Math.min(locator.sizeBytes, offset + length) - 1
      // The browser's own cache would let requests for one file wait for each other.
      const answer = await fetch(locator.url, {
        headers: { Range: `bytes=${offset}-${last}` },
        cache: 'no-store',
      })
      if (answer.status !== 206) throw new NotServed(`the siding answered ${answer.status}`)
      if (isOtherCopy(answer, locator)) throw new NotServed('the file changed on disk since it was read')
      return new Uint8Array(await answer.arrayBuffer())
    },
  }
}

/** A source whose head and tail are at hand: most facts stand there, and together they tell a file from others. */
export interface EndsSource extends ByteSource {
  readonly head: Uint8Array
  readonly tail: Uint8Array
}

/** Fetches both ends of a file at once and serves from them what lies in them. */
export async function withEnds(source: ByteSource): Promise<EndsSource> {
  const { headLength, tailStart } = endsOfSize(source.size)
  const none = new Uint8Array(0)
  const [head, tail] = await Promise.all([
    headLength ? source.read(0, headLength) : none,
    tailStart < source.size ? source.read(tailStart, source.size - tailStart) : none,
  ])
  return servedFrom(source, { head, tail })
}

/** A source that serves from both ends of its file what lies in them, and asks for the rest. */
export function servedFrom(source: ByteSource, { head, tail }: Ends): EndsSource {
  const tailStart = source.size - tail.length
  return {
    size: source.size,
    get requests() {
      return source.requests
    },
    head,
    tail,
    async read(offset, length) {
      const end = Math.min(source.size, offset + length)
      if (end <= head.length) return head.subarray(offset, end)
      if (offset >= tailStart && end - tailStart <= tail.length)
        return tail.subarray(offset - tailStart, end - tailStart)
      return source.read(offset, end - offset)
    },
  }
}

/** Files of a card whose ends are fetched in one request. */
export const endsTogether = 32

/**
 * Both ends of several files of one card, in one request.
 * @param urls as `cardUrl` gives them, at most `endsTogether`
 * @returns for each the ends, or null where the card no longer has the file as it was listed
 */
export async function endsFromCard(urls: readonly string[], signal?: AbortSignal): Promise<(Ends | null)[]> {
  const plain = urls.map((url) => url.replace(/#.*$/, ''))
  const at = (url: string) => url.lastIndexOf('/')
  const [first = ''] = plain
  const ids = plain.map((url) => url.slice(at(url) + 1)).join(',')
  const answer = await fetch(`${first.slice(0, at(first))}/ends?ids=${ids}`, {
    cache: 'no-store',
    signal,
  })
  if (!answer.ok) throw new Error(`the card answered ${answer.status}`)
  return readEnds(new Uint8Array(await answer.arrayBuffer()), urls.length)
}

/** Hash of a file's head and tail: with name and size it finds the file again without reading it whole. */
export async function hashOf({ head, tail }: EndsSource): Promise<string> {
  const both = new Uint8Array(head.length + tail.length)
  both.set(head)
  both.set(tail, head.length)
  const digest = new Uint8Array(await crypto.subtle.digest('SHA-256', both))
  return [...digest.subarray(0, 16)].map((byte) => byte.toString(16).padStart(2, '0')).join('')
}
