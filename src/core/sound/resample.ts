/** Samples on each side of a moment that weigh in it. */
const side = 32
/** Places between two samples for which weights are worked out; between them weights go evenly, which is 105 dB below. */
const places = 512
/** Kaiser's window at 100 dB: with so many samples, it leaves 18 kHz as it is where nothing above 26 kHz may be left. */
const beta = 10

/** Samples of a source that weigh before its first and behind its last wanted moment. */
export const soundMargin = side

/** The modified Bessel function of the first kind and order 0, by its series. */
function bessel(x: number): number {
  let [sum, term] = [1, 1]
  for (let k = 1; term > 1e-12 * sum; k++) sum += term *= (x / (2 * k)) ** 2
  return sum
}

/** A windowed sinc: for each place between two samples the weights of those around; narrower bands where samples are thinned out. */
function sincTable(cutoff: number): Float32Array {
  const table = new Float32Array((places + 1) * 2 * side)
  const most = bessel(beta)
  for (let place = 0; place <= places; place++) {
    const from = place * 2 * side
    let total = 0
    for (let i = 0; i < 2 * side; i++) {
      const x = i - side + 1 - place / places
      const share = Math.max(0, 1 - (x / side) ** 2)
      const weight =
        (x === 0 ? cutoff : Math.sin(Math.PI * cutoff * x) / (Math.PI * x)) *
        (bessel(beta * Math.sqrt(share)) / most)
      table[from + i] = weight
      total += weight
    }
    for (let i = 0; i < 2 * side; i++) table[from + i] = (table[from + i] as number) / total
  }
  return table
}

/** Tables once made, by their cutoff: sound is made in many short stretches of few speeds. */
const tables = new Map<number, Float32Array>()
const mostTables = 16
function tableFor(cutoff: number): Float32Array {
  const known = tables.get(cutoff)
  if (known) return known
  if (tables.size >= mostTables) tables.clear()
  const table = sincTable(cutoff)
  tables.set(cutoff, table)
  return table
}

/**
 * Samples at moments of a source that follow each other evenly, by a windowed sinc.
 * @param samples of the source, the first of them `soundMargin` before `first`
 * @param first the moment of the first wanted sample, from sample 0 of `samples` plus the margin, 0 … 1
 * @param step source samples from one moment to the next
 */
export function atMoments(samples: Float32Array, first: number, step: number, count: number): Float32Array {
  const resampled = new Float32Array(count)
  if (step === 1 && first === 0) {
    resampled.set(samples.subarray(side, side + count))
    return resampled
  }
  const table = tableFor(Math.min(1, 1 / step))
  const taps = 2 * side
  for (let n = 0; n < count; n++) {
    const moment = side + first + n * step
    const whole = Math.floor(moment)
    const place = (moment - whole) * places
    const row = Math.floor(place)
    const share = place - row
    const [at, from] = [row * taps, whole - side + 1]
    const next = share > 0 ? at + taps : at
    let [here, there] = [0, 0]
    for (let i = 0; i < taps; i++) {
      const sample = samples[from + i] ?? 0
      here += (table[at + i] as number) * sample
      there += (table[next + i] as number) * sample
    }
    resampled[n] = here + (there - here) * share
  }
  return resampled
}
