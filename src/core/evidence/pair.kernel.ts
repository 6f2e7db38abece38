/**
 * The pass over a pair of frames in SIMD (AssemblyScript): sum by sum what `src/core/evidence/pair.ts` gives, sixteen pixels at a
 * time. A block is one vector wide, so its sums are gathered in registers down its lines.
 */

/** Σ of the lanes of a vector of 16-bit sums. */
@inline
function total(sums: v128): u16 {
  const wide = i32x4.extadd_pairwise_i16x8_u(sums)
  return <u16>(
    (i32x4.extract_lane(wide, 0) +
      i32x4.extract_lane(wide, 1) +
      i32x4.extract_lane(wide, 2) +
      i32x4.extract_lane(wide, 3))
  )
}

/** |a − b| of bytes, added to 16-bit sums. */
@inline
function withDifference(sums: v128, a: v128, b: v128): v128 {
  const difference = v128.or(i8x16.sub_sat_u(a, b), i8x16.sub_sat_u(b, a))
  return i16x8.add(sums, i16x8.extadd_pairwise_i8x16_u(difference))
}

/**
 * 1 in each byte where b stands out from a and c on both sides by more than 15.
 * @param high b + 15, @param low b − 15, both held at their ends
 */
@inline
function outstanding(a: v128, high: v128, low: v128, c: v128): v128 {
  const below = i8x16.sub_sat_u(i8x16.min_u(a, c), high)
  const above = i8x16.sub_sat_u(low, i8x16.max_u(a, c))
  return i8x16.min_u(v128.or(below, above), i8x16.splat(1))
}

/** Counts of bytes as 16-bit sums of pairs. */
@inline
function counted(counts: v128): u16 {
  return total(i16x8.extadd_pairwise_i8x16_u(counts))
}

/**
 * @param first where the first frame lies, @param second where the second does, row by row without gaps
 * @param out where the sums go: seven rows of a 16-bit number for each block, in the order of `PairSums`
 */
export function measure(first: usize, second: usize, width: i32, height: i32, out: usize): void {
  const across = width >> 4
  const down = height >> 4
  const blocks = across * down
  const row = <usize>width
  for (let by = 0; by < down; by++) {
    const from = max(2, by << 4)
    const till = min((by << 4) + 16, height - 2)
    for (let bx = 0; bx < across; bx++) {
      let at: usize = <usize>from * row + <usize>(bx << 4)
      let sadTop = i16x8.splat(0)
      let sadBottom = i16x8.splat(0)
      let n1 = i8x16.splat(0)
      let n2 = i8x16.splat(0)
      let e0 = i16x8.splat(0)
      let eA = i16x8.splat(0)
      let eB = i16x8.splat(0)
      if (from < till) {
        let f0 = v128.load(first + at - 2 * row)
        let f1 = v128.load(first + at - row)
        let f2 = v128.load(first + at)
        let f3 = v128.load(first + at + row)
        let g1 = v128.load(second + at - row)
        let g2 = v128.load(second + at)
        for (let y = from; y < till; y++) {
          const f4 = v128.load(first + at + 2 * row)
          const g3 = v128.load(second + at + row)
          const high = i8x16.add_sat_u(f2, i8x16.splat(15))
          const low = i8x16.sub_sat_u(f2, i8x16.splat(15))
          n1 = i8x16.add(n1, outstanding(f1, high, low, f3))
          n2 = i8x16.add(n2, outstanding(f0, high, low, f4))
          const aroundF = i8x16.avgr_u(f1, f3)
          const aroundG = i8x16.avgr_u(g1, g3)
          e0 = withDifference(e0, f2, aroundF)
          if ((y & 1) == 0) {
            sadTop = withDifference(sadTop, f2, g2)
            eA = withDifference(eA, g2, aroundF)
            eB = withDifference(eB, f2, aroundG)
          } else {
            sadBottom = withDifference(sadBottom, f2, g2)
            eA = withDifference(eA, f2, aroundG)
            eB = withDifference(eB, g2, aroundF)
          }
          f0 = f1
          f1 = f2
          f2 = f3
          f3 = f4
          g1 = g2
          g2 = g3
          at += row
        }
      }
      const to = out + (<usize>(by * across + bx) << 1)
      const plane = <usize>blocks << 1
      store<u16>(to, total(sadTop))
      store<u16>(to + plane, total(sadBottom))
      store<u16>(to + 2 * plane, counted(n1))
      store<u16>(to + 3 * plane, counted(n2))
      store<u16>(to + 4 * plane, total(e0))
      store<u16>(to + 5 * plane, total(eA))
      store<u16>(to + 6 * plane, total(eB))
    }
  }
}

/** The combing counts alone: `n1` and `n2` of a frame, two rows of a 16-bit number for each block. */
export function combs(first: usize, width: i32, height: i32, out: usize): void {
  const across = width >> 4
  const down = height >> 4
  const row = <usize>width
  const plane = <usize>(across * down) << 1
  for (let by = 0; by < down; by++) {
    const from = max(2, by << 4)
    const till = min((by << 4) + 16, height - 2)
    for (let bx = 0; bx < across; bx++) {
      let at: usize = <usize>from * row + <usize>(bx << 4)
      let n1 = i8x16.splat(0)
      let n2 = i8x16.splat(0)
      if (from < till) {
        let f0 = v128.load(first + at - 2 * row)
        let f1 = v128.load(first + at - row)
        let f2 = v128.load(first + at)
        let f3 = v128.load(first + at + row)
        for (let y = from; y < till; y++) {
          const f4 = v128.load(first + at + 2 * row)
          const high = i8x16.add_sat_u(f2, i8x16.splat(15))
          const low = i8x16.sub_sat_u(f2, i8x16.splat(15))
          n1 = i8x16.add(n1, outstanding(f1, high, low, f3))
          n2 = i8x16.add(n2, outstanding(f0, high, low, f4))
          f0 = f1
          f1 = f2
          f2 = f3
          f3 = f4
          at += row
        }
      }
      const to = out + (<usize>(by * across + bx) << 1)
      store<u16>(to, counted(n1))
      store<u16>(to + plane, counted(n2))
    }
  }
}
