import { figure } from '../words/figures'
import type { Channels } from './mix'

/** Loudness by ITU-R BS.1770-4, its range by EBU Tech 3342, the true peak at four times the samples. */
export interface Loudness {
  /** LUFS; null for silence, and for less than a block. */
  readonly integratedLufs: number | null
  /** LU; null where too little is loud enough. */
  readonly rangeLu: number | null
  /** dBTP; null for silence. */
  readonly truePeakDbtp: number | null
  readonly samplePeakDbfs: number | null
}

/** Measures sound as it comes, in pieces of any length. */
export interface LoudnessMeter {
  add(sound: Channels): void
  measured(): Loudness
}

/** A filter of the second order; a0 is 1. */
interface Biquad {
  readonly b: readonly [number, number, number]
  readonly a: readonly [number, number]
}

/** The two filters of K-weighting at a sample rate: those that the recommendation lists for 48 kHz, of the same shape. */
export function kWeighting(sampleRate: number): readonly [Biquad, Biquad] {
  const shelf = (() => {
    const k = Math.tan((Math.PI * 1681.974450955533) / sampleRate)
    const q = 0.7071752369554196
    const high = 10 ** (3.999843853973347 / 20)
    const middle = high ** 0.4996667741545416
    const a0 = 1 + k / q + k * k
    return {
      b: [
        (high + (middle * k) / q + k * k) / a0,
        (2 * (k * k - high)) / a0,
        (high - (middle * k) / q + k * k) / a0,
      ],
      a: [(2 * (k * k - 1)) / a0, (1 - k / q + k * k) / a0],
    } as const
  })()
  const k = Math.tan((Math.PI * 38.13547087602444) / sampleRate)
  const q = 0.5003270373238773
  const a0 = 1 + k / q + k * k
  return [shelf, { b: [1, -2, 1], a: [(2 * (k * k - 1)) / a0, (1 - k / q + k * k) / a0] }]
}

/** How much each channel counts: those behind the listener more, low frequencies not at all. */
export const weightsFor = (channels: number): readonly number[] =>
  channels === 6
    ? [1, 1, 1, 0, 1.41, 1.41]
    : channels === 5
      ? [1, 1, 1, 1.41, 1.41]
      : Array.from({ length: channels }, () => 1)

const toLufs = (power: number): number => -0.691 + 10 * Math.log10(power)
const toDecibels = (value: number): number | null => (value > 0 ? 20 * Math.log10(value) : null)
const [absoluteGate, relativeGate, rangeGate] = [-70, -10, -20]
/** Steps of 100 ms in a block of 400 ms, and in the three seconds of short-term loudness. */
const [blockSteps, shortSteps] = [4, 30]

export function loudnessMeter(channels: number, sampleRate: number): LoudnessMeter {
  const filters = kWeighting(sampleRate)
  const weights = weightsFor(channels)
  const state = Array.from({ length: channels }, () => new Float64Array(4))
  const step = Math.round(sampleRate / 10)
  /** Weighted power of each step of 100 ms. */
  const powers: number[] = []
  let [inStep, power] = [0, 0]
  const peaks = Array.from({ length: channels }, () => peakMeter(sampleRate))
  let samplePeak = 0

  function add(sound: Channels): void {
    const length = sound[0]?.length ?? 0
    for (let at = 0; at < length;) {
      const until = Math.min(length, at + step - inStep)
      sound.forEach((samples, channel) => {
        const weight = weights[channel] ?? 1
        const kept = state[channel]
        if (kept && weight > 0) power += weight * weighted(samples, at, until, filters, kept)
      })
      inStep += until - at
      at = until
      if (inStep < step) break
      powers.push(power / step)
      ;[inStep, power] = [0, 0]
    }
    sound.forEach((samples, channel) => {
      for (let i = 0; i < samples.length; i++)
        samplePeak = Math.max(samplePeak, Math.abs(samples[i] as number))
      peaks[channel]?.add(samples)
    })
  }

  return {
    add,
    measured: () => ({
      integratedLufs: gated(means(powers, blockSteps)),
      rangeLu: rangeOf(means(powers, shortSteps)),
      truePeakDbtp: toDecibels(Math.max(samplePeak, ...peaks.map((peak) => peak.highest()))),
      samplePeakDbfs: toDecibels(samplePeak),
    }),
  }
}

/** The sum of squares of a stretch of samples through both filters, whose memory goes on. */
function weighted(
  samples: Float32Array,
  from: number,
  to: number,
  [first, second]: readonly [Biquad, Biquad],
  kept: Float64Array,
): number {
  let [u1, u2, v1, v2] = kept as unknown as [number, number, number, number]
  const [p0, p1, p2] = first.b
  const [q1, q2] = first.a
  const [r0, r1, r2] = second.b
  const [s1, s2] = second.a
  let sum = 0
  for (let i = from; i < to; i++) {
    const u0 = (samples[i] as number) - q1 * u1 - q2 * u2
    const x = p0 * u0 + p1 * u1 + p2 * u2
    u2 = u1
    u1 = u0
    const v0 = x - s1 * v1 - s2 * v2
    const y = r0 * v0 + r1 * v1 + r2 * v2
    v2 = v1
    v1 = v0
    sum += y * y
  }
  kept.set([u1, u2, v1, v2])
  return sum
}

/** Means of so many steps that follow each other, from each step on. */
function means(powers: readonly number[], steps: number): number[] {
  const blocks: number[] = []
  let sum = 0
  powers.forEach((power, i) => {
    sum += power - (i >= steps ? (powers[i - steps] as number) : 0)
    if (i >= steps - 1) blocks.push(Math.max(0, sum) / steps)
  })
  return blocks
}

const meanOf = (values: readonly number[]): number =>
  values.reduce((sum, value) => sum + value, 0) / values.length

/** Blocks that are loud enough: above −70 LUFS, and then above what lies so far below their mean. */
function loudEnough(blocks: readonly number[], below: number): number[] {
  const loud = blocks.filter((power) => toLufs(power) > absoluteGate)
  if (loud.length === 0) return []
  const gate = toLufs(meanOf(loud)) + below
  return loud.filter((power) => toLufs(power) > gate)
}

function gated(blocks: readonly number[]): number | null {
  const loud = loudEnough(blocks, relativeGate)
  return loud.length ? toLufs(meanOf(loud)) : null
}

/** From the tenth to the ninety-fifth of a hundred parts of what is loud enough. */
function rangeOf(blocks: readonly number[]): number | null {
  const loud = loudEnough(blocks, rangeGate).sort((a, b) => a - b)
  if (loud.length < 2) return null
  const at = (share: number) => toLufs(loud[Math.round(share * (loud.length - 1))] as number)
  return at(0.95) - at(0.1)
}

/** Samples on each side that weigh in one between two. */
const side = 16

/** So many times the higher of two samples a sound may reach between them: where it turns, and where it goes one way. */
const [mostBetween, mostOneWay] = [2, 1.1]

/** The highest value of a sound between its samples too, where it is looked at so often that nothing higher hides. */
function peakMeter(sampleRate: number) {
  const times = sampleRate < 96_000 ? 4 : sampleRate < 192_000 ? 2 : 1
  const phases = Array.from({ length: times - 1 }, (_, i) => sincAt((i + 1) / times))
  /** What came last, for what lies between it and what comes. */
  let tail = new Float32Array(2 * side)
  let highest = 0
  function add(samples: Float32Array): void {
    if (phases.length === 0) return
    const all = new Float32Array(tail.length + samples.length)
    all.set(tail)
    all.set(samples, tail.length)
    for (let n = side - 1; n + side < all.length; n++) {
      const [a, b] = [all[n] as number, all[n + 1] as number]
      // Where both neighbours are small nothing high lies between; where it goes one way, little more than the higher one.
      const turns = (a - (all[n - 1] as number)) * ((all[n + 2] ?? 0) - b) <= 0
      if (Math.max(Math.abs(a), Math.abs(b)) * (turns ? mostBetween : mostOneWay) < highest) continue
      for (const weights of phases) {
        let sum = 0
        const first = n - side + 1
        for (let k = 0; k < 2 * side; k += 4)
          sum +=
            (weights[k] as number) * (all[first + k] as number) +
            (weights[k + 1] as number) * (all[first + k + 1] as number) +
            (weights[k + 2] as number) * (all[first + k + 2] as number) +
            (weights[k + 3] as number) * (all[first + k + 3] as number)
        if (sum > highest) highest = sum
        else if (-sum > highest) highest = -sum
      }
    }
    tail = all.slice(Math.max(0, all.length - 2 * side))
  }
  return {
    add,
    highest(): number {
      // What the last samples ring on to is heard when nothing follows.
      add(new Float32Array(2 * side))
      return highest
    },
  }
}

/** A windowed sinc that gives what lies a share of a sample behind one. */
function sincAt(share: number): Float64Array {
  const weights = Float64Array.from({ length: 2 * side }, (_, i) => {
    const x = i - side + 1 - share
    const window = Math.cos((Math.PI * x) / (2 * side)) ** 2
    return (Math.sin(Math.PI * x) / (Math.PI * x)) * window
  })
  const sum = weights.reduce((total, weight) => total + weight, 0)
  return weights.map((weight) => weight / sum)
}

/** The loudness of a sound that is raised by some decibels. */
export function raised(loudness: Loudness, gain: number): Loudness {
  const by = (value: number | null) => (value === null ? null : value + gain)
  return {
    integratedLufs: by(loudness.integratedLufs),
    rangeLu: loudness.rangeLu,
    truePeakDbtp: by(loudness.truePeakDbtp),
    samplePeakDbfs: by(loudness.samplePeakDbfs),
  }
}

/** Loudness in words: `−20.3 LUFS, range 4.2 LU, peak −1.1 dB`. */
export function loudnessName({ integratedLufs, rangeLu, truePeakDbtp }: Loudness): string {
  const signed = (value: number) => figure(value).replace('-', '−')
  if (integratedLufs === null)
    return truePeakDbtp === null ? 'silent' : `too quiet or short to tell, peak ${signed(truePeakDbtp)} dB`
  return [
    `${signed(integratedLufs)} LUFS`,
    rangeLu === null ? '' : `range ${signed(rangeLu)} LU`,
    truePeakDbtp === null ? '' : `peak ${signed(truePeakDbtp)} dB`,
  ]
    .filter(Boolean)
    .join(', ')
}

/** The gain in tenths of a decibel that brings a sound to a loudness, as far as its true peak lets it be raised. */
export function gainTo(
  { integratedLufs, truePeakDbtp }: Loudness,
  wanted: number,
  highest = -1,
): { readonly gain: number; readonly limited: boolean } | null {
  if (integratedLufs === null) return null
  const gain = wanted - integratedLufs
  const most = truePeakDbtp === null ? Infinity : highest - truePeakDbtp
  return gain > most
    ? { gain: Math.floor(most * 10 + 1e-6) / 10, limited: true }
    : { gain: Math.round(gain * 10) / 10, limited: false }
}
