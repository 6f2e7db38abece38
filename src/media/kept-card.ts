import { endsHead, endsOfSize } from '../core/card/ends'
import { byteRangeOf } from '../core/card/range'

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
async function answerOf(whole: Response, asked: string | null): Promise<Response> {
  if (asked === null) return whole
  const bytes = await whole.clone().blob()
  const range = byteRangeOf(asked, bytes.size)
  if (range === null) return whole
  const headers = new Headers(whole.headers)
  const isThere = range !== 'unsatisfiable'
  headers.set('Content-Range', `bytes ${isThere ? `${range.first}-${range.last}` : '*'}/${bytes.size}`)
  headers.set('Content-Length', String(isThere ? range.last + 1 - range.first : 0))
  return isThere
    ? new Response(bytes.slice(range.first, range.last + 1), { status: 206, headers })
    : new Response(null, { status: 416, headers })
}

/** Both ends of several kept files in one answer: for each its status, two lengths, and the bytes. */
async function endsOf(kept: KeptAnswers, ids: readonly string[]): Promise<Response> {
  const parts: BlobPart[] = []
  for (const id of ids) {
    const bytes = await (await kept.match(withinList + encodeURIComponent(id)))?.blob()
    const size = bytes?.size ?? 0
    const { headLength, tailStart } = endsOfSize(size)
    parts.push(endsHead(bytes ? 200 : 404, headLength, size - tailStart))
    if (bytes) parts.push(bytes.slice(0, headLength), bytes.slice(tailStart))
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
  return whole ? answerOf(whole, range) : null
}
