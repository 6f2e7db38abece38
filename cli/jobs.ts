import { Worker } from 'node:worker_threads'
import { present } from '../src/core/assert'
import type { ReadResult } from '../src/core/reading/read'
import { WrongUse } from './command'
import { type Found, filesOf } from './files'
import { progress } from './progress'

/** How many batches wait for each worker, so that none of them waits for the main thread. */
const ahead = 4
const largestBatch = 16
const most = 64

export const jobsOption = { jobs: { type: 'string' }, progress: { type: 'boolean' } } as const

/** The number behind `--jobs`; 1 where it is not said. */
function jobsOf(text: unknown): number {
  const jobs = text === undefined ? 1 : Number(text)
  if (!Number.isSafeInteger(jobs) || jobs < 1 || jobs > most)
    throw new WrongUse(`--jobs takes a whole number from 1 to ${most}, not “${String(text)}”.`)
  return jobs
}

export interface ReadFound {
  readonly found: Found
  readonly result: ReadResult
}

/**
 * Reads the files that the arguments name, in the order given, with as many workers as `--jobs` says; tells on standard error
 * how far it is. Whoever stops listening stops the workers.
 */
export async function* readAll(
  paths: readonly string[],
  values: Readonly<Record<string, unknown>>,
): AsyncGenerator<ReadFound> {
  const jobs = jobsOf(values.jobs)
  const progressLine = progress('file', values.progress === true)
  try {
    const read = jobs === 1 ? oneByOne(paths) : inParallel(paths, jobs)
    for await (const readFound of read) {
      progressLine.step()
      yield readFound
    }
  } finally {
    progressLine.end()
  }
}

async function* oneByOne(paths: readonly string[]): AsyncGenerator<ReadFound> {
  // Only who reads loads the readers: where workers do, this thread does not.
  const { readFile } = await import('./read-file')
  for await (const found of filesOf(paths)) yield { found, result: await readFile(found) }
}

/** Files that are read by one worker, one after the other, and answered together: a message costs as much as a small file. */
interface Batch {
  readonly files: readonly Found[]
  readonly results: Promise<readonly ReadResult[]>
}

/** What a worker is asked. */
export interface ReadingRequest {
  readonly number: number
  readonly files: readonly Found[]
}

/** What it answers: the results in the order of the files, or why there are none. */
export type Answer = { readonly number: number } & (
  { readonly results: readonly ReadResult[] } | { readonly thrown: string }
)

/** Batches grow with what was sent: of few files every worker gets some. */
const batchAfter = (sent: number, jobs: number) => Math.min(largestBatch, 1 + Math.floor(sent / jobs / ahead))

async function* inParallel(paths: readonly string[], jobs: number): AsyncGenerator<ReadFound> {
  const crew = workersFor(jobs)
  try {
    const queue: Batch[] = []
    let [files, sent] = [[] as Found[], 0]
    const send = () => {
      queue.push({ files, results: crew.read(files) })
      sent += files.length
      files = []
    }
    for await (const found of filesOf(paths)) {
      files.push(found)
      if (files.length < batchAfter(sent, jobs)) continue
      send()
      if (queue.length > jobs * ahead) yield* answered(queue.shift())
    }
    if (files.length) send()
    for (const batch of queue) yield* answered(batch)
  } finally {
    await crew.end()
  }
}

async function* answered(batch: Batch | undefined): AsyncGenerator<ReadFound> {
  if (!batch) return
  for (const [i, result] of (await batch.results).entries())
    yield { found: present(batch.files[i], 'each file has its result'), result }
}

/** So many workers that read; the one that has least to do gets the next batch. */
function workersFor(jobs: number) {
  const waiting = new Map<
    number,
    { resolve(results: readonly ReadResult[]): void; reject(error: Error): void }
  >()
  const fail = (error: Error) => {
    for (const { reject } of waiting.values()) reject(error)
    waiting.clear()
  }
  const workers = Array.from({ length: jobs }, () => {
    const worker = new Worker(new URL('./reading-worker.js', import.meta.url))
    worker.on('message', (answer: Answer) => {
      const asked = waiting.get(answer.number)
      waiting.delete(answer.number)
      if ('results' in answer) asked?.resolve(answer.results)
      else asked?.reject(new Error(answer.thrown))
    })
    worker.on('error', fail)
    worker.on('exit', (code) => code !== 0 && fail(new Error(`a worker ended with ${code}`)))
    return { worker, load: 0 }
  })
  let number = 0
  return {
    read(files: readonly Found[]): Promise<readonly ReadResult[]> {
      const asked: ReadingRequest = { number: number++, files }
      const least = workers.reduce((a, b) => (b.load < a.load ? b : a))
      least.load += files.length
      const results = new Promise<readonly ReadResult[]>((resolve, reject) =>
        waiting.set(asked.number, { resolve, reject }),
      ).finally(() => (least.load -= files.length))
      // It is awaited in its turn; until then a failure is nobody's.
      results.catch(() => undefined)
      least.worker.postMessage(asked)
      return results
    },
    end: () => Promise.all(workers.map(({ worker }) => worker.terminate())),
  }
}
