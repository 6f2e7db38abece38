import { bellStrike, hallSound } from '../demo/sounds'
import { type Workshop, expect, test } from './workshop/test'

/** The strokes of the swinging bell, as the demo draws them. */
const strokes = (t: number) =>
  0.3 * Math.exp(-3 * (t % 1)) * (Math.sin(2 * Math.PI * 330 * t) + 0.6 * Math.sin(2 * Math.PI * 396 * t))

/** By how many samples what is heard comes later than what was drawn: where both agree best. */
function lateness(heard: readonly number[], drawn: (sample: number) => number, from: number): number {
  const agreement = (late: number) => heard.reduce((sum, value, i) => sum + value * drawn(from + i - late), 0)
  const offsets = Array.from({ length: 401 }, (_, i) => i - 200)
  return offsets.reduce((best, late) => (agreement(late) > agreement(best) ? late : best), 0)
}

for (const engine of ['browser', 'toolkit'] as const) {
  const heard = ({ page, clip }: Workshop, file: string, from: number, to: number) => {
    const { url, size } = clip(file)
    return page.evaluate(([u, bytes, by, a, b]) => window.workshop.sound(u, bytes, by, 0, a, b), [
      url,
      size,
      engine,
      from,
      to,
    ] as const)
  }

  test(`a strike beside a picture is heard within a sample of where it was drawn, by the ${engine}`, async ({
    workshop,
  }) => {
    for (const [from, to] of [
      [0, 3000],
      [47_500, 51_000],
      [143_900, 147_000],
    ] as const) {
      const sound = await heard(workshop, 'bell_swing_B011.mp4', from, to)
      expect(sound!.sampleRate).toBe(48_000)
      expect(sound!.samples).toHaveLength(to - from)
      expect(
        Math.abs(lateness(sound!.samples, (i) => (i < 0 ? 0 : strokes(i / 48_000)), from)),
      ).toBeLessThanOrEqual(1)
    }
  })

  test(`sound alone is its samples, exactly, from any place, by the ${engine}`, async ({ workshop }) => {
    const strike = await heard(workshop, 'bell_strike.wav', 4000, 8000)
    const drawn = bellStrike(44_100)
    expect(strike).toMatchObject({ sampleRate: 44_100, start: 0 })
    expect(Math.max(...strike!.samples.map((value, i) => Math.abs(value - drawn[4000 + i]!)))).toBeLessThan(
      1 / 32_000,
    )
    const hall = await heard(workshop, 'hall_sound.wav', 100_000, 102_000)
    const woven = hallSound(48_000)
    expect(
      Math.max(...hall!.samples.map((value, i) => Math.abs(value - woven[2 * (100_000 + i)]!))),
    ).toBeLessThan(1e-6)
    // Before and beyond it there is silence.
    const before = await heard(workshop, 'bell_strike.wav', -100, 100)
    expect(before!.samples.slice(0, 100).every((value) => value === 0)).toBe(true)
    const beyond = await heard(workshop, 'bell_strike.wav', 44_100 * 5 - 50, 44_100 * 5 + 50)
    expect(beyond!.samples.slice(50).every((value) => value === 0)).toBe(true)
    expect(beyond!.samples).toHaveLength(100)
  })
}
