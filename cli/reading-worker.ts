import { parentPort } from 'node:worker_threads'
import { present } from '../src/core/assert'
import type { ReadResult } from '../src/core/reading/read'
import type { Answer, ReadingRequest } from './jobs'
import { readFile } from './read-file'

/** One of several that read files: gets some with their number, gives back what was read. */
const port = present(parentPort, 'this runs as a worker')
const answer = (given: Answer) => port.postMessage(given)
port.on('message', ({ number, files }: ReadingRequest) => {
  void readInOrder(files).then(
    (results) => answer({ number, results }),
    (error: unknown) => answer({ number, thrown: error instanceof Error ? error.message : String(error) }),
  )
})

async function readInOrder(files: ReadingRequest['files']): Promise<ReadResult[]> {
  const results: ReadResult[] = []
  for (const found of files) results.push(await readFile(found))
  return results
}
