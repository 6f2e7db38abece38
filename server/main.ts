import type { AddressInfo } from 'node:net'
import { join } from 'node:path'
import { createApp } from './app'
import { type Options, WrongOptions, readOptions } from './options'

const root = join(import.meta.dirname, '..')

function options(): Options {
  try {
    return readOptions(process.argv.slice(2), process.env)
  } catch (error) {
    if (!(error instanceof WrongOptions)) throw error
    console.error(error.message)
    process.exit(2)
  }
}

const { siding, port, host } = options()
const demo = { folder: join(root, 'tools', 'demo', 'clips'), arriving: true }
const server = createApp({
  siding: siding === null ? demo : { folder: siding },
  demo,
  dist: join(root, 'dist'),
  hosts: process.env.HOST ? [process.env.HOST] : [],
}).listen(port, host)
server.on('listening', () => {
  const { port: taken } = server.address() as AddressInfo
  console.log(`Yard Tally is at http://${host.includes(':') ? `[${host}]` : host}:${taken}`)
})
server.on('error', (error: NodeJS.ErrnoException) => {
  const busy = error.code === 'EADDRINUSE'
  console.error(busy ? `Port ${port} is taken. Choose another: PORT=4174 npm start` : error.message)
  process.exit(1)
})
// Streams and half-sent files are let go of: whoever ends the server means it.
for (const signal of ['SIGINT', 'SIGTERM'] as const) process.on(signal, () => process.exit(0))
