import { describe, expect, it } from 'vitest'
import { soundVerdict, stretchesToCompare } from './sound-likeness'

const rate = 48_000
/** Numbers that look random and are the same each time. */
function randomly(seed: number) {
  let state = seed
  return () => (state = (state * 16807) % 2147483647) / 2147483647
}
/** Strikes of bells at uneven times, as another each time it is drawn. */
function bells(seconds: number, seed: number, late = 0): Float32Array {
  const random = randomly(seed)
  const strikes = Array.from(
    { length: seconds * 2 },
    () => [random() * seconds, 200 + 1800 * random()] as const,
  )
  return Float32Array.from({ length: seconds * rate }, (_, n) =>
    strikes.reduce((sum, [at, hertz]) => {
      const since = n / rate - at - late
      return since < 0 || since > 1
        ? sum
        : sum + 0.2 * Math.exp(-6 * since) * Math.sin(2 * Math.PI * hertz * since)
    }, 0),
  )
}
const tone = (hertz: number, late = 0) =>
  Float32Array.from({ length: 4 * rate }, (_, n) => 0.3 * Math.sin(2 * Math.PI * hertz * (n / rate - late)))
/** As a codec leaves it: a little noise, a little quieter. */
const coded = (samples: Float32Array) => {
  const random = randomly(99)
  return samples.map((value) => 0.97 * value + 0.004 * (random() - 0.5))
}
const [left, right] = [bells(6, 11), bells(6, 23)]
const verdict = (planned: Float32Array[], found: Float32Array[], foundRate = rate) =>
  soundVerdict(planned, found, rate, foundRate)

/** One strike of a bell that rings on: moved by whole swings it is nearly itself. */
const ringing = (late = 0) =>
  Float32Array.from({ length: 2 * rate }, (_, n) => {
    const since = n / rate - 0.2 - late
    return since < 0
      ? 0
      : 0.3 *
          Math.exp(-1.5 * since) *
          (Math.sin(2 * Math.PI * 220 * since) + 0.2 * Math.sin(2 * Math.PI * 531 * since))
  })

describe('the sound of a file beside what was planned', () => {
  it.each([40, -40, 12, 150])('is %i ms late, though what rings is like itself nearer by', (ms) => {
    const found = verdict([ringing()], [coded(ringing(ms / 1000))])
    expect(found).toMatchObject({ kind: 'same' })
    expect(Math.abs((found as { lateMs: number }).lateMs - ms)).toBeLessThanOrEqual(1)
  })
  it('is the same, after a codec too', () => {
    expect(verdict([left, right], [coded(left), coded(right)])).toEqual({ kind: 'same', lateMs: 0 })
    expect(verdict([tone(440)], [coded(tone(440))])).toEqual({ kind: 'same', lateMs: 0 })
    const silence = new Float32Array(rate)
    expect(verdict([silence, silence], [silence, silence])).toEqual({ kind: 'quiet' })
  })
  it.each([0.011, -0.011, 0.04, -0.25, 1.5, -2])('is %s s late, however far', (late) => {
    const [l, r] = [bells(6, 11, late), bells(6, 23, late)]
    const found = verdict([left, right], [coded(l), coded(r)])
    expect(found).toMatchObject({ kind: 'same' })
    expect(Math.abs((found as { lateMs: number }).lateMs - late * 1000)).toBeLessThanOrEqual(1)
  })
  it('is another sound, silent, or heard where nothing is', () => {
    const silence = new Float32Array(6 * rate)
    expect(verdict([left, right], [bells(6, 5), bells(6, 6)])).toEqual({ kind: 'another' })
    expect(verdict([tone(440)], [tone(470)])).toEqual({ kind: 'another' })
    // One channel alone is enough.
    expect(verdict([left, right], [left, bells(6, 6)])).toEqual({ kind: 'another' })
    expect(verdict([left, right], [left, silence])).toEqual({ kind: 'another' })
    expect(verdict([left, right], [silence, silence])).toEqual({ kind: 'silent' })
    expect(verdict([silence], [left])).toEqual({ kind: 'not-silent' })
    expect(verdict([left], [left.map((value) => -value)])).toEqual({ kind: 'another' })
  })
  it('has its channels swapped', () => {
    expect(verdict([left, right], [coded(right), coded(left)])).toMatchObject({ kind: 'swapped' })
    const quiet = left.map((value) => value * 0.3)
    expect(verdict([left, quiet], [coded(quiet), coded(left)])).toMatchObject({ kind: 'swapped' })
    const silence = new Float32Array(left.length)
    expect(verdict([left, silence], [silence, coded(left)])).toMatchObject({ kind: 'swapped' })
    // Both alike cannot be.
    expect(verdict([left, left], [coded(left), coded(left)])).toEqual({ kind: 'same', lateMs: 0 })
  })
  it('is compared from the first stretch to the last, all of a short film', () => {
    expect(stretchesToCompare(25)).toEqual([
      { from: 0, to: 10 },
      { from: 10, to: 20 },
      { from: 20, to: 25 },
    ])
    const long = stretchesToCompare(3600)
    expect([long.length, long[0], long.at(-1)]).toEqual([24, { from: 0, to: 10 }, { from: 3590, to: 3600 }])
  })
})
