import { join } from 'node:path'
import { createServer } from 'vite'

/** Serves the sources as they are, isolated as the app is, with the demo's files beside them. */
export async function serveWorkshop(): Promise<{ readonly url: string; close(): Promise<void> }> {
  const server = await createServer({
    root: join(import.meta.dirname, '..', '..'),
    configFile: false,
    logLevel: 'error',
    cacheDir: 'test-results/workshop',
    worker: { format: 'es' },
    optimizeDeps: { entries: ['e2e/workshop/index.html'], exclude: ['@ffmpeg/core'] },
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
