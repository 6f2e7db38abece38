import { mkdir, mkdtemp, rm, symlink, utimes, writeFile } from 'node:fs/promises'
import { type Server, request } from 'node:http'
import type { AddressInfo } from 'node:net'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { createApp } from './app'
import { arrivingCard } from './arriving-card'
import { listFolder } from './watch-folder'

let folder: string
let server: Server
let base: string

beforeAll(async () => {
  // A folder on the way that is hidden elsewhere changes nothing here.
  folder = join(await mkdtemp(join(tmpdir(), 'siding-')), '.hidden', 'day')
  await mkdir(folder, { recursive: true })
  await mkdir(join(folder, 'card', 'day 1'), { recursive: true })
  await mkdir(join(folder, 'dist', 'assets'), { recursive: true })
  await writeFile(join(folder, 'secret.txt'), 'secret')
  await writeFile(join(folder, 'card', 'bell.mp4'), '0123456789')
  await writeFile(join(folder, 'card', 'day 1', 'pour.mov'), 'abc')
  await writeFile(join(folder, 'card', '.hidden'), 'x')
  await symlink(join(folder, 'secret.txt'), join(folder, 'card', 'link.mp4'))
  await mkdir(join(folder, 'demo'))
  await writeFile(join(folder, 'demo', 'swing.mp4'), 'swinging')
  await writeFile(join(folder, 'dist', 'index.html'), '<title>Yard Tally</title>')
  server = createApp({
    siding: { folder: join(folder, 'card') },
    demo: { folder: join(folder, 'demo'), arriving: true },
    dist: join(folder, 'dist'),
  }).listen(0, '127.0.0.1')
  await new Promise((done) => server.on('listening', done))
  base = `http://127.0.0.1:${(server.address() as AddressInfo).port}`
})
afterAll(async () => {
  server.close()
  await rm(folder, { recursive: true })
})

interface Listed {
  bad: { place: string; why: string }[]
  files: { id: string; name: string; folder: string; sizeBytes: number }[]
}
const list = async () => (await (await fetch(`${base}/api/siding`)).json()) as Listed

describe('the siding', () => {
  it('lists files of all folders, without hidden ones and links', async () => {
    const { files } = await list()
    expect(files.map((f) => [f.folder, f.name, f.sizeBytes])).toEqual([
      ['', 'bell.mp4', 10],
      ['day 1', 'pour.mov', 3],
    ])
    expect(JSON.stringify(files)).not.toContain(folder)
  })

  it('serves ranges', async () => {
    const [bell] = (await list()).files
    const part = await fetch(`${base}/api/siding/${bell!.id}`, { headers: { Range: 'bytes=2-4' } })
    expect(part.status).toBe(206)
    expect(part.headers.get('content-range')).toBe('bytes 2-4/10')
    expect(await part.text()).toBe('234')
    const beyond = await fetch(`${base}/api/siding/${bell!.id}`, { headers: { Range: 'bytes=20-30' } })
    expect(beyond.status).toBe(416)
  })

  it.each(['..', '..%2Fsecret.txt', '%2e%2e%2fsecret.txt', 'link.mp4', '0000000000000000'])(
    'cannot be walked out of by %s',
    async (id) => {
      const answer = await fetch(`${base}/api/siding/${id}`)
      expect(await answer.text()).not.toBe('secret')
      expect(answer.status).toBe(404)
    },
  )

  it('is read-only', async () => {
    const [bell] = (await list()).files
    for (const method of ['PUT', 'POST', 'DELETE']) {
      expect((await fetch(`${base}/api/siding/${bell!.id}`, { method })).status).toBe(404)
    }
  })
})

describe('files that are being copied', () => {
  it('do not rest until they are no longer written to', async () => {
    await writeFile(join(folder, 'card', 'growing.mov'), 'so far')
    const growing = async () =>
      (await listFolder(join(folder, 'card'))).files.find((f) => f.name === 'growing.mov')!
    expect((await growing()).rests).toBe(false)
    const past = new Date(Date.now() - 10_000)
    await utimes(join(folder, 'card', 'growing.mov'), past, past)
    expect((await growing()).rests).toBe(true)
    await rm(join(folder, 'card', 'growing.mov'))
  })

  it('appear on the stand-in one after the other, for each copy anew', async () => {
    const { files } = await listFolder(join(folder, 'card'))
    let time = 0
    const card = arrivingCard(() => time)
    expect(card('first', files)).toEqual([])
    time = 110
    expect(card('first', files)).toMatchObject([
      { name: 'bell.mp4', sizeBytes: 5, expectedBytes: 10, rests: false },
    ])
    time = 330
    expect(card('first', files).map((f) => f.sizeBytes)).toEqual([10, 1])
    expect(card('second', files)).toEqual([])
    time = 10_000
    expect(card('first', files)).toEqual(files)
  })
})

describe('the server', () => {
  it('sets a strict policy and isolates the page', async () => {
    const { headers, status } = await fetch(`${base}/p/anything`)
    expect(status).toBe(200)
    expect(headers.get('content-security-policy')).toContain("script-src 'self' 'wasm-unsafe-eval'")
    expect(headers.get('cross-origin-opener-policy')).toBe('same-origin')
    expect(headers.get('cross-origin-embedder-policy')).toBe('require-corp')
    expect(headers.get('strict-transport-security')).toBeNull()
  })

  it('does not answer to a foreign name', async () => {
    const { port } = server.address() as AddressInfo
    const status = await new Promise((done) =>
      request({ host: '127.0.0.1', port, path: '/api/siding', headers: { Host: 'elsewhere.example' } }, (r) =>
        done(r.statusCode),
      ).end(),
    )
    expect(status).toBe(421)
  })
})
