import { describe, expect, it, vi } from 'vitest'
import { useJobQueue } from './job-queue'

/** Work that goes on until it is told to end, and hears of its signal. */
function held() {
  let end: () => void = () => {}
  let fail: (error: Error) => void = () => {}
  const over = new Promise<void>((done, failed) => ([end, fail] = [done, failed]))
  const begun = vi.fn()
  const work = async (signal: AbortSignal, tell: (done: number, total: number) => void) => {
    begun(signal)
    tell(3, 10)
    await over
  }
  return { work, begun, end: () => end(), fail: (error: Error) => fail(error) }
}
const soon = () => new Promise((turn) => setTimeout(turn))

describe('a queue of jobs', () => {
  it('does one after the other, in order, and says how far each is', async () => {
    const jobs = useJobQueue()
    const [first, second] = [held(), held()]
    const both = [jobs.add({ key: 'hall', work: first.work }), jobs.add({ key: 'bell', work: second.work })]
    expect(jobs.isBusy.value).toBe(true)
    await soon()
    expect([jobs.running.value, jobs.waiting.value]).toEqual([[{ key: 'hall', done: 3, total: 10 }], 1])
    expect(second.begun).not.toHaveBeenCalled()
    first.end()
    await both[0]
    await soon()
    expect([jobs.running.value[0]?.key, jobs.waiting.value]).toEqual(['bell', 0])
    second.end()
    await both[1]
    expect([jobs.running.value, jobs.isBusy.value, jobs.has('bell')]).toEqual([[], false, false])
  })

  it('does nothing of one key twice at a time, and does it again once it is over', async () => {
    const jobs = useJobQueue()
    const [first, again] = [held(), held()]
    const over = jobs.add({ key: 'hall', work: first.work })
    await jobs.add({ key: 'hall', work: again.work })
    first.end()
    await over
    expect(again.begun).not.toHaveBeenCalled()
    again.end()
    await jobs.add({ key: 'hall', work: again.work })
    expect(again.begun).toHaveBeenCalledOnce()
  })

  it('says why one failed, goes on with the next, and forgets it when it is done again', async () => {
    const jobs = useJobQueue({ errorOf: (error) => `No: ${(error as Error).message}` })
    const [first, second] = [held(), held()]
    const all = [jobs.add({ key: 'hall', work: first.work }), jobs.add({ key: 'bell', work: second.work })]
    first.fail(new Error('the furnace is cold'))
    second.end()
    await Promise.all(all)
    expect([...jobs.errors]).toEqual([['hall', 'No: the furnace is cold']])
    const again = jobs.add({ key: 'hall', work: second.work })
    expect(jobs.errors.size).toBe(0)
    await again
  })

  it('never begins what is cancelled while it waits; what runs hears of it and says nothing', async () => {
    const jobs = useJobQueue()
    const [first, second, third] = [held(), held(), held()]
    const all = [
      jobs.add({ key: 'hall', work: first.work }),
      jobs.add({ key: 'bell', work: second.work }),
      jobs.add({ key: 'reel', work: third.work }),
    ]
    await soon()
    jobs.cancel('bell')
    jobs.cancel('hall')
    expect((first.begun.mock.calls[0]?.[0] as AbortSignal).aborted).toBe(true)
    first.fail(new Error('ended'))
    third.end()
    await Promise.all(all)
    expect(second.begun).not.toHaveBeenCalled()
    expect(third.begun).toHaveBeenCalledOnce()
    expect(jobs.errors.size).toBe(0)
  })

  it('takes one that was cancelled again before its turn had come', async () => {
    const jobs = useJobQueue()
    const [first, second, again] = [held(), held(), held()]
    const all = [jobs.add({ key: 'hall', work: first.work }), jobs.add({ key: 'bell', work: second.work })]
    jobs.cancel('bell')
    all.push(jobs.add({ key: 'bell', work: again.work }))
    first.end()
    again.end()
    await Promise.all(all)
    expect([second.begun.mock.calls.length, again.begun.mock.calls.length]).toEqual([0, 1])
    expect(jobs.has('bell')).toBe(false)
  })

  it('asks for the next only when it can begin, two at a time, and for none while it is paused', async () => {
    const jobs = useJobQueue({ concurrency: 2 })
    const works = new Map(['a', 'b', 'c', 'd'].map((key) => [key, held()]))
    const wanted = [...works.keys()]
    const next = () => {
      const key = wanted.shift()
      return key === undefined ? undefined : { key, work: works.get(key)!.work }
    }
    void jobs.feed(next)
    void jobs.feed(next)
    await soon()
    expect([jobs.running.value.map(({ key }) => key), wanted]).toEqual([
      ['a', 'b'],
      ['c', 'd'],
    ])
    jobs.pause()
    works.get('a')!.end()
    await soon()
    expect(works.get('c')!.begun).not.toHaveBeenCalled()
    jobs.resume()
    works.get('b')!.end()
    await soon()
    const over = jobs.feed(next)
    await soon()
    expect(works.get('c')!.begun).toHaveBeenCalledOnce()
    works.get('c')!.end()
    works.get('d')!.end()
    await over
    await soon()
    expect(jobs.isBusy.value).toBe(false)
  })

  it('asks each lane once where there is nothing to do, and again when it is fed again', async () => {
    const jobs = useJobQueue({ concurrency: 2 })
    const next = vi.fn(() => undefined)
    await jobs.feed(next)
    expect(next).toHaveBeenCalledTimes(2)
    const { work, begun, end } = held()
    end()
    let left = 1
    await jobs.feed(() => (left-- > 0 ? { key: 'hall', work } : undefined))
    expect(begun).toHaveBeenCalledOnce()
  })
})
