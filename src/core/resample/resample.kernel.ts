/**
 * Planes made into another size in SIMD (AssemblyScript): sample by sample what `src/core/resample/plane.ts` gives. One row at a
 * time is made of the lines that weigh in it, two lines in each step, padded on both ends, and from it the row of the result.
 */

/** What lies beside each other of two lines, as pairs to be weighed together. */
@inline
function pairsOfBytes(a: v128, b: v128): v128 {
  return i8x16.shuffle(a, b, 0, 16, 1, 17, 2, 18, 3, 19, 4, 20, 5, 21, 6, 22, 7, 23)
}
@inline
function laterPairsOfBytes(a: v128, b: v128): v128 {
  return i8x16.shuffle(a, b, 8, 24, 9, 25, 10, 26, 11, 27, 12, 28, 13, 29, 14, 30, 15, 31)
}

@inline
function held(line: i32, height: i32): i32 {
  return line < 0 ? 0 : line >= height ? height - 1 : line
}

/** Where the lines of a step stand and how they weigh: two addresses, and a vector of their pair of weights. */
function layPairs(
  pairs: usize,
  source: usize,
  lineBytes: i32,
  height: i32,
  first: i32,
  weights: usize,
  count: i32,
): i32 {
  let at = pairs
  for (let k = 0; k < count; k += 2) {
    const isPair = k + 1 < count
    store<u32>(at, <u32>(source + <usize>held(first + k, height) * <usize>lineBytes))
    store<u32>(at, <u32>(source + <usize>held(first + k + 1, height) * <usize>lineBytes), 4)
    const weigh = <u32>load<u16>(weights + (<usize>k << 1))
    const beside = isPair ? <u32>load<u16>(weights + (<usize>k << 1), 2) : 0
    v128.store(at, i32x4.splat(<i32>(weigh | (beside << 16))), 16)
    at += 32
  }
  return (count + 1) >> 1
}

/** A row of the lines that weigh in it: thirty-two samples at once, two lines in each step. */
function rowOfBytes(pairs: usize, steps: i32, width: i32, row: usize, shift: i32): void {
  const rounding = i32x4.splat(1 << (shift - 1))
  for (let x = 0; x < width; x += 32) {
    let s0 = rounding
    let s1 = rounding
    let s2 = rounding
    let s3 = rounding
    let s4 = rounding
    let s5 = rounding
    let s6 = rounding
    let s7 = rounding
    let at = pairs
    for (let k = 0; k < steps; k++) {
      const p = <usize>load<u32>(at) + x
      const q = <usize>load<u32>(at, 4) + x
      const w = v128.load(at, 16)
      const a = v128.load(p)
      const b = v128.load(q)
      const near = pairsOfBytes(a, b)
      s0 = i32x4.add(s0, i32x4.dot_i16x8_s(i16x8.extend_low_i8x16_u(near), w))
      s1 = i32x4.add(s1, i32x4.dot_i16x8_s(i16x8.extend_high_i8x16_u(near), w))
      const later = laterPairsOfBytes(a, b)
      s2 = i32x4.add(s2, i32x4.dot_i16x8_s(i16x8.extend_low_i8x16_u(later), w))
      s3 = i32x4.add(s3, i32x4.dot_i16x8_s(i16x8.extend_high_i8x16_u(later), w))
      const c = v128.load(p, 16)
      const d = v128.load(q, 16)
      const nextNear = pairsOfBytes(c, d)
      s4 = i32x4.add(s4, i32x4.dot_i16x8_s(i16x8.extend_low_i8x16_u(nextNear), w))
      s5 = i32x4.add(s5, i32x4.dot_i16x8_s(i16x8.extend_high_i8x16_u(nextNear), w))
      const nextLater = laterPairsOfBytes(c, d)
      s6 = i32x4.add(s6, i32x4.dot_i16x8_s(i16x8.extend_low_i8x16_u(nextLater), w))
      s7 = i32x4.add(s7, i32x4.dot_i16x8_s(i16x8.extend_high_i8x16_u(nextLater), w))
      at += 32
    }
    const to = row + (<usize>x << 1)
    v128.store(to, i16x8.narrow_i32x4_s(i32x4.shr_s(s0, shift), i32x4.shr_s(s1, shift)))
    v128.store(to, i16x8.narrow_i32x4_s(i32x4.shr_s(s2, shift), i32x4.shr_s(s3, shift)), 16)
    v128.store(to, i16x8.narrow_i32x4_s(i32x4.shr_s(s4, shift), i32x4.shr_s(s5, shift)), 32)
    v128.store(to, i16x8.narrow_i32x4_s(i32x4.shr_s(s6, shift), i32x4.shr_s(s7, shift)), 48)
  }
}

function rowOfWords(pairs: usize, steps: i32, width: i32, row: usize, shift: i32): void {
  const rounding = i32x4.splat(1 << (shift - 1))
  for (let x = 0; x < width; x += 8) {
    let s0 = rounding
    let s1 = rounding
    let at = pairs
    for (let k = 0; k < steps; k++) {
      const a = v128.load(<usize>load<u32>(at) + (<usize>x << 1))
      const b = v128.load(<usize>load<u32>(at, 4) + (<usize>x << 1))
      const w = v128.load(at, 16)
      s0 = i32x4.add(s0, i32x4.dot_i16x8_s(i16x8.shuffle(a, b, 0, 8, 1, 9, 2, 10, 3, 11), w))
      s1 = i32x4.add(s1, i32x4.dot_i16x8_s(i16x8.shuffle(a, b, 4, 12, 5, 13, 6, 14, 7, 15), w))
      at += 32
    }
    v128.store(row + (<usize>x << 1), i16x8.narrow_i32x4_s(i32x4.shr_s(s0, shift), i32x4.shr_s(s1, shift)))
  }
}

/** A row goes on beyond its ends as it ends. */
function padRow(row: usize, width: i32, pad: i32): void {
  const first = load<i16>(row)
  const last = load<i16>(row + (<usize>(width - 1) << 1))
  for (let i = 1; i <= pad; i++) {
    store<i16>(row - (<usize>i << 1), first)
    store<i16>(row + (<usize>(width - 1 + i) << 1), last)
  }
}

/** Sums of one result: eight weights in each vector. */
@inline
function summed(from: usize, weights: usize, vectors: i32): v128 {
  let sum = i32x4.dot_i16x8_s(v128.load(from), v128.load(weights))
  for (let i = 1; i < vectors; i++) {
    const at = <usize>i << 4
    sum = i32x4.add(sum, i32x4.dot_i16x8_s(v128.load(from + at), v128.load(weights + at)))
  }
  return sum
}

/** Four results out of the lanes of their sums. */
@inline
function together(a: v128, b: v128, c: v128, d: v128): v128 {
  const ab = i32x4.add(i32x4.shuffle(a, b, 0, 4, 2, 6), i32x4.shuffle(a, b, 1, 5, 3, 7))
  const cd = i32x4.add(i32x4.shuffle(c, d, 0, 4, 2, 6), i32x4.shuffle(c, d, 1, 5, 3, 7))
  return i32x4.add(i32x4.shuffle(ab, cd, 0, 1, 4, 5), i32x4.shuffle(ab, cd, 2, 3, 6, 7))
}

@inline
function four(row: usize, first: usize, weights: usize, vectors: i32): v128 {
  const each = <usize>vectors << 4
  return together(
    summed(row + (<usize>load<i32>(first) << 1), weights, vectors),
    summed(row + (<usize>load<i32>(first, 4) << 1), weights + each, vectors),
    summed(row + (<usize>load<i32>(first, 8) << 1), weights + 2 * each, vectors),
    summed(row + (<usize>load<i32>(first, 12) << 1), weights + 3 * each, vectors),
  )
}

@inline
function keep(eight: v128, to: usize, x: i32, wide: i32, highest: v128): void {
  if (wide) v128.store(to + (<usize>x << 1), i16x8.min_s(i16x8.max_s(eight, i16x8.splat(0)), highest))
  else v128.store64_lane(to + x, i8x16.narrow_i16x8_u(eight, eight), 0)
}

/** Every second place with the same weights: samples beside each other weigh as they lie. */
function halvedRow(
  from: usize,
  weights: usize,
  steps: i32,
  to: usize,
  columns: i32,
  wide: i32,
  shift: i32,
  highest: v128,
): void {
  const rounding = i32x4.splat(1 << (shift - 1))
  for (let x = 0; x < columns; x += 8) {
    let s0 = rounding
    let s1 = rounding
    let at = from + (<usize>x << 2)
    let by = weights
    for (let k = 0; k < steps; k++) {
      const w = v128.load(by)
      s0 = i32x4.add(s0, i32x4.dot_i16x8_s(v128.load(at), w))
      s1 = i32x4.add(s1, i32x4.dot_i16x8_s(v128.load(at, 16), w))
      at += 4
      by += 16
    }
    keep(i16x8.narrow_i32x4_s(i32x4.shr_s(s0, shift), i32x4.shr_s(s1, shift)), to, x, wide, highest)
  }
}

/** Two results for each place, by weights of their own. */
function doubledRow(
  even: usize,
  odd: usize,
  evenWeights: usize,
  oddWeights: usize,
  steps: i32,
  to: usize,
  columns: i32,
  wide: i32,
  shift: i32,
  highest: v128,
): void {
  const rounding = i32x4.splat(1 << (shift - 1))
  for (let x = 0; x < columns; x += 16) {
    let e0 = rounding
    let e1 = rounding
    let o0 = rounding
    let o1 = rounding
    for (let k = 0; k < steps; k++) {
      const p = even + <usize>x + (<usize>k << 2)
      const q = odd + <usize>x + (<usize>k << 2)
      const we = v128.load(evenWeights + (<usize>k << 4))
      const wo = v128.load(oddWeights + (<usize>k << 4))
      // Pairs lie side by side at every second place: those from the next place on are of the places between.
      e0 = i32x4.add(e0, i32x4.dot_i16x8_s(v128.load(p), we))
      e1 = i32x4.add(e1, i32x4.dot_i16x8_s(v128.load(p, 2), we))
      o0 = i32x4.add(o0, i32x4.dot_i16x8_s(v128.load(q), wo))
      o1 = i32x4.add(o1, i32x4.dot_i16x8_s(v128.load(q, 2), wo))
    }
    const first = i16x8.narrow_i32x4_s(i32x4.shr_s(e0, shift), i32x4.shr_s(o0, shift))
    const between = i16x8.narrow_i32x4_s(i32x4.shr_s(e1, shift), i32x4.shr_s(o1, shift))
    keep(i16x8.shuffle(first, between, 0, 4, 8, 12, 1, 5, 9, 13), to, x, wide, highest)
    keep(i16x8.shuffle(first, between, 2, 6, 10, 14, 3, 7, 11, 15), to, x + 8, wide, highest)
  }
}

/** The same of bytes with six weights each, the odd ones a place further on: what both weigh is loaded once. */
function doubledBytes(even: usize, weights: usize, to: usize, columns: i32, shift: i32): void {
  const rounding = i32x4.splat(1 << (shift - 1))
  const low = i32x4.splat(0xffff)
  const e0 = v128.load(weights)
  const e1 = v128.load(weights, 16)
  const e2 = v128.load(weights, 32)
  const o0 = v128.load(weights, 48)
  const o1 = v128.load(weights, 64)
  const o2 = v128.load(weights, 80)
  for (let x = 0; x < columns; x += 16) {
    const at = even + <usize>x
    const a = v128.load(at)
    const c = v128.load(at, 4)
    const e = v128.load(at, 8)
    let evenFirst = i32x4.add(rounding, i32x4.dot_i16x8_s(a, e0))
    evenFirst = i32x4.add(evenFirst, i32x4.dot_i16x8_s(c, e1))
    evenFirst = i32x4.add(evenFirst, i32x4.dot_i16x8_s(e, e2))
    let oddBetween = i32x4.add(rounding, i32x4.dot_i16x8_s(c, o0))
    oddBetween = i32x4.add(oddBetween, i32x4.dot_i16x8_s(e, o1))
    oddBetween = i32x4.add(oddBetween, i32x4.dot_i16x8_s(v128.load(at, 12), o2))
    const b = v128.load(at, 2)
    const d = v128.load(at, 6)
    const f = v128.load(at, 10)
    let evenBetween = i32x4.add(rounding, i32x4.dot_i16x8_s(b, e0))
    evenBetween = i32x4.add(evenBetween, i32x4.dot_i16x8_s(d, e1))
    evenBetween = i32x4.add(evenBetween, i32x4.dot_i16x8_s(f, e2))
    let oddFirst = i32x4.add(rounding, i32x4.dot_i16x8_s(b, o0))
    oddFirst = i32x4.add(oddFirst, i32x4.dot_i16x8_s(d, o1))
    oddFirst = i32x4.add(oddFirst, i32x4.dot_i16x8_s(f, o2))
    // Even and odd beside each other in the halves of a lane.
    const first = v128.or(
      v128.and(i32x4.shr_s(evenFirst, shift), low),
      i32x4.shl(i32x4.shr_s(oddFirst, shift), 16),
    )
    const between = v128.or(
      v128.and(i32x4.shr_s(evenBetween, shift), low),
      i32x4.shl(i32x4.shr_s(oddBetween, shift), 16),
    )
    v128.store(
      to + x,
      i8x16.narrow_i16x8_u(i32x4.shuffle(first, between, 0, 4, 1, 5), i32x4.shuffle(first, between, 2, 6, 3, 7)),
    )
  }
}

/** Any places, any weights. */
function anyRow(
  row: usize,
  first: usize,
  weights: usize,
  vectors: i32,
  to: usize,
  columns: i32,
  wide: i32,
  shift: i32,
  highest: v128,
): void {
  const rounding = i32x4.splat(1 << (shift - 1))
  const each = <usize>vectors << 4
  for (let x = 0; x < columns; x += 8) {
    const from = first + (<usize>x << 2)
    const by = weights + <usize>x * each
    const low = i32x4.shr_s(i32x4.add(four(row, from, by, vectors), rounding), shift)
    const high = i32x4.shr_s(i32x4.add(four(row, from + 16, by + 4 * each, vectors), rounding), shift)
    keep(i16x8.narrow_i32x4_s(low, high), to, x, wide, highest)
  }
}

/**
 * A plane of up to 12 bits in another size. All beyond the last sample of a line may be read, and written in `row` and `made`, up to
 * sixteen samples; first places and weights stand for a multiple of eight columns.
 * @param wide whether a sample takes two bytes
 * @param padded room for a row with `pad` samples before and behind it
 * @param step 2 where every column weighs alike, two places on from the one before; 1 where two columns stand for each place, the
 *   even and the odd ones alike; 0 for any other. Then the weights of one column, or of two, stand as pairs, a vector each
 * @param vectors how many vectors of weights each column has
 */
export function plane(
  source: usize,
  made: usize,
  downFirst: usize,
  downWeights: usize,
  acrossFirst: usize,
  acrossWeights: usize,
  pairs: usize,
  padded: usize,
  wide: i32,
  width: i32,
  height: i32,
  columns: i32,
  rows: i32,
  downCount: i32,
  step: i32,
  vectors: i32,
  pad: i32,
  shiftDown: i32,
  shiftAcross: i32,
  most: i32,
): void {
  const row = padded + (<usize>pad << 1)
  const lineBytes = width << wide
  const highest = i16x8.splat(<i16>most)
  for (let y = 0; y < rows; y++) {
    const first = load<i32>(downFirst + (<usize>y << 2))
    const weights = downWeights + ((<usize>y * <usize>downCount) << 1)
    const steps = layPairs(pairs, source, lineBytes, height, first, weights, downCount)
    if (wide) rowOfWords(pairs, steps, width, row, shiftDown)
    else rowOfBytes(pairs, steps, width, row, shiftDown)
    padRow(row, width, pad)
    const to = made + ((<usize>y * <usize>columns) << wide)
    if (step === 2)
      halvedRow(
        row + (<usize>load<i32>(acrossFirst) << 1),
        acrossWeights,
        vectors,
        to,
        columns,
        wide,
        shiftAcross,
        highest,
      )
    else if (step === 1 && !wide && vectors === 3 && load<i32>(acrossFirst, 4) === load<i32>(acrossFirst) + 1)
      doubledBytes(row + (<usize>load<i32>(acrossFirst) << 1), acrossWeights, to, columns, shiftAcross)
    else if (step === 1)
      doubledRow(
        row + (<usize>load<i32>(acrossFirst) << 1),
        row + (<usize>load<i32>(acrossFirst, 4) << 1),
        acrossWeights,
        acrossWeights + (<usize>vectors << 4),
        vectors,
        to,
        columns,
        wide,
        shiftAcross,
        highest,
      )
    else anyRow(row, acrossFirst, acrossWeights, vectors, to, columns, wide, shiftAcross, highest)
  }
}

/** A plane of more than 12 bits: nothing is rounded between, in numbers that hold every sum exactly. */
export function deepPlane(
  source: usize,
  made: usize,
  downFirst: usize,
  downWeights: usize,
  acrossFirst: usize,
  acrossWeights: usize,
  row: usize,
  width: i32,
  height: i32,
  columns: i32,
  rows: i32,
  downCount: i32,
  acrossCount: i32,
  most: f64,
): void {
  for (let y = 0; y < rows; y++) {
    const first = load<i32>(downFirst + (<usize>y << 2))
    for (let x = 0; x < width; x++) store<f64>(row + (<usize>x << 3), 0)
    for (let k = 0; k < downCount; k++) {
      const weight = <f64>load<i16>(downWeights + (<usize>(y * downCount + k) << 1))
      const line = source + ((<usize>held(first + k, height) * <usize>width) << 1)
      for (let x = 0; x < width; x++) {
        const at = row + (<usize>x << 3)
        store<f64>(at, load<f64>(at) + weight * <f64>load<u16>(line + (<usize>x << 1)))
      }
    }
    for (let x = 0; x < columns; x++) {
      const from = load<i32>(acrossFirst + (<usize>x << 2))
      let sum: f64 = 0
      for (let k = 0; k < acrossCount; k++)
        sum +=
          <f64>load<i16>(acrossWeights + (<usize>(x * acrossCount + k) << 1)) *
          load<f64>(row + (<usize>held(from + k, width) << 3))
      const value = floor((sum + 134217728.0) / 268435456.0)
      store<u16>(made + ((<usize>y * <usize>columns + <usize>x) << 1), <u16>max(0.0, min(most, value)))
    }
  }
}
