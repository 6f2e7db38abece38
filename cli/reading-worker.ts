import { parentPort } from 'node:worker_threads'
import { present } from '../src/core/assert'
import type { Found } from './files'
import { readFile } from './read-file'

/** One of several that read files: gets a file with its number, gives back what was read. */
const port = present(parentPort, 'this runs as a worker')
port.on('message', ({ number, found }: { number: number; found: Found }) => {
  void readFile(found).then(
    (result) => port.postMessage({ number, result }),
    (error: unknown) =>
      port.postMessage({ number, thrown: error instanceof Error ? error.message : String(error) }),
  )
})
