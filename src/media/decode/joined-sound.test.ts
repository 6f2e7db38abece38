import { describe, expect, it } from 'vitest'
import { joinedSound } from './joined-sound'
import type { OpenSound } from './sound-engine'

/** A file's sound: from its beginning on it counts its samples, from a number of its own. */
const counted = (first: number, count: number): OpenSound => ({
  engine: 'browser',
  sampleRate: 100,
  channels: 1,
  start: 0,
  async samples(from, to) {
    return [Float32Array.from({ length: to - from }, (_, i) => inside(from + i, count, first))]
  },
  end: () => Promise.resolve(count),
  close() {},
})
const inside = (sample: number, count: number, first: number) =>
  sample >= 0 && sample < count ? first + sample : 0
const piece = (offsetSec: number) => ({
  locator: { kind: 'url', url: 'x', sizeBytes: 1 } as const,
  kind: { stream: 0, sampleRate: 100, channels: 1, hasPicture: true, startSec: 0 },
  offsetSec,
})
const never = new AbortController().signal

describe('the sound of a recording in several files', () => {
  it('goes on from one to the next without a sample lost or heard twice', async () => {
    // Each file’s sound lasts a little longer than its picture, as blocks of a codec do.
    const offsets = [0, 2, 5]
    const sound = await joinedSound(offsets.map(piece), ({ offsetSec }) =>
      Promise.resolve(counted(offsetSec * 100 + 1, 300)),
    )
    const [samples] = await sound.samples(-10, 700, never)
    expect([...samples!]).toEqual(Array.from({ length: 710 }, (_, i) => (i < 10 ? 0 : i - 9)))
    const [middle] = await sound.samples(198, 202, never)
    expect([...middle!]).toEqual([199, 200, 201, 202])
    expect(await sound.end(never)).toBe(800)
  })

  it('opens a file when something of it is wanted, and again where it failed', async () => {
    const opened: number[] = []
    let fails = true
    const sound = await joinedSound([0, 2].map(piece), async ({ offsetSec }) => {
      opened.push(offsetSec)
      if (offsetSec === 2 && fails) throw new Error('not at hand')
      return counted(1, 200)
    })
    await sound.samples(0, 100, never)
    expect(opened).toEqual([0])
    await expect(sound.samples(150, 250, never)).rejects.toThrow('not at hand')
    fails = false
    expect((await sound.samples(200, 201, never))[0]![0]).toBe(1)
  })
})
