import { beforeEach, describe, expect, it } from 'vitest'
import { type KeptAnswers, answerFromKept, demoList, keepCard } from './kept-card'

const bytes = Uint8Array.from({ length: 200_000 }, (_, i) => (i * 7) & 255)
const files = { a: bytes, 'b c': bytes.subarray(0, 1000) }
let asked: string[] = []
const server = async (url: string): Promise<Response> => {
  asked.push(url)
  if (url === demoList) return Response.json({ files: [{ id: 'a' }, { id: 'b c' }], bad: [] })
  const name = decodeURIComponent(url.slice(demoList.length + 1)) as keyof typeof files
  return files[name] ? new Response(files[name]) : new Response(null, { status: 404 })
}
function cache(): KeptAnswers {
  const kept = new Map<string, Response>()
  return {
    match: async (url) => kept.get(url)?.clone(),
    put: async (url, response) => void kept.set(url, response),
  }
}
let kept = cache()
const ask = (path: string, range: string | null = null) =>
  answerFromKept(kept, new URL(path, 'http://here'), range)

beforeEach(async () => {
  asked = []
  kept = cache()
  expect(await keepCard(kept, server)).toBe(2)
})

describe('a card that is kept', () => {
  it('asks for no file twice', async () => {
    expect(asked).toHaveLength(3)
    await keepCard(kept, server)
    expect(asked).toHaveLength(4)
  })
  it('gives stretches as the server does', async () => {
    const answer = await ask('/api/demo/a', 'bytes=100-299')
    expect(answer?.status).toBe(206)
    expect(answer?.headers.get('Content-Range')).toBe('bytes 100-299/200000')
    expect(new Uint8Array(await answer!.arrayBuffer())).toEqual(bytes.subarray(100, 300))
    const rest = await ask('/api/demo/a', 'bytes=199990-')
    expect(new Uint8Array(await rest!.arrayBuffer())).toEqual(bytes.subarray(199_990))
    expect((await ask('/api/demo/a', 'bytes=200000-'))?.status).toBe(416)
    expect((await ask('/api/demo/a'))?.status).toBe(200)
  })
  it('gives both ends of several files, and says which is not there', async () => {
    const answer = await ask(`/api/demo/ends?ids=${['a', 'b c', 'no'].map(encodeURIComponent).join(',')}`)
    const all = new DataView(await answer!.arrayBuffer())
    expect([all.getUint32(0), all.getUint32(4), all.getUint32(8)]).toEqual([200, 65_536, 65_536])
    const second = 12 + 2 * 65_536
    expect([all.getUint32(second), all.getUint32(second + 4), all.getUint32(second + 8)]).toEqual([
      200, 1000, 0,
    ])
    expect(all.getUint32(second + 12 + 1000)).toBe(404)
    expect(new Uint8Array(all.buffer, 12 + 65_536, 4)).toEqual(
      bytes.subarray(200_000 - 65_536, 200_000 - 65_532),
    )
  })
  it('tells its list and its events', async () => {
    expect((await (await ask('/api/demo'))!.json()).files).toHaveLength(2)
    const text = await (await ask('/api/demo/events?copy=x'))!.text()
    expect(JSON.parse(/^data: (.*)$/m.exec(text)![1]!).files).toHaveLength(2)
  })
  it('says nothing of what it does not keep', async () => {
    expect(await ask('/api/demo/other')).toBeNull()
    kept = cache()
    expect(await ask('/api/demo')).toBeNull()
    expect(await ask('/api/demo/events')).toBeNull()
  })
  it('stops when it is told to, and keeps what it has', async () => {
    kept = cache()
    const stop = new AbortController()
    const until = async (url: string) => {
      if (url !== demoList) stop.abort()
      return server(url)
    }
    await expect(keepCard(kept, until, stop.signal)).rejects.toThrow()
    expect(await ask('/api/demo/a')).not.toBeNull()
    expect(await ask('/api/demo/b%20c')).toBeNull()
  })
})
