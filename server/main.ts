import { existsSync } from 'node:fs'
import { join, resolve } from 'node:path'
import { parseArgs } from 'node:util'
import { createApp } from './app'

const root = join(import.meta.dirname, '..')
const { values } = parseArgs({ options: { siding: { type: 'string' } } })
const siding = resolve(values.siding ?? join(root, 'demo', 'clips'))
if (!existsSync(siding)) {
  console.error(`There is no folder ${values.siding}. Name one that exists: npm start -- --siding FOLDER`)
  process.exit(2)
}
const port = Number(process.env.PORT ?? 4173)
const host = process.env.HOST ?? '127.0.0.1'
const server = createApp({
  siding,
  dist: join(root, 'dist'),
  arriving: !values.siding,
  hosts: process.env.HOST ? [process.env.HOST] : [],
}).listen(port, host)
server.on('listening', () => console.log(`Yard Tally is at http://${host}:${port}`))
server.on('error', (error: NodeJS.ErrnoException) => {
  const busy = error.code === 'EADDRINUSE'
  console.error(busy ? `Port ${port} is taken. Choose another: PORT=4174 npm start` : error.message)
  process.exit(1)
})
for (const signal of ['SIGINT', 'SIGTERM'] as const) process.on(signal, () => process.exit(0))
