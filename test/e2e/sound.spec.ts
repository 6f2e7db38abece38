import { bellStrike, hallSound } from '../../tools/demo/sounds'
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
  const heard = ({ page, clip, fixture }: Workshop, file: string, from: number, to: number) => {
    const { url, size } = file.startsWith('late') ? fixture(file) : clip(file)
    return page.evaluate(([u, bytes, by, a, b]) => window.workshop.sound(u, bytes, by, 0, [a, b]), [
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

  for (const [file, begins, strikes] of [
    ['late_sound.mov', 0.25, 0.25],
    ['late_sound.mkv', 0.4, 0.4],
    // What the codec needs to get under way stands before the strike; both wrappers count in whole milliseconds.
    ['late_sound.mp4', 0.378, 0.4],
  ] as const)
    test(`sound of ${file} begins ${begins} s behind the picture, by the ${engine}`, async ({ workshop }) => {
      const sound = await heard(workshop, file, 0, 36_000)
      test.skip(sound === null, 'not one of the browser')
      expect(sound!.start).toBeCloseTo(begins, 6)
      expect(sound!.samples.slice(0, Math.floor(begins * 48_000)).every((value) => value === 0)).toBe(true)
      const drawn = (i: number) => (i / 48_000 < strikes ? 0 : strokes(i / 48_000 - strikes))
      expect(Math.abs(lateness(sound!.samples.slice(0, 26_000), drawn, 0))).toBeLessThanOrEqual(
        file.endsWith('mov') ? 1 : 48,
      )
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
