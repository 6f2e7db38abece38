import { readFileSync } from 'node:fs'
import { Worker } from 'node:worker_threads'
import ts from 'typescript'
import { describe, expect, it } from 'vitest'
import { newRing, ringReader, ringWriter } from './ring'

const never = new AbortController().signal

describe('a ring of bytes', () => {
  it('gives out what was put in, in order, whatever the lengths', async () => {
    const ring = newRing(64)
    const [writer, reader] = [ringWriter(ring), ringReader(ring)]
    let [next, expected] = [0, 0]
    for (const length of [5, 40, 3, 63, 1, 17, 62]) {
      expect(writer.write(Uint8Array.from({ length }, () => next++ & 255))).toBe(true)
      for (let left = length; left > 0; left -= 7) {
        const bytes = await reader.take(Math.min(7, left), never)
        expect([...bytes]).toEqual([...bytes].map(() => expected++ & 255))
      }
    }
    writer.write(Uint8Array.of(1, 2, 3))
    writer.end()
    expect([...(await reader.take(10, never))]).toEqual([1, 2, 3])
    expect([...(await reader.take(10, never))]).toEqual([])
  })

  it('lets its writer wait in another thread until there is room, and ends it when nothing more is wanted', async () => {
    const ring = newRing(1000)
    // The other thread knows no TypeScript.
    const source = readFileSync(new URL('./ring.ts', import.meta.url), 'utf8')
    const { outputText: script } = ts.transpileModule(source, {
      compilerOptions: { module: ts.ModuleKind.ESNext, target: ts.ScriptTarget.ES2022 },
    })
    const code = `
      const { workerData, parentPort } = require('node:worker_threads')
      import(workerData.module).then(({ ringWriter }) => {
        const writer = ringWriter(workerData.ring)
        let sent = 0
        while (writer.write(new Uint8Array(300).fill(sent & 255))) sent++
        parentPort.postMessage(sent)
      })`
    const worker = new Worker(code, {
      eval: true,
      workerData: { ring, module: `data:text/javascript,${encodeURIComponent(script)}` },
    })
    const ending = new Promise<number>((resolve, reject) => {
      worker.on('message', resolve)
      worker.on('error', reject)
    })
    const reader = ringReader(ring)
    for (let i = 0; i < 200; i++) {
      const bytes = await reader.take(300, never)
      expect([bytes.length, bytes[0], bytes[299]]).toEqual([300, i & 255, i & 255])
    }
    reader.cancel()
    expect(await ending).toBeGreaterThanOrEqual(200)
    await worker.terminate()
  })

  it('lets whoever puts do other things while there is no room, and fills what room is given', async () => {
    const ring = newRing(16)
    const [writer, reader] = [ringWriter(ring), ringReader(ring)]
    let isIn = false
    const putting = writer.put(Uint8Array.from({ length: 40 }, (_, i) => i)).then(() => (isIn = true))
    await Promise.resolve()
    expect(isIn).toBe(false)
    const got: number[] = []
    for (let turn = 0; got.length < 40 && turn < 200; turn++) {
      const room = new Uint8Array(7)
      got.push(...room.subarray(0, reader.fill(room)))
      await new Promise((later) => setTimeout(later, 1))
    }
    await putting
    writer.end()
    expect([got, reader.fill(new Uint8Array(4))]).toEqual([Array.from({ length: 40 }, (_, i) => i), 0])
    reader.cancel()
    expect(await writer.put(Uint8Array.of(1))).toBe(false)
  })

  it('stops waiting when the wish is taken back', async () => {
    const wish = new AbortController()
    const waiting = ringReader(newRing(64)).take(5, wish.signal)
    wish.abort(new Error('no longer wanted'))
    await expect(waiting).rejects.toThrow('no longer wanted')
  })
})
