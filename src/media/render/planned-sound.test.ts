import { describe, expect, it } from 'vitest'
import { deliverableOf } from '../../core/model/deliverable'
import { wrapped } from '../../core/dispatch/usual'
import { parseFormat } from '../../core/format/parse'
import { channelsOf, samplesAt } from '../../core/sound/mix'
import type { MixOrder } from '../sound/mixing'
import { evenedSound, plannedSamples, woven } from './planned-sound'

const rate = { num: 30_000, den: 1001 }
const never = new AbortController().signal
/** A tone of a level on every channel of a layout. */
const tone =
  (level: number) =>
  async ({ layout, from, count }: MixOrder) => ({
    channels: Array.from({ length: channelsOf[layout] }, () =>
      Float32Array.from(
        { length: count },
        (_, i) => level * Math.sin(((from + i) * 2 * Math.PI * 1000) / 48_000),
      ),
    ),
    trouble: null,
  })
const sound = { sampleRate: 48_000, layout: 'stereo', outLayout: 'stereo', gain: 0, parts: [] } as const
const asked = (loudnessLufs: number | null) => {
  const out = wrapped(deliverableOf('d', 'Out', parseFormat('1920x1080@29.97p')!.format))
  return {
    sound,
    deliverable: { ...out, sound: { ...out.sound!, loudnessLufs } },
    range: { from: 0, to: 90 },
  }
}

describe('sound that goes out', () => {
  it('ends with its picture after an hour at 29.97: within a sample, frame by frame', () => {
    const hour = 107_892
    expect(samplesAt(hour, 48_000, rate)).toBe(Math.round(hour * 1601.6))
    let sum = 0
    for (let n = 0; n < hour; n++) {
      const length = samplesAt(n + 1, 48_000, rate) - samplesAt(n, 48_000, rate)
      expect(length === 1601 || length === 1602).toBe(true)
      sum += length
    }
    const apart = sum / 48_000 - (hour * rate.den) / rate.num
    expect(Math.abs(apart) * 1000).toBeLessThan(0.02)
  })
  it('is mixed into the channels that are wanted, by its gain', async () => {
    const [mono] = await plannedSamples(
      tone(0.5),
      { ...sound, outLayout: 'mono', gain: -6.0206 },
      0,
      480,
      never,
    )
    expect(Math.max(...mono!)).toBeCloseTo(0.25, 2)
    const both = await plannedSamples(tone(0.5), { ...sound, layout: 'mono' }, 0, 480, never)
    expect(both).toHaveLength(2)
  })
  it('is brought to a loudness, as far as its peak lets it', async () => {
    // A tone of −23 dBFS on both sides is −23 LUFS.
    const quiet = await evenedSound(asked(-30), tone(10 ** (-23 / 20)), never)
    expect(quiet.evened).toEqual({ gain: -7, limited: false })
    expect(quiet.sound!.gain).toBe(-7)
    const loud = await evenedSound(asked(-0.5), tone(0.5), never)
    expect(loud.evened).toEqual({ gain: 5, limited: true })
    expect((await evenedSound(asked(null), tone(0.5), never)).evened).toBeNull()
  })
  it('is woven, a sample of each channel after the other', () => {
    expect([...woven([Float32Array.of(1, 2), Float32Array.of(3, 4)])]).toEqual([1, 3, 2, 4])
  })
  it('tells what cannot be had', async () => {
    const lost = async ({ count }: MixOrder) => ({
      channels: [new Float32Array(count)],
      trouble: 'hall.wav is not at hand.',
    })
    await expect(plannedSamples(lost, sound, 0, 10, never)).rejects.toThrow('hall.wav is not at hand.')
  })
})
