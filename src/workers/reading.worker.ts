import { reasonOf } from '../core/words/reason'
import { expose } from 'comlink'
import { type AsideKind, asideKind } from '../core/reading/aside'
import { type ReadResult, read } from '../core/reading/read'
import {
  type MediaLocator,
  byteSource,
  endsFromCard,
  endsTogether,
  hashOf,
  servedFrom,
  withEnds,
} from '../media/source'
import { job } from './job'
import type { Ends } from '../core/card/ends'

/** A file to be read, and the name under which its result comes back. */
export interface ReadRequest {
  readonly key: string
  /** Folder and name. */
  readonly place: string
  readonly locator: MediaLocator
}
export interface ReadAnswer {
  readonly key: string
  readonly hash: string | null
  readonly result: ReadResult
  /** What the file is where it is no clip; null for a clip. */
  readonly aside: AsideKind | null
}

/** How many lots are read at once: enough to hide the way to a disk or a server. */
const concurrency = 6
/** Answers travel together: thousands of small files would otherwise be thousands of messages. */
const handOverEvery = 50

const service = {
  /** Reads files, a few at a time, and tells of them in handfuls as they are read. One that fails does not stop the rest. */
  readAll: (
    requests: readonly ReadRequest[],
    tell: (answers: readonly ReadAnswer[]) => void | Promise<void>,
    until?: AbortSignal,
  ): Promise<void> => job(until, (signal) => readAll(requests, tell, signal)),
  /** Hashes heads and tails of files, a few at a time. @param tell takes how many are done */
  hashAll: (
    files: readonly MediaLocator[],
    tell: (done: number) => void | Promise<void>,
    until?: AbortSignal,
  ): Promise<(string | null)[]> => job(until, (signal) => hashAll(files, tell, signal)),
}

async function hashAll(
  files: readonly MediaLocator[],
  tell: (done: number) => void | Promise<void>,
  signal: AbortSignal,
): Promise<(string | null)[]> {
  const hashes: (string | null)[] = files.map(() => null)
  let [next, done] = [0, 0]
  const regularly = setInterval(() => void tell(done), handOverEvery)
  const work = async () => {
    for (let i = next++; i < files.length && !signal.aborted; i = next++) {
      const file = files[i]
      // One that cannot be opened is none that is sought.
      hashes[i] = file ? await withEnds(byteSource(file)).then(hashOf, () => null) : null
      done++
    }
  }
  await Promise.all(Array.from({ length: concurrency }, work)).finally(() => clearInterval(regularly))
  return hashes
}

async function readAll(
  requests: readonly ReadRequest[],
  tell: (answers: readonly ReadAnswer[]) => void | Promise<void>,
  signal: AbortSignal,
): Promise<void> {
  const lots = inLots(requests)
  let next = 0
  let handful: ReadAnswer[] = []
  const handOver = async () => {
    const answers = handful
    handful = []
    if (answers.length > 0) await tell(answers)
  }
  const regularly = setInterval(() => void handOver(), handOverEvery)
  const work = async () => {
    for (let lot = lots[next++]; lot && !signal.aborted; lot = lots[next++])
      for await (const answer of readLot(lot, signal)) handful.push(answer)
  }
  try {
    await Promise.all(Array.from({ length: concurrency }, work)).catch((error: unknown) => {
      if (!signal.aborted) throw error
    })
  } finally {
    clearInterval(regularly)
    // The last ones are handed over before the work counts as done: calls and results travel on ways of their own.
    await handOver()
  }
}

/** Files of a card in lots whose ends are fetched together; other files one by one. */
function inLots(requests: readonly ReadRequest[]): ReadRequest[][] {
  const lots: ReadRequest[][] = []
  const cardOf = ({ locator }: ReadRequest) =>
    locator.kind === 'url' ? locator.url.slice(0, locator.url.lastIndexOf('/')) : null
  for (const request of requests) {
    const last = lots.at(-1)
    const [first] = last ?? []
    const joins = first && cardOf(request) && cardOf(request) === cardOf(first)
    if (last && joins && last.length < endsTogether) last.push(request)
    else lots.push([request])
  }
  return lots
}

async function* readLot(lot: readonly ReadRequest[], signal: AbortSignal): AsyncGenerator<ReadAnswer> {
  const urls = lot.flatMap(({ locator }) => (locator.kind === 'url' ? locator.url : []))
  // Where the ends cannot be had together, each file is asked for alone and says why.
  const ends = urls.length > 1 ? await endsFromCard(urls, signal).catch(() => null) : null
  for (const [i, request] of lot.entries()) {
    signal.throwIfAborted()
    yield readOne(request, ends?.[i] ?? null, signal)
  }
}

async function readOne(
  { key, place, locator }: ReadRequest,
  ends: Ends | null,
  signal: AbortSignal,
): Promise<ReadAnswer> {
  try {
    const bytes = byteSource(locator)
    const source = ends ? servedFrom(bytes, ends) : await withEnds(bytes)
    const [result, hash] = await Promise.all([read(source, signal, place), hashOf(source)])
    return {
      key,
      hash,
      result,
      aside: asideKind(place, source.size, source.head.subarray(0, 512), result),
    }
  } catch (error) {
    signal.throwIfAborted()
    const message = `The file could not be opened: ${reasonOf(error)}`
    return { key, hash: null, result: { ok: false, error: { code: 'unreadable', message } }, aside: null }
  }
}

export type ReadingService = typeof service
expose(service)
