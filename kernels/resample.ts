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

/** Where the lines of a step stand and how they weigh: two addresses and a pair of weights, 16 bytes each. */
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
    store<i16>(at, load<i16>(weights + (<usize>k << 1)), 8)
    store<i16>(at, isPair ? load<i16>(weights + (<usize>k << 1), 2) : 0, 10)
    at += 16
  }
  return (count + 1) >> 1
}

function rowOfBytes(pairs: usize, steps: i32, width: i32, row: usize, shift: i32): void {
  const rounding = i32x4.splat(1 << (shift - 1))
  for (let x = 0; x < width; x += 16) {
    let s0 = rounding
    let s1 = rounding
    let s2 = rounding
    let s3 = rounding
    let at = pairs
    for (let k = 0; k < steps; k++) {
      const a = v128.load(<usize>load<u32>(at) + x)
      const b = v128.load(<usize>load<u32>(at, 4) + x)
      const w = v128.load32_splat(at, 8)
      const near = pairsOfBytes(a, b)
      const later = laterPairsOfBytes(a, b)
      s0 = i32x4.add(s0, i32x4.dot_i16x8_s(i16x8.extend_low_i8x16_u(near), w))
      s1 = i32x4.add(s1, i32x4.dot_i16x8_s(i16x8.extend_high_i8x16_u(near), w))
      s2 = i32x4.add(s2, i32x4.dot_i16x8_s(i16x8.extend_low_i8x16_u(later), w))
      s3 = i32x4.add(s3, i32x4.dot_i16x8_s(i16x8.extend_high_i8x16_u(later), w))
      at += 16
    }
    const to = row + (<usize>x << 1)
    v128.store(to, i16x8.narrow_i32x4_s(i32x4.shr_s(s0, shift), i32x4.shr_s(s1, shift)))
    v128.store(to, i16x8.narrow_i32x4_s(i32x4.shr_s(s2, shift), i32x4.shr_s(s3, shift)), 16)
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
      const w = v128.load32_splat(at, 8)
      s0 = i32x4.add(s0, i32x4.dot_i16x8_s(i16x8.shuffle(a, b, 0, 8, 1, 9, 2, 10, 3, 11), w))
      s1 = i32x4.add(s1, i32x4.dot_i16x8_s(i16x8.shuffle(a, b, 4, 12, 5, 13, 6, 14, 7, 15), w))
      at += 16
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

/**
 * A plane of up to 12 bits in another size. All beyond the last sample of a line may be read, and written in `row` and `made`, up to
 * sixteen samples; first places and weights stand for a multiple of eight columns.
 * @param wide whether a sample takes two bytes
 * @param row where sample 0 of a row stands, with `pad` samples before and behind it
 * @param vectors how many vectors of eight weights each column has
 */
export function plane(
  source: usize,
  wide: i32,
  width: i32,
  height: i32,
  made: usize,
  columns: i32,
  rows: i32,
  downFirst: usize,
  downWeights: usize,
  downCount: i32,
  acrossFirst: usize,
  acrossWeights: usize,
  vectors: i32,
  pairs: usize,
  row: usize,
  pad: i32,
  shiftDown: i32,
  shiftAcross: i32,
  most: i32,
): void {
  const lineBytes = width << wide
  const rounding = i32x4.splat(1 << (shiftAcross - 1))
  const highest = i16x8.splat(<i16>most)
  const none = i16x8.splat(0)
  const each = <usize>vectors << 4
  for (let y = 0; y < rows; y++) {
    const first = load<i32>(downFirst + (<usize>y << 2))
    const weights = downWeights + ((<usize>y * <usize>downCount) << 1)
    const steps = layPairs(pairs, source, lineBytes, height, first, weights, downCount)
    if (wide) rowOfWords(pairs, steps, width, row, shiftDown)
    else rowOfBytes(pairs, steps, width, row, shiftDown)
    padRow(row, width, pad)
    const to = made + ((<usize>y * <usize>columns) << wide)
    for (let x = 0; x < columns; x += 8) {
      const from = acrossFirst + (<usize>x << 2)
      const by = acrossWeights + <usize>x * each
      const low = i32x4.shr_s(i32x4.add(four(row, from, by, vectors), rounding), shiftAcross)
      const high = i32x4.shr_s(i32x4.add(four(row, from + 16, by + 4 * each, vectors), rounding), shiftAcross)
      const eight = i16x8.narrow_i32x4_s(low, high)
      if (wide) v128.store(to + (<usize>x << 1), i16x8.min_s(i16x8.max_s(eight, none), highest))
      else v128.store64_lane(to + x, i8x16.narrow_i16x8_u(eight, eight), 0)
    }
  }
}

/** A plane of more than 12 bits: nothing is rounded between, in numbers that hold every sum exactly. */
export function deepPlane(
  source: usize,
  width: i32,
  height: i32,
  made: usize,
  columns: i32,
  rows: i32,
  downFirst: usize,
  downWeights: usize,
  downCount: i32,
  acrossFirst: usize,
  acrossWeights: usize,
  acrossCount: i32,
  row: usize,
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
