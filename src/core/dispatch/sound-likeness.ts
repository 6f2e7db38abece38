import FFT from 'fft.js'
import type { Channels } from '../sound/mix'
import { atMoments, soundMargin } from '../sound/resample'

/** A stretch of sound held against what was planned there. */
export type SoundVerdict =
  /** Both are silent. */
  | { readonly kind: 'quiet' }
  | { readonly kind: 'same'; readonly lateMs: number }
  /** The channels are those of one another. */
  | { readonly kind: 'swapped'; readonly lateMs: number }
  | { readonly kind: 'silent' }
  | { readonly kind: 'not-silent' }
  | { readonly kind: 'another' }
  /** Too short or too faint for one to be told from another. */
  | { readonly kind: 'cannot-tell' }

/** Sound is compared at so many samples a second: what codecs keep of it, and fine enough for an eighth of a millisecond. */
const rate = 8000
/** Below this, as a share of full scale, nothing is heard: −66 dB. */
const silence = 5e-4
/** So alike sound that a codec has been over still is; other sound is not. */
const alike = 0.6

const power = (samples: Float32Array): number => samples.reduce((sum, value) => sum + value * value, 0)
const level = (samples: Float32Array): number => Math.sqrt(power(samples) / Math.max(1, samples.length))

/** Sound thinned out to the rate at which it is compared, its mean taken away. */
export function thinned(samples: Float32Array, sampleRate: number): Float32Array {
  const padded = new Float32Array(samples.length + 2 * soundMargin)
  padded.set(samples, soundMargin)
  const resampled = atMoments(padded, 0, sampleRate / rate, Math.floor((samples.length * rate) / sampleRate))
  const mean = resampled.reduce((sum, value) => sum + value, 0) / Math.max(1, resampled.length)
  return resampled.map((value) => value - mean)
}

interface Match {
  /** In samples of the thinned sound; later is positive. */
  readonly lag: number
  /** 1 where both are the same but for their level. */
  readonly like: number
}

/** How alike two sounds are as they lie beside each other. */
function likeness(a: Float32Array, b: Float32Array): number {
  const sum = a.reduce((total, value, i) => total + value * (b[i] ?? 0), 0)
  const both = power(a) * power(b)
  return both > 0 ? sum / Math.sqrt(both) : 0
}

/** Of two sounds so much has to lie beside each other to be held alike, as a share of the shorter. */
const leastBeside = 1 / 4

/** Of each prefix of some samples its power. */
function powers(samples: Float32Array): Float64Array {
  const sums = new Float64Array(samples.length + 1)
  samples.forEach((value, i) => (sums[i + 1] = (sums[i] as number) + value * value))
  return sums
}

/** The lag at which two sounds are most alike, however far, by the product of their spectra; of what repeats itself, the nearest. */
function matched(planned: Float32Array, found: Float32Array): Match {
  const sums = products(planned, found)
  const size = sums.length / 2
  const [p, f] = [powers(planned), powers(found)]
  const least = Math.max(1, Math.min(planned.length, found.length) * leastBeside)
  let best: Match = { lag: 0, like: 0 }
  const look = (lag: number) => {
    const [from, to] = [Math.max(0, -lag), Math.min(planned.length, found.length - lag)]
    if (to - from < least) return
    const power = ((p[to] ?? 0) - (p[from] ?? 0)) * ((f[to + lag] ?? 0) - (f[from + lag] ?? 0))
    const like = power > 0 ? (sums[2 * ((lag + size) % size)] as number) / Math.sqrt(power) : 0
    if (like > best.like + 1e-3) best = { lag, like }
  }
  look(0)
  for (let lag = 1; lag < Math.max(planned.length, found.length); lag++) {
    look(-lag)
    look(lag)
  }
  return best
}

/** The sums of the products of two sounds at each lag, negative ones from the end: complex, of which the real parts are meant. */
function products(planned: Float32Array, found: Float32Array): ArrayLike<number> {
  let size = 2
  while (size < planned.length + found.length) size *= 2
  const fft = new FFT(size)
  const spectrum = (samples: Float32Array): number[] => {
    const padded = Array.from({ length: size }, (_, i) => samples[i] ?? 0)
    const out = fft.createComplexArray()
    fft.realTransform(out, padded)
    fft.completeSpectrum(out)
    return out
  }
  const [p, f] = [spectrum(planned), spectrum(found)]
  const product = fft.createComplexArray()
  for (let i = 0; i < size; i++) {
    const [pr, pi, fr, fi] = [p[2 * i], p[2 * i + 1], f[2 * i], f[2 * i + 1]] as [
      number,
      number,
      number,
      number,
    ]
    product[2 * i] = fr * pr + fi * pi
    product[2 * i + 1] = fi * pr - fr * pi
  }
  const sums = fft.createComplexArray()
  fft.inverseTransform(sums, product)
  return sums
}

const lateMs = ({ lag }: Match): number => Math.round((lag * 1000) / rate)

/**
 * A stretch of sound beside what was planned, channel by channel: the same, by how much late; with its channels the other way round;
 * silent; or another sound.
 */
export function soundVerdict(
  planned: Channels,
  found: Channels,
  plannedRate: number,
  foundRate: number,
): SoundVerdict {
  const wanted = planned.map((samples) => thinned(samples, plannedRate))
  const had = found.map((samples) => thinned(samples, foundRate))
  const isLoud = wanted.map((samples) => level(samples) > silence)
  if (!isLoud.includes(true))
    return had.some((samples) => level(samples) > 4 * silence) ? { kind: 'not-silent' } : { kind: 'quiet' }
  if (had.every((samples) => level(samples) <= silence / 4)) return { kind: 'silent' }
  if (wanted.some((samples) => samples.length < rate / 10)) return { kind: 'cannot-tell' }

  const matches = wanted.map((samples, i): Match | null => {
    const other = had[i]
    if (!other) return { lag: 0, like: 0 }
    if (!isLoud[i]) return level(other) > 4 * silence ? { lag: 0, like: 0 } : null
    return matched(samples, other)
  })
  const own = matches.filter((match) => match !== null)
  const [left, right, ...more] = wanted
  if (left && right && more.length === 0 && differ(left, right) && isSwapped([left, right], had, own))
    return { kind: 'swapped', lateMs: lateMs(matched(left, had[1] as Float32Array)) }
  const worst = own.reduce((a, b) => (b.like < a.like ? b : a))
  if (worst.like < alike) return { kind: 'another' }
  const latest = own.reduce((a, b) => (Math.abs(b.lag) > Math.abs(a.lag) ? b : a))
  return { kind: 'same', lateMs: lateMs(latest) }
}

/** Whether two channels can be told from each other: neither is the other, nor silent beside it alone. */
const differ = (left: Float32Array, right: Float32Array): boolean =>
  likeness(left, right) < 0.95 || level(left) > 2 * level(right) || level(right) > 2 * level(left)

/** Whether each of two channels is rather the other one: more alike, or as loud as that one is. */
function isSwapped(
  [left, right]: readonly [Float32Array, Float32Array],
  [first, second]: readonly Float32Array[],
  own: readonly Match[],
): boolean {
  if (!first || !second) return false
  const likeOf = (wanted: Float32Array, had: Float32Array) =>
    level(wanted) > silence && level(had) > silence / 4 ? matched(wanted, had).like : 0
  const crossed = [likeOf(left, second), likeOf(right, first)]
  const straight = own.map(({ like }) => like)
  const isCrossed = Math.max(...crossed) >= alike
  const fits = Math.min(...straight) >= alike
  if (!fits) return isCrossed
  // The same sound on both, at two levels.
  const ratio = (a: Float32Array, b: Float32Array) => Math.log((level(a) + 1e-9) / (level(b) + 1e-9))
  const [plan, is] = [ratio(left, right), ratio(first, second)]
  return Math.abs(plan) > Math.log(1.5) && Math.abs(plan + is) < Math.abs(plan - is)
}

/** Where sound is compared: stretches of so many seconds, all of a short film, else evenly from the first to the last. */
export function stretchesToCompare(seconds: number, each = 10, most = 24): { from: number; to: number }[] {
  const count = Math.max(1, Math.ceil(seconds / each))
  const taken = Math.min(count, most)
  return Array.from({ length: taken }, (_, i) => {
    const from = taken === count ? i * each : ((seconds - each) * i) / (taken - 1)
    return { from, to: Math.min(seconds, from + each) }
  })
}
