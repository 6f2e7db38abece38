import { fileURLToPath } from 'node:url'
import { Worker } from 'node:worker_threads'
import type { ReadResult } from '../src/core/reading/read'
import { present } from '../src/core/assert'
import { WrongUse } from './command'
import { type Found, filesOf } from './files'
import { progress } from './progress'

/** How many files wait for each worker, so that none of them waits for the main thread. */
const ahead = 16
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
  const told = progress('file', values.progress === true)
  try {
    const read = jobs === 1 ? oneByOne(paths) : inParallel(paths, jobs)
    for await (const one of read) {
      told.step()
      yield one
    }
  } finally {
    told.end()
  }
}

async function* oneByOne(paths: readonly string[]): AsyncGenerator<ReadFound> {
  // Only who reads loads the readers: of several workers the main thread is none.
  const { readFile } = await import('./read-file')
  for await (const found of filesOf(paths)) yield { found, result: await readFile(found) }
}

/** The reader as one piece of script: a worker takes that in several times as fast as module after module. */
async function readerScript(): Promise<URL> {
  const { build } = await import('esbuild')
  const { outputFiles } = await build({
    entryPoints: [fileURLToPath(new URL('./reading-worker.ts', import.meta.url))],
    bundle: true,
    platform: 'node',
    format: 'esm',
    write: false,
  })
  const script = present(outputFiles[0], 'one entry point makes one script')
  return new URL(`data:text/javascript;base64,${Buffer.from(script.contents).toString('base64')}`)
}

interface Answer {
  readonly number: number
  readonly result?: ReadResult
  readonly thrown?: string
}

async function* inParallel(paths: readonly string[], jobs: number): AsyncGenerator<ReadFound> {
  const waiting = new Map<number, { resolve(result: ReadResult): void; reject(error: Error): void }>()
  const fail = (error: Error) => {
    for (const { reject } of waiting.values()) reject(error)
    waiting.clear()
  }
  const script = await readerScript()
  const workers = Array.from({ length: jobs }, () => {
    // What reads TypeScript in this thread is not needed there.
    const worker = new Worker(script, { execArgv: [] })
    worker.on('message', ({ number, result, thrown }: Answer) => {
      const asked = waiting.get(number)
      waiting.delete(number)
      if (result) asked?.resolve(result)
      else asked?.reject(new Error(thrown ?? 'a worker gave no answer'))
    })
    worker.on('error', fail)
    worker.on('exit', (code) => code !== 0 && fail(new Error(`a worker ended with ${code}`)))
    return { worker, load: 0 }
  })
  try {
    const queue: { found: Found; result: Promise<ReadResult> }[] = []
    let number = 0
    for await (const found of filesOf(paths)) {
      const n = number++
      const least = workers.reduce((a, b) => (b.load < a.load ? b : a))
      least.load++
      const result = new Promise<ReadResult>((resolve, reject) =>
        waiting.set(n, { resolve, reject }),
      ).finally(() => least.load--)
      // It is awaited in its turn; until then a failure is nobody's.
      result.catch(() => undefined)
      least.worker.postMessage({ number: n, found })
      queue.push({ found, result })
      if (queue.length < jobs * ahead) continue
      const first = queue.shift()
      if (first) yield { found: first.found, result: await first.result }
    }
    for (const { found, result } of queue) yield { found, result: await result }
  } finally {
    await Promise.all(workers.map(({ worker }) => worker.terminate()))
  }
}
