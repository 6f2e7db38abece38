import { execFileSync, spawn } from 'node:child_process'
import { once } from 'node:events'
import {
  appendFile,
  mkdir,
  mkdtemp,
  rename,
  rm,
  symlink,
  truncate,
  unlink,
  utimes,
  writeFile,
} from 'node:fs/promises'
import { createServer } from 'node:net'
import type { Server } from 'node:http'
import type { AddressInfo } from 'node:net'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { createApp } from './app'
import type { CardChange } from '../src/core/card/listing'
import { WrongOptions, readOptions } from './options'
import { byteRangeOf } from '../src/core/card/range'

const root = join(import.meta.dirname, '..')
const past = new Date(Date.now() - 60_000)
let folder: string
let card: string
let server: Server
let base: string

const put = async (place: string, text = '0123456789') => {
  await writeFile(join(card, place), text)
  await utimes(join(card, place), past, past)
}

beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'card-'))
  card = join(folder, 'card')
  await mkdir(join(card, 'day 1'), { recursive: true })
  await put('bell.mp4')
  await put('day 1/pour.mov')
  server = createApp({
    siding: { folder: card },
    demo: { folder: join(folder, 'demo') },
    dist: join(folder, 'dist'),
  }).listen(0, '127.0.0.1')
  await once(server, 'listening')
  base = `http://127.0.0.1:${(server.address() as AddressInfo).port}`
})
afterAll(async () => {
  server.closeAllConnections()
  server.close()
  await rm(folder, { recursive: true })
})

interface Listed {
  files: { id: string; name: string }[]
  bad: { place: string; why: string }[]
}
const list = async () => (await (await fetch(`${base}/api/siding`)).json()) as Listed
const idOf = async (name: string) => (await list()).files.find((file) => file.name === name)!.id

/** Follows the events of a card until a condition holds over what was told so far. */
async function follow(
  until: (isEnough: { ids: Map<string, CardChange['files'][number]>; events: CardChange[] }) => boolean,
  meanwhile?: (events: CardChange[]) => Promise<void>,
) {
  const abort = new AbortController()
  const answer = await fetch(`${base}/api/siding/events`, { signal: abort.signal })
  expect(answer.headers.get('content-type')).toContain('text/event-stream')
  const events: CardChange[] = []
  const ids = new Map<string, CardChange['files'][number]>()
  let rest = ''
  let acted = false
  for await (const piece of answer.body!.pipeThrough(new TextDecoderStream())) {
    rest += piece
    const parts = rest.split('\n\n')
    rest = parts.pop()!
    for (const part of parts) {
      if (!part.startsWith('data: ')) continue
      const change = JSON.parse(part.slice(6)) as CardChange
      events.push(change)
      change.files.forEach((file) => ids.set(file.id, file))
      change.gone.forEach((id) => ids.delete(id))
    }
    if (meanwhile && !acted && events.length > 0) {
      acted = true
      await meanwhile(events)
    }
    if (until({ ids, events })) break
  }
  abort.abort()
  return { ids, events }
}

describe('the events of a card', () => {
  it('tell all that is there, and then only what changes', async () => {
    const { events } = await follow(
      ({ ids }) => [...ids.values()].some((file) => file.name === 'late.mov'),
      async () => put('late.mov'),
    )
    expect(events[0]!.files.map((file) => file.name)).toEqual(['bell.mp4', 'pour.mov'])
    const later = events.slice(1).flatMap((event) => event.files.map((file) => file.name))
    expect(later).toEqual(['late.mov'])
    expect(JSON.stringify(events)).not.toContain(folder)
    await unlink(join(card, 'late.mov'))
  })

  it('tell what is gone', async () => {
    await put('brief.mov')
    const id = await idOf('brief.mov')
    const { events } = await follow(
      ({ events }) => events.some((event) => event.gone.includes(id)),
      async () => unlink(join(card, 'brief.mov')),
    )
    expect(events.at(-1)!.gone).toEqual([id])
  })
})

describe('bad entries of a card', () => {
  it('are a line each with the reason, and the others are listed', async () => {
    execFileSync('mkfifo', [join(card, 'pipe.mp4')])
    await symlink('/etc/passwd', join(card, 'out.mp4'))
    await writeFile(
      Buffer.concat([Buffer.from(join(card, 'b')), Buffer.from([0xff]), Buffer.from('.mp4')]),
      'x',
    )
    const socket = createServer().listen(join(card, 'socket.mp4'))
    await once(socket, 'listening')
    await new Promise((done) => setTimeout(done, 600))
    const { files, bad } = await list()
    expect(files.map((file) => file.name)).toEqual(['bell.mp4', 'pour.mov'])
    expect(bad.map(({ place, why }) => `${place}: ${why}`)).toEqual([
      'b\ufffd.mp4: Its name is no UTF-8: rename it.',
      'out.mp4: It is a link; only what stands here itself is read.',
      'pipe.mp4: It is a pipe (FIFO), no file.',
      'socket.mp4: It is a socket, no file.',
    ])
    socket.close()
    await Promise.all(['pipe.mp4', 'out.mp4'].map((name) => unlink(join(card, name))))
    await rm(Buffer.concat([Buffer.from(join(card, 'b')), Buffer.from([0xff]), Buffer.from('.mp4')]))
  })
})

describe('a file that changed since it was listed', () => {
  it.each<[string, number, (path: string) => Promise<unknown>]>([
    ['a link', 404, async (path) => (await unlink(path), symlink('/etc/passwd', path))],
    ['a pipe', 404, async (path) => (await unlink(path), execFileSync('mkfifo', [path]))],
    ['gone', 404, (path) => unlink(path)],
    ['shorter', 409, (path) => truncate(path, 3)],
  ])('is refused at once where it became %s', async (_what, status, change) => {
    await put('turn.mov')
    const id = await idOf('turn.mov')
    await change(join(card, 'turn.mov'))
    const answer = await fetch(`${base}/api/siding/${id}`, { signal: AbortSignal.timeout(2000) })
    expect(answer.status).toBe(status)
    expect(await answer.text()).not.toContain(folder)
    await rm(join(card, 'turn.mov'), { force: true })
    await new Promise((done) => setTimeout(done, 550))
  })

  it('is refused where a folder on its way leads out', async () => {
    const id = await idOf('pour.mov')
    await mkdir(join(folder, 'elsewhere'))
    await writeFile(join(folder, 'elsewhere', 'pour.mov'), 'a secret of 19 bytes')
    await rename(join(card, 'day 1'), join(folder, 'kept'))
    await symlink(join(folder, 'elsewhere'), join(card, 'day 1'))
    expect((await fetch(`${base}/api/siding/${id}`)).status).toBe(404)
    await unlink(join(card, 'day 1'))
    await rename(join(folder, 'kept'), join(card, 'day 1'))
  })

  it('is sent where it grew', async () => {
    await put('grow.mov')
    const id = await idOf('grow.mov')
    await appendFile(join(card, 'grow.mov'), 'more')
    expect(await (await fetch(`${base}/api/siding/${id}`)).text()).toBe('0123456789more')
    await unlink(join(card, 'grow.mov'))
  })
})

describe('ranges', () => {
  it.each([
    ['bytes=2-4', { first: 2, last: 4 }],
    ['bytes=5-', { first: 5, last: 9 }],
    ['bytes=-3', { first: 7, last: 9 }],
    ['bytes=-99', { first: 0, last: 9 }],
    ['bytes=8-99', { first: 8, last: 9 }],
    ['bytes=10-', 'unsatisfiable'],
    ['bytes=-0', 'unsatisfiable'],
    ['bytes=4-2', null],
    ['bytes=1-2,4-5', null],
    ['lines=1-2', null],
    [undefined, null],
  ])('%s of ten bytes', (header, stretch) => expect(byteRangeOf(header, 10)).toEqual(stretch))

  it('are sent as they are asked for', async () => {
    const id = await idOf('bell.mp4')
    const ask = async (Range: string) => {
      const answer = await fetch(`${base}/api/siding/${id}`, { headers: { Range } })
      return [answer.status, answer.headers.get('content-range'), await answer.text()]
    }
    expect(await ask('bytes=-99')).toEqual([206, 'bytes 0-9/10', '0123456789'])
    expect(await ask('bytes=3-5')).toEqual([206, 'bytes 3-5/10', '345'])
    expect(await ask('bytes=20-')).toEqual([416, 'bytes */10', ''])
  })
})

describe('what the server says', () => {
  it.each(['/assets/none.js', '/assets/%2e%2e%2fsecret', '/api/nothing', '/%ff'])(
    'names no place of this machine at %s',
    async (path) => {
      const answer = await fetch(base + path)
      expect(await answer.text()).not.toMatch(/\/(tmp|home|work|root|usr)\b|node_modules/)
    },
  )

  it.each<[string[], Record<string, string>, RegExp]>([
    [[], { PORT: 'eighty' }, /^PORT is a whole number from 0 to 65535, not “eighty”\.$/],
    [[], { PORT: '70000' }, /PORT/],
    [[], { PORT: '-1' }, /PORT/],
    [[], { PORT: '80.5' }, /PORT/],
    [['--siding='], {}, /--siding wants the name of a folder/],
    [['--siding'], {}, /--siding.*Write it as/],
    [['--siding', '/nowhere/at/all'], {}, /There is no folder “\/nowhere\/at\/all”/],
    [['--siding', join(root, 'package.json')], {}, /is no folder/],
    [['--card', 'x'], {}, /Unknown option.*Write it as/],
    [['x'], {}, /Write it as/],
  ])('to %j %j is one sentence', (args, env, says) => {
    expect(() => readOptions(args, env)).toThrow(WrongOptions)
    expect(() => readOptions(args, env)).toThrow(says)
  })

  it('takes what is right', () => {
    expect(readOptions([], {})).toEqual({ siding: null, port: 4173, host: '127.0.0.1' })
    expect(readOptions([`--siding=${root}`], { PORT: '0' })).toMatchObject({ siding: root, port: 0 })
  })
})

describe('the process', () => {
  const start = (args: string[], env: Record<string, string>) =>
    spawn(process.execPath, ['--import', 'tsx', 'server/main.ts', ...args], {
      cwd: root,
      env: { ...process.env, ...env },
    })

  it('tells the port it got, serves siding and demo as two, and ends within two seconds whatever is open', async () => {
    const child = start(['--siding', card], { PORT: '0' })
    const [said] = (await once(child.stdout, 'data')) as [Buffer]
    const at = /http:\/\/127\.0\.0\.1:(\d+)/.exec(said.toString())!
    expect(Number(at[1])).toBeGreaterThan(0)
    const names = async (name: string) =>
      ((await (await fetch(`${at[0]}/api/${name}`)).json()) as Listed).files.map((file) => file.name)
    expect(await names('siding')).toContain('bell.mp4')
    expect(await names('demo')).toContain('hall_wide_A003.mp4')
    const events = await fetch(`${at[0]}/api/siding/events`)
    const begun = performance.now()
    child.kill('SIGTERM')
    const [status] = (await once(child, 'exit')) as [number]
    expect(status).toBe(0)
    expect(performance.now() - begun).toBeLessThan(2000)
    await events.body!.cancel().catch(() => {})
  })

  it('ends with status 2 and a sentence where it is asked wrongly', async () => {
    const child = start(['--siding='], { PORT: '0' })
    let said = ''
    child.stderr.on('data', (piece: Buffer) => (said += piece.toString()))
    const [status] = (await once(child, 'exit')) as [number]
    expect([status, said.trim().split('\n').length]).toEqual([2, 1])
  })
})
