import { describe, expect, it } from 'vitest'
import { openAccesses } from './open'

const access = (name: string, closed: string[]) => async () => ({ name, close: () => void closed.push(name) })

describe('things kept open', () => {
  it('are opened once under a key, and the least used is closed when there are too many', async () => {
    const closed: string[] = []
    const open = openAccesses<{ name: string; close(): void }>(2)
    let opened = 0
    const a = () => open.get('a', async () => ({ name: `a${++opened}`, close: () => void closed.push('a') }))
    expect((await a()).name).toBe('a1')
    expect((await a()).name).toBe('a1')
    await open.get('b', access('b', closed))
    await a()
    await open.get('c', access('c', closed))
    await Promise.resolve()
    expect(closed).toEqual(['b'])
    expect((await a()).name).toBe('a1')
  })

  it('are closed when they are dropped, also while they are still being opened', async () => {
    const closed: string[] = []
    const open = openAccesses<{ name: string; close(): void }>(2)
    const opening = open.get('a', access('a', closed))
    open.drop('a')
    await opening
    await new Promise((turn) => setTimeout(turn))
    expect(closed).toEqual(['a'])
    open.drop('nobody')
  })

  it('that cannot be opened are asked for again', async () => {
    const open = openAccesses<{ close(): void }>(2)
    await expect(open.get('a', () => Promise.reject(new Error('no file')))).rejects.toThrow('no file')
    open.drop('a')
    await expect(open.get('a', async () => ({ close: () => {} }))).resolves.toBeDefined()
  })
})
