import { describe, expect, it } from 'vitest'
import { aheadOf, stretched } from './stretched'

/** How often a sound crosses silence upwards in a second: its pitch, where it is a tone. */
function pitchOf(samples: Float32Array, rate: number): number {
  let crossings = 0
  for (let n = 1; n < samples.length; n++) if (samples[n - 1]! < 0 && samples[n]! >= 0) crossings++
  return (crossings * rate) / samples.length
}

describe('sound at another speed', () => {
  it.each([0.4, 24 / 25, 2])(
    'keeps its pitch at a speed of %s, and takes as much of the source as it passes',
    async (speed) => {
      const [rate, hertz] = [48_000, 440]
      let taken = 0
      const source = stretched(speed, rate, async (count) => {
        const from = taken
        taken += count
        const tone = Float32Array.from({ length: count }, (_, n) =>
          Math.sin((2 * Math.PI * hertz * (from + n)) / rate),
        )
        return [tone, tone.map((value) => -value), tone]
      })
      await source.next(rate / 2)
      const before = taken
      const channels = await source.next(2 * rate)
      expect(channels).toHaveLength(3)
      expect(Math.abs(pitchOf(channels[0]!, rate) - hertz)).toBeLessThan(hertz * 0.02)
      expect(channels[2]).toEqual(channels[0])
      expect(Math.max(...channels[1]!)).toBeGreaterThan(0.5)
      expect((taken - before) / rate).toBeCloseTo(2 * speed, 0)
    },
  )
})

/** A voice that swells and fades at random, or noise that does: what it is like at a moment is nowhere else in it. */
function swelling(seconds: number, rate: number, seed: number): Float32Array {
  let state = seed
  const random = () => (state = (state * 16807) % 2147483647) / 2147483647
  const swells = Array.from({ length: seconds * 12 + 2 }, () => random() ** 3)
  const voice = (n: number) => Math.sin((2 * Math.PI * (130 + seed) * n) / rate)
  return Float32Array.from({ length: seconds * rate }, (_, n) => {
    const at = (n / rate) * 12
    const [a, b] = [swells[Math.floor(at)]!, swells[Math.floor(at) + 1]!]
    return (a + (b - a) * (at - Math.floor(at))) * (seed % 2 ? 2 * random() - 1 : voice(n))
  })
}

/** How loud a sound is in each millisecond, and around it. */
function envelope(samples: Float32Array, rate: number): number[] {
  const bare = Array.from({ length: Math.floor((samples.length / rate) * 1000) }, (_, ms) => {
    let sum = 0
    for (let n = Math.floor((ms * rate) / 1000); n < ((ms + 1) * rate) / 1000; n++) sum += samples[n]! ** 2
    return Math.sqrt(sum)
  })
  const weights = Array.from({ length: 121 }, (_, i) => Math.exp(-((i - 60) ** 2) / 800))
  return bare.map((_, i) => weights.reduce((sum, weight, k) => sum + weight * (bare[i + k - 60] ?? 0), 0))
}

/** By how many milliseconds a sound is late against another that it should be like; negative where it is early. */
function lateness(found: number[], wanted: number[]): number {
  let [best, most] = [0, -Infinity]
  for (let by = -120; by <= 120; by++) {
    let like = 0
    for (let i = 150; i < wanted.length - 150; i++) like += wanted[i]! * (found[i + by] ?? 0)
    if (like > most) [best, most] = [by, like]
  }
  return best
}

describe('sound at another speed is in its place', () => {
  it.each([0.4, 0.5, 0.8, 24 / 25, 25 / 24, 1.25, 1.6, 2])(
    'within 5 ms at a speed of %s',
    async (speed) => {
      const rate = speed > 1 ? 44_100 : 48_000
      let sum = 0
      const seeds = [7, 8, 9, 10, 11, 12]
      for (const seed of seeds) {
        const sound = swelling(Math.ceil(4 * speed) + 1, rate, seed)
        let at = -Math.round(aheadOf(speed, rate))
        const source = stretched(speed, rate, async (count) => {
          const taken = Float32Array.from({ length: count }, (_, n) => sound[at + n] ?? 0)
          at += count
          return [taken]
        })
        const [channel] = await source.next(4 * rate)
        const plain = envelope(sound, rate)
        const wanted = Array.from({ length: 4000 }, (_, ms) => plain[Math.round(ms * speed)] ?? 0)
        sum += lateness(envelope(channel!, rate), wanted)
      }
      expect(Math.abs(sum / seeds.length)).toBeLessThan(5)
    },
    20_000,
  )
})
