import { endLength } from './source'

/** Where whole files of the demo's card are kept, and its list beside them. */
export const keptCard = 'demo-card'
export const demoList = '/api/demo'
const withinList = `${demoList}/`

/** What of the browser's `Cache` is needed: whole answers by their address. */
export interface KeptAnswers {
  match(url: string): Promise<Response | undefined>
  put(url: string, response: Response): Promise<void>
}

interface Listed {
  readonly files: readonly { readonly id: string }[]
}

/**
 * Keeps every file of the demo's card that is not kept yet, so that the demo opens, plays and renders without the server.
 * @returns how many files are kept now
 */
export async function keepCard(
  kept: KeptAnswers,
  fetchNow: (url: string) => Promise<Response>,
  signal?: AbortSignal,
): Promise<number> {
  const list = await fetchNow(demoList)
  if (!list.ok) throw new Error(`the demo’s card answered ${list.status}`)
  await kept.put(demoList, list.clone())
  const { files } = (await list.json()) as Listed
  for (const { id } of files) {
    signal?.throwIfAborted()
    const url = withinList + encodeURIComponent(id)
    if (await kept.match(url)) continue
    const whole = await fetchNow(url)
    if (whole.status === 200) await kept.put(url, whole)
  }
  return files.length
}

/** A stretch of a kept file, as a server answers it (RFC 9110 §14); the whole of it where none is asked for. */
async function stretchOf(whole: Response, asked: string | null): Promise<Response> {
  const found = /^bytes=(\d+)-(\d*)$/.exec(asked ?? '')
  if (!found) return whole
  const bytes = await whole.blob()
  const first = Number(found[1])
  const last = Math.min(bytes.size, found[2] ? Number(found[2]) + 1 : bytes.size) - 1
  const headers = new Headers(whole.headers)
  headers.set(
    'Content-Range',
    first > last ? `bytes */${bytes.size}` : `bytes ${first}-${last}/${bytes.size}`,
  )
  headers.set('Content-Length', String(Math.max(0, last + 1 - first)))
  if (first > last) return new Response(null, { status: 416, headers })
  return new Response(bytes.slice(first, last + 1), { status: 206, headers })
}

/** Both ends of several kept files in one answer: for each its status, two lengths, and the bytes. */
async function endsOf(kept: KeptAnswers, ids: readonly string[]): Promise<Response> {
  const parts: BlobPart[] = []
  for (const id of ids) {
    const bytes = await (await kept.match(withinList + encodeURIComponent(id)))?.blob()
    const head = Math.min(endLength, bytes?.size ?? 0)
    const tailStart = Math.max(head, (bytes?.size ?? 0) - endLength)
    const numbers = new DataView(new ArrayBuffer(12))
    ;[bytes ? 200 : 404, head, (bytes?.size ?? 0) - tailStart].forEach((n, i) => numbers.setUint32(4 * i, n))
    parts.push(numbers.buffer)
    if (bytes) parts.push(bytes.slice(0, head), bytes.slice(tailStart))
  }
  return new Response(new Blob(parts), { headers: { 'Content-Type': 'application/octet-stream' } })
}

/** All that stands on the card, as its events would tell it; nothing follows, and the browser need not ask again. */
async function eventsOf(kept: KeptAnswers): Promise<Response | null> {
  const list = await kept.match(demoList)
  if (!list) return null
  const { files } = (await list.json()) as Listed
  const change = { files, gone: [], bad: [] }
  return new Response(`retry: 86400000\ndata: ${JSON.stringify(change)}\n\n`, {
    headers: { 'Content-Type': 'text/event-stream' },
  })
}

/**
 * The answer to what is asked of the demo's card, out of what is kept.
 * @param range what the request asked for as its `Range`
 * @returns null where it is not kept
 */
export async function answerFromKept(
  kept: KeptAnswers,
  { pathname, searchParams }: URL,
  range: string | null,
): Promise<Response | null> {
  if (pathname === demoList) return (await kept.match(demoList)) ?? null
  if (pathname === `${withinList}events`) return eventsOf(kept)
  if (pathname === `${withinList}ends`) return endsOf(kept, searchParams.get('ids')?.split(',') ?? [])
  const whole = await kept.match(pathname)
  return whole ? stretchOf(whole, range) : null
}
