/**
 * Means of each eight pixels along rows and columns in SIMD (AssemblyScript), the greatest so far of each: what
 * `src/core/evidence/bars.ts` gathers over the frames of a clip.
 */

/** Rounded mean of eight bytes whose sum is given. */
@inline
function mean(sum: i32): u8 {
  return <u8>((sum + 4) >> 3)
}

@inline
function keepGreater(at: usize, value: u8): void {
  if (value > load<u8>(at)) store<u8>(at, value)
}

/**
 * @param frame where the picture lies, row by row without gaps
 * @param rows where the means along rows are kept: width/8 for each of the rows
 * @param columns where the means along columns are kept, band by band of eight rows: width for each band
 */
export function gather(frame: usize, width: i32, height: i32, rows: usize, columns: usize): void {
  const groups = width >> 3
  const bands = height >> 3
  const wide = width & ~15
  const rounding = i16x8.splat(4)
  for (let y = 0; y < height; y++) {
    const line = frame + <usize>y * <usize>width
    const to = rows + <usize>y * <usize>groups
    let x = 0
    for (; x < wide; x += 16) {
      const sums = i32x4.extadd_pairwise_i16x8_u(i16x8.extadd_pairwise_i8x16_u(v128.load(line + x)))
      const g = to + (<usize>x >> 3)
      keepGreater(g, mean(i32x4.extract_lane(sums, 0) + i32x4.extract_lane(sums, 1)))
      keepGreater(g + 1, mean(i32x4.extract_lane(sums, 2) + i32x4.extract_lane(sums, 3)))
    }
    if (x >> 3 < groups) {
      let sum = 0
      for (let i = 0; i < 8; i++) sum += load<u8>(line + x + i)
      keepGreater(to + (<usize>x >> 3), mean(sum))
    }
  }
  for (let band = 0; band < bands; band++) {
    const top = frame + <usize>(band << 3) * <usize>width
    const to = columns + <usize>band * <usize>width
    let x = 0
    for (; x < wide; x += 16) {
      let low = i16x8.splat(0)
      let high = i16x8.splat(0)
      for (let i = 0; i < 8; i++) {
        const pixels = v128.load(top + <usize>i * <usize>width + x)
        low = i16x8.add(low, i16x8.extend_low_i8x16_u(pixels))
        high = i16x8.add(high, i16x8.extend_high_i8x16_u(pixels))
      }
      const means = i8x16.narrow_i16x8_u(
        i16x8.shr_u(i16x8.add(low, rounding), 3),
        i16x8.shr_u(i16x8.add(high, rounding), 3),
      )
      v128.store(to + x, i8x16.max_u(means, v128.load(to + x)))
    }
    for (; x < width; x++) {
      let sum = 0
      for (let i = 0; i < 8; i++) sum += load<u8>(top + <usize>i * <usize>width + x)
      keepGreater(to + x, mean(sum))
    }
  }
}
