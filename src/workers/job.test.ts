import { describe, expect, it, vi } from 'vitest'
import { askFor, jobs } from './job'

const turn = () => new Promise((done) => setTimeout(done, 2))

describe('jobs of a worker', () => {
  it('bring their result', async () => {
    const running = jobs()
    expect(await running.run(1, () => 7)).toBe(7)
    expect(await running.run(1, async () => 8)).toBe(8)
  })

  it('that are ended before they begin do no work', async () => {
    const running = jobs()
    const work = vi.fn()
    const job = running.run(1, work)
    running.end(1)
    await expect(job).rejects.toThrow()
    expect(work).not.toHaveBeenCalled()
  })

  it('drop what comes late where it was made', async () => {
    const running = jobs()
    const dropped: string[] = []
    let finish = (_: string) => {}
    const job = running.run(
      1,
      () => new Promise<string>((done) => (finish = done)),
      (late) => void dropped.push(late),
    )
    await turn()
    running.end(1)
    finish('a frame')
    await expect(job).rejects.toThrow()
    expect(dropped).toEqual(['a frame'])
    running.end(1)
  })

  it('hand the signal down', async () => {
    const running = jobs()
    const job = running.run(
      1,
      (signal) =>
        new Promise((_, fail) => signal.addEventListener('abort', () => fail(signal.reason as Error))),
    )
    await turn()
    running.end(1)
    await expect(job).rejects.toThrow(/abort/i)
  })
})

describe('asking for a job', () => {
  it('ends it in the worker when nobody wants it any more', async () => {
    const running = jobs()
    const ended: number[] = []
    const service = {
      end: (id: number) => {
        ended.push(id)
        running.end(id)
      },
    }
    const controller = new AbortController()
    const asked = askFor(service, (id) => running.run(id, () => new Promise(() => {})), controller.signal)
    await turn()
    controller.abort(new Error('overtaken'))
    expect(ended).toHaveLength(1)
    // The worker may never answer; whoever asked is told by the signal.
    await expect(Promise.race([asked, turn().then(() => 'still waiting')])).resolves.toBe('still waiting')
  })

  it('is not even begun once the signal has aborted, and tells its reason', async () => {
    const ask = vi.fn()
    await expect(askFor({ end: () => {} }, ask, AbortSignal.abort(new Error('overtaken')))).rejects.toThrow(
      'overtaken',
    )
    expect(ask).not.toHaveBeenCalled()
  })

  it('gives each its own number, and passes what fails on', async () => {
    const ids: number[] = []
    const service = { end: () => {} }
    await askFor(service, async (id) => void ids.push(id))
    await askFor(service, async (id) => void ids.push(id))
    expect(ids[1]).not.toBe(ids[0])
    await expect(askFor(service, () => Promise.reject(new Error('broken')))).rejects.toThrow('broken')
  })
})
