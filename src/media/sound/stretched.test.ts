import { describe, expect, it } from 'vitest'
import { stretched } from './stretched'

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
      const made = await source.next(2 * rate)
      expect(made).toHaveLength(3)
      expect(Math.abs(pitchOf(made[0]!, rate) - hertz)).toBeLessThan(hertz * 0.02)
      expect(made[2]).toEqual(made[0])
      expect(Math.max(...made[1]!)).toBeGreaterThan(0.5)
      expect((taken - before) / rate).toBeCloseTo(2 * speed, 0)
    },
  )
})
