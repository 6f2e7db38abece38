/**
 * Missing lines of fields in SIMD (AssemblyScript): sample by sample what `src/core/fields/plane.ts` and `moving.ts` give.
 * All beyond the last sample of a plane may be read up to sixteen samples, and of a line written as far.
 */

/** (−p + 9a + 9b − n + 8) >> 4 of eight samples in 16 bits each, up to 10 bits deep. */
@inline
function between(p: v128, a: v128, b: v128, n: v128): v128 {
  const near = i16x8.mul(i16x8.add(a, b), i16x8.splat(9))
  return i16x8.shr_s(i16x8.add(i16x8.sub(near, i16x8.add(p, n)), i16x8.splat(8)), 4)
}

/** The same of four samples in 32 bits each. */
@inline
function betweenDeep(p: v128, a: v128, b: v128, n: v128): v128 {
  const near = i32x4.mul(i32x4.add(a, b), i32x4.splat(9))
  return i32x4.shr_s(i32x4.add(i32x4.sub(near, i32x4.add(p, n)), i32x4.splat(8)), 4)
}

/** One missing line of bytes from four kept ones. */
function lineOfBytes(p: usize, a: usize, b: usize, n: usize, to: usize, width: i32): void {
  for (let x = 0; x < width; x += 16) {
    const vp = v128.load(p + x)
    const va = v128.load(a + x)
    const vb = v128.load(b + x)
    const vn = v128.load(n + x)
    const low = between(
      i16x8.extend_low_i8x16_u(vp),
      i16x8.extend_low_i8x16_u(va),
      i16x8.extend_low_i8x16_u(vb),
      i16x8.extend_low_i8x16_u(vn),
    )
    const high = between(
      i16x8.extend_high_i8x16_u(vp),
      i16x8.extend_high_i8x16_u(va),
      i16x8.extend_high_i8x16_u(vb),
      i16x8.extend_high_i8x16_u(vn),
    )
    v128.store(to + x, i8x16.narrow_i16x8_u(low, high))
  }
}

/** One missing line of samples of two bytes. */
function lineOfWords(p: usize, a: usize, b: usize, n: usize, to: usize, width: i32, most: i32): void {
  const highest = i32x4.splat(most)
  for (let x = 0; x < width; x += 8) {
    const at = <usize>x << 1
    const vp = v128.load(p + at)
    const va = v128.load(a + at)
    const vb = v128.load(b + at)
    const vn = v128.load(n + at)
    const low = betweenDeep(
      i32x4.extend_low_i16x8_u(vp),
      i32x4.extend_low_i16x8_u(va),
      i32x4.extend_low_i16x8_u(vb),
      i32x4.extend_low_i16x8_u(vn),
    )
    const high = betweenDeep(
      i32x4.extend_high_i16x8_u(vp),
      i32x4.extend_high_i16x8_u(va),
      i32x4.extend_high_i16x8_u(vb),
      i32x4.extend_high_i16x8_u(vn),
    )
    v128.store(to + at, i16x8.narrow_i32x4_u(i32x4.min_s(low, highest), i32x4.min_s(high, highest)))
  }
}

@inline
function kept(line: i32, lowest: i32, highest: i32): i32 {
  return line < lowest ? lowest : line > highest ? highest : line
}

/**
 * The missing lines of a plane, in their place.
 * @param lowest the first kept line
 * @param wide whether a sample takes two bytes
 * @param spare where a line is made: what is written beyond it would fall on the next, which is a kept one
 * @param blocks 1 for each block that moves, row by row; where one does not, its lines are left as they are. 0 where all move
 * @param across how many blocks lie in a row
 * @param columns how many samples of the plane lie in a block
 * @param down how many lines of luma stand for one of the plane
 */
export function interpolated(
  plane: usize,
  width: i32,
  height: i32,
  lowest: i32,
  wide: i32,
  most: i32,
  spare: usize,
  blocks: usize,
  across: i32,
  columns: i32,
  down: i32,
): void {
  const line = <usize>(width << wide)
  const highest = height - 1 - ((height - 1 - lowest) & 1)
  for (let y = 1 - lowest; y < height; y += 2) {
    const p = plane + <usize>kept(y - 3, lowest, highest) * line
    const a = plane + <usize>kept(y - 1, lowest, highest) * line
    const b = plane + <usize>kept(y + 1, lowest, highest) * line
    const n = plane + <usize>kept(y + 3, lowest, highest) * line
    if (wide) lineOfWords(p, a, b, n, spare, width, most)
    else lineOfBytes(p, a, b, n, spare, width)
    const to = plane + <usize>y * line
    if (blocks === 0) {
      memory.copy(to, spare, line)
      continue
    }
    const row = blocks + <usize>(((y * down) >> 3) * across)
    for (let block = 0; block < across; ) {
      if (load<u8>(row + block) === 0) {
        block++
        continue
      }
      const from = block
      while (block < across && load<u8>(row + block)) block++
      const first = <usize>((from * columns) << wide)
      const end = <usize>((block * columns) << wide)
      if (first < line) memory.copy(to + first, spare + first, (end < line ? end : line) - first)
    }
  }
}

/** Every line with its neighbours: (above + 2·self + below + 2) >> 2, of bytes. */
export function blendedBytes(above: usize, here: usize, below: usize, to: usize, width: i32): void {
  const two = i16x8.splat(2)
  for (let x = 0; x < width; x += 16) {
    const va = v128.load(above + x)
    const vh = v128.load(here + x)
    const vb = v128.load(below + x)
    const low = i16x8.add(
      i16x8.add(i16x8.extend_low_i8x16_u(va), i16x8.extend_low_i8x16_u(vb)),
      i16x8.shl(i16x8.extend_low_i8x16_u(vh), 1),
    )
    const high = i16x8.add(
      i16x8.add(i16x8.extend_high_i8x16_u(va), i16x8.extend_high_i8x16_u(vb)),
      i16x8.shl(i16x8.extend_high_i8x16_u(vh), 1),
    )
    v128.store(
      to + x,
      i8x16.narrow_i16x8_u(i16x8.shr_u(i16x8.add(low, two), 2), i16x8.shr_u(i16x8.add(high, two), 2)),
    )
  }
}

/** The same of samples of two bytes. */
export function blendedWords(above: usize, here: usize, below: usize, to: usize, width: i32): void {
  const two = i32x4.splat(2)
  for (let x = 0; x < width; x += 8) {
    const at = <usize>x << 1
    const va = v128.load(above + at)
    const vh = v128.load(here + at)
    const vb = v128.load(below + at)
    const low = i32x4.add(
      i32x4.add(i32x4.extend_low_i16x8_u(va), i32x4.extend_low_i16x8_u(vb)),
      i32x4.shl(i32x4.extend_low_i16x8_u(vh), 1),
    )
    const high = i32x4.add(
      i32x4.add(i32x4.extend_high_i16x8_u(va), i32x4.extend_high_i16x8_u(vb)),
      i32x4.shl(i32x4.extend_high_i16x8_u(vh), 1),
    )
    v128.store(
      to + at,
      i16x8.narrow_i32x4_u(i32x4.shr_u(i32x4.add(low, two), 2), i32x4.shr_u(i32x4.add(high, two), 2)),
    )
  }
}

/** Counts what differs in one line, by blocks of eight: added to `differing`, a byte a block. */
export function differingBytes(a: usize, b: usize, width: i32, most: i32, differing: usize): void {
  const limit = i8x16.splat(<i8>most)
  for (let x = 0; x < width; x += 16) {
    const va = v128.load(a + x)
    const vb = v128.load(b + x)
    const apart = v128.or(i8x16.sub_sat_u(va, vb), i8x16.sub_sat_u(vb, va))
    let mask = i8x16.bitmask(i8x16.gt_u(apart, limit))
    // What lies beyond the line counts for nothing.
    if (width - x < 16) mask &= (1 << (width - x)) - 1
    const at = differing + (<usize>x >> 3)
    store<u8>(at, load<u8>(at) + <u8>popcnt(mask & 0xff))
    if (width - x > 8) store<u8>(at, load<u8>(at, 1) + <u8>popcnt(mask >> 8), 1)
  }
}

/** The same of samples of two bytes. */
export function differingWords(a: usize, b: usize, width: i32, most: i32, differing: usize): void {
  const limit = i16x8.splat(<i16>most)
  for (let x = 0; x < width; x += 8) {
    const va = v128.load(a + (<usize>x << 1))
    const vb = v128.load(b + (<usize>x << 1))
    const apart = v128.or(i16x8.sub_sat_u(va, vb), i16x8.sub_sat_u(vb, va))
    let mask = i16x8.bitmask(i16x8.gt_u(apart, limit))
    if (width - x < 8) mask &= (1 << (width - x)) - 1
    const at = differing + (<usize>x >> 3)
    store<u8>(at, load<u8>(at) + <u8>popcnt(mask))
  }
}
