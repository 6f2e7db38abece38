import * as Comlink from 'comlink'
import { describe, expect, it, vi } from 'vitest'
import { job, withSignals } from './job'

const turn = (ms = 2) => new Promise((done) => setTimeout(done, ms))

describe('a job', () => {
  it('brings its result', async () => {
    expect(await job(undefined, () => 7)).toBe(7)
    expect(await job(new AbortController().signal, async () => 8)).toBe(8)
  })

  it('that is ended before it begins does no work', async () => {
    const until = new AbortController()
    const work = vi.fn()
    const begun = job(until.signal, work)
    until.abort()
    await expect(begun).rejects.toThrow()
    expect(work).not.toHaveBeenCalled()
  })

  it('drops what comes late where it was made', async () => {
    const until = new AbortController()
    const dropped: string[] = []
    let finish = (_: string) => {}
    const begun = job(
      until.signal,
      () => new Promise<string>((done) => (finish = done)),
      (late) => void dropped.push(late),
    )
    await turn()
    until.abort()
    finish('a frame')
    await expect(begun).rejects.toThrow()
    expect(dropped).toEqual(['a frame'])
  })
})

/** A service behind a channel, as a worker’s is. */
function served<Service extends object>(service: Service) {
  const { port1, port2 } = new MessageChannel()
  Comlink.expose(service, port2)
  port1.start()
  port2.start()
  const close = () => (port1.close(), port2.close())
  return { remote: withSignals(Comlink.wrap<Service>(port1)), close }
}

describe('a signal that goes over to a worker', () => {
  it('ends the job there, and whoever asked is told its reason', async () => {
    let seen: AbortSignal | null = null
    const { remote, close } = served({
      frame: (n: number, until?: AbortSignal) =>
        job(until, async (signal) => {
          seen = signal
          await new Promise((_, fail) => signal.addEventListener('abort', () => fail(signal.reason as Error)))
          return n
        }),
    })
    const until = new AbortController()
    const asked = remote.frame(7, until.signal)
    await vi.waitFor(() => expect(seen).not.toBeNull())
    expect(seen!.aborted).toBe(false)
    until.abort(new Error('overtaken'))
    await expect(asked).rejects.toThrow('overtaken')
    expect(seen!.aborted).toBe(true)
    close()
  })

  it('that has aborted begins nothing', async () => {
    const frame = vi.fn((_until?: AbortSignal) => 7)
    const { remote, close } = served({ frame })
    await expect(remote.frame(AbortSignal.abort(new Error('overtaken')))).rejects.toThrow('overtaken')
    await turn()
    expect(frame).not.toHaveBeenCalled()
    close()
  })

  it('is left alone once the job is done, however long it lives', async () => {
    const { remote, close } = served({ frame: (until?: AbortSignal) => job(until, () => 7) })
    const until = new AbortController()
    const removed = vi.spyOn(until.signal, 'removeEventListener')
    for (let i = 0; i < 3; i++) expect(await remote.frame(until.signal)).toBe(7)
    await vi.waitFor(() => expect(removed).toHaveBeenCalledTimes(3))
    close()
  })

  it('lets what fails through as it is, with and without one', async () => {
    const { remote, close } = served({
      frame: (until?: AbortSignal) => job(until, () => Promise.reject(new Error('broken'))),
    })
    await expect(remote.frame()).rejects.toThrow('broken')
    await expect(remote.frame(new AbortController().signal)).rejects.toThrow('broken')
    close()
  })
})
