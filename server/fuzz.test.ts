import { mkdir, mkdtemp, rm, writeFile } from 'node:fs/promises'
import { Agent, type Server, request } from 'node:http'
import type { AddressInfo } from 'node:net'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, beforeAll, expect, it } from 'vitest'
import { generator } from '../test/fixtures/fuzz/random'
import { createApp } from './app'

let folder: string
let server: Server
let id: string
const agent = new Agent({ keepAlive: true, maxSockets: 16 })

beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'fuzz-'))
  for (const name of ['card', 'demo', join('dist', 'assets')])
    await mkdir(join(folder, name), { recursive: true })
  await writeFile(join(folder, 'secret.txt'), 'the secret of the foundry')
  await writeFile(join(folder, 'card', 'bell.mp4'), '0123456789'.repeat(100))
  await writeFile(join(folder, 'dist', 'index.html'), '<title>Yard Tally</title>')
  server = createApp({
    siding: { folder: join(folder, 'card') },
    demo: { folder: join(folder, 'demo') },
    dist: join(folder, 'dist'),
  }).listen(0, '127.0.0.1')
  await new Promise((done) => server.on('listening', done))
  const list = JSON.parse((await ask('GET', '/api/siding', {})).body) as { files: { id: string }[] }
  id = list.files[0]!.id
})
afterAll(async () => {
  agent.destroy()
  server.closeAllConnections()
  server.close()
  await rm(folder, { recursive: true })
})

function ask(
  method: string,
  path: string,
  headers: Record<string, string>,
): Promise<{ status: number; body: string }> {
  const { port } = server.address() as AddressInfo
  return new Promise((resolve) => {
    const asked = request({ method, path, headers, port, host: '127.0.0.1', agent }, (answer) => {
      let body = ''
      answer.on('data', (bytes) => (body += String(bytes)))
      answer.on('end', () => resolve({ status: answer.statusCode ?? 0, body }))
      answer.on('error', () => resolve({ status: 0, body }))
    })
    asked.on('error', () => resolve({ status: 0, body: '' }))
    asked.end()
  })
}

it('twenty thousand strange requests give no 500, and nothing from outside of the folders', async () => {
  const random = generator(77)
  const pick = <T>(list: readonly T[]): T => list[random(list.length)]!
  const odd = () =>
    pick([
      '..',
      '%2e%2e',
      '..%2f',
      '%00',
      '%ff',
      '%',
      '~',
      '\\',
      ';',
      '%252e',
      'a'.repeat(random(3000)),
      '*',
      '{x}',
      '?',
      '&',
      '.',
      'é',
    ])
  const path = () => {
    const parts = Array.from({ length: 1 + random(5) }, () =>
      pick([
        odd,
        odd,
        () => 'api',
        () => 'siding',
        () => 'demo',
        () => 'ends',
        () => id,
        () => 'assets',
        () => 'index.html',
        () => 'secret.txt',
      ])(),
    )
    const query = random(3)
      ? ''
      : `?${pick(['ids', 'copy', 'x', '__proto__', 'ids[]'])}=${pick([odd, () => id, () => `${id},${id}`])()}`
    return encodeURI(`/${parts.join('/')}`).replace(/%25/g, '%') + encodeURI(query)
  }
  const range = () =>
    pick([
      'bytes=0-',
      'bytes=-5',
      'bytes=5-2',
      'bytes=99999999999999999999-',
      'bytes=0-1,4-5',
      'lines=1-2',
      'bytes=',
      'bytes=-',
      'bytes=a-b',
      `bytes=${random(2000)}-${random(2000)}`,
    ])
  const wrong: string[] = []
  const seen = new Map<number, number>()
  let left = 20_000
  await Promise.all(
    Array.from({ length: 16 }, async () => {
      while (left-- > 0) {
        const [method, asked] = [
          pick(['GET', 'GET', 'GET', 'HEAD', 'POST', 'PUT', 'DELETE', 'OPTIONS', 'PATCH']),
          path(),
        ]
        // What follows a card never ends: it has a test of its own.
        if (/\/events(\?|$)/.test(asked)) continue
        const headers: Record<string, string> = {
          ...(random(2) ? { Range: range() } : {}),
          ...(random(6) ? {} : { Host: pick(['evil.example', '127.0.0.1', '[::1]:4173', 'localhost.evil']) }),
        }
        const { status, body } = await ask(method, asked, headers)
        seen.set(status, (seen.get(status) ?? 0) + 1)
        if (status >= 500)
          wrong.push(`${method} ${asked.slice(0, 200)} ${JSON.stringify(headers)}: ${status}`)
        if (body.includes('the secret') || body.includes(folder))
          wrong.push(`${method} ${asked.slice(0, 200)} gives away ${body.slice(0, 100)}`)
      }
    }),
  )
  expect(wrong.slice(0, 10)).toEqual([])
  // Some were answered, some refused, some not there: the requests reached what they aim at.
  for (const status of [200, 206, 404, 421]) expect(seen.get(status) ?? 0, String(status)).toBeGreaterThan(20)
}, 240_000)
