/** The partials of a minor-third bell: ratio to the strike note, loudness, seconds to fall to a third. */
const partials = [
  [0.5, 0.5, 3.2],
  [1, 0.7, 1.6],
  [1.2, 0.6, 1.2],
  [1.5, 0.3, 0.8],
  [2, 0.6, 0.7],
  [2.67, 0.25, 0.4],
] as const

const strike = (t: number, note: number) =>
  t < 0
    ? 0
    : partials.reduce(
        (sum, [ratio, loud, fall]) =>
          sum + loud * Math.exp(-t / fall) * Math.sin(2 * Math.PI * note * ratio * t),
        0,
      ) / 3

/** One stroke of the bell, 5 s, mono, samples from −1 to 1. */
export const bellStrike = (sampleRate: number): Float32Array =>
  Float32Array.from({ length: sampleRate * 5 }, (_, i) => strike(i / sampleRate - 0.1, 330))

/** The hall: a low hum with the bell far off, 5 s, stereo interleaved. */
export const hallSound = (sampleRate: number): Float32Array =>
  Float32Array.from({ length: sampleRate * 5 * 2 }, (_, i) => {
    const t = Math.floor(i / 2) / sampleRate
    const hum = 0.06 * Math.sin(2 * Math.PI * 50 * t) + 0.03 * Math.sin(2 * Math.PI * 123 * t + (i % 2))
    return hum + 0.3 * strike(t - 1 - (i % 2) * 0.004, 220) + 0.2 * strike(t - 3, 277)
  })
