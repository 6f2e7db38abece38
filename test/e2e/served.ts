import type { Server } from 'node:http'
import type { AddressInfo } from 'node:net'
import { join } from 'node:path'
import { pathToFileURL } from 'node:url'
import { createApp } from '../../server/app'

const root = join(import.meta.dirname, '..', '..')
const clips = join(root, 'tools', 'demo', 'clips')

/**
 * Serves the app.
 * @param arriving whether the demo's clips arrive one after the other, as from a card; else all are there
 * @param port 0 lets the system choose
 * @param folder the siding's
 */
export const served = (
  arriving: boolean,
  dist = join(root, 'dist'),
  port = 0,
  folder = clips,
): Promise<Server> =>
  new Promise((resolve) => {
    const app = createApp({ siding: { folder }, demo: { folder: clips, arriving }, dist })
    const server = app.listen(port, '127.0.0.1', () => resolve(server))
  })

export const addressOf = (server: Server): string =>
  `http://127.0.0.1:${(server.address() as AddressInfo).port}`

/** Lets go of whatever is open. */
export async function stopped(server: Server): Promise<void> {
  server.closeAllConnections()
  await new Promise((resolve) => server.close(resolve))
}

// All tests but those that look at arriving ask this one; they do not wait for the demo's clips.
if (import.meta.url === pathToFileURL(process.argv[1] ?? '').href)
  await served(false, undefined, Number(process.env.PORT))
