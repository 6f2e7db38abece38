import { readFileSync } from 'node:fs'
import type { IncomingMessage, ServerResponse } from 'node:http'
import { join } from 'node:path'
import { createServer } from 'vite'

/** Serves the sources as they are, isolated as the app is, with the demo's files beside them. */
export async function serveWorkshop(): Promise<{ readonly url: string; close(): Promise<void> }> {
  const server = await createServer({
    root: join(import.meta.dirname, '..', '..', '..'),
    configFile: false,
    logLevel: 'error',
    cacheDir: 'test-results/workshop',
    worker: { format: 'es' },
    plugins: [
      {
        name: 'vanishing',
        configureServer: ({ middlewares }) => void middlewares.use('/vanishing', vanishing),
      },
    ],
    // A package that is found late loads the page anew, in the middle of a test: what workers take is found before.
    optimizeDeps: {
      entries: ['test/e2e/workshop/index.html', 'src/workers/*.ts', 'src/media/**/*.worker.ts'],
      exclude: ['@ffmpeg/core'],
    },
    server: {
      port: 0,
      host: '127.0.0.1',
      headers: {
        'Cross-Origin-Opener-Policy': 'same-origin',
        'Cross-Origin-Embedder-Policy': 'require-corp',
      },
    },
  })
  await server.listen()
  const [url = ''] = server.resolvedUrls?.local ?? []
  return { url, close: () => server.close() }
}

/** Serves the demo's files until so many requests were made of one; then it is gone. `/vanishing/REQUESTS/NAME` */
function vanishing(request: IncomingMessage, response: ServerResponse): void {
  const [, most = '0', name = ''] = (request.url ?? '').split('/')
  const count = (asked.get(request.url ?? '') ?? 0) + 1
  asked.set(request.url ?? '', count)
  const [, from, to] = /bytes=(\d+)-(\d+)/.exec(request.headers.range ?? '') ?? []
  if (count > Number(most) || from === undefined) {
    response.statusCode = 404
    response.end()
    return
  }
  const bytes = readFileSync(join(import.meta.dirname, '..', '..', '..', 'tools', 'demo', 'clips', name))
  const last = Math.min(bytes.length - 1, Number(to))
  response.statusCode = 206
  response.setHeader('Content-Range', `bytes ${from}-${last}/${bytes.length}`)
  response.setHeader('Content-Type', 'application/octet-stream')
  response.end(bytes.subarray(Number(from), last + 1))
}
const asked = new Map<string, number>()
