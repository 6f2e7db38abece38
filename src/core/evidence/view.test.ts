import { describe, expect, it } from 'vitest'
import type { Luma } from '../planes/luma'
import { combsIn, differenceOf, spectrumOf } from './view'

const drawn = (value: (x: number, y: number) => number, width = 320, height = 288): Luma => ({
  width,
  height,
  data: Uint8Array.from({ length: width * height }, (_, i) => value(i % width, Math.floor(i / width))),
})
/** A bright bar that is elsewhere on odd lines, as two moments of it are. */
const bar = (top: number, bottom = top) =>
  drawn((x, y) => {
    const from = y % 2 ? bottom : top
    return x >= from && x < from + 40 && y > 40 && y < 200 ? 220 : 30
  })

describe('proofs', () => {
  it('of combs are the blocks at the edges that move, and none where frames are whole', () => {
    const blocks = combsIn(bar(80, 88), bar(96, 104), bar(112, 120))
    expect(blocks.length).toBeGreaterThan(8)
    for (const { x, y, width, height } of blocks) {
      expect([width, height]).toEqual([16, 16])
      expect((x % 16) + (y % 16)).toBe(0)
      expect(y + 16).toBeGreaterThan(40)
      expect(y).toBeLessThan(200)
      expect((x + 16 > 88 && x <= 104) || (x + 16 > 132 && x <= 144)).toBe(true)
    }
    expect(combsIn(bar(80), bar(96), bar(112))).toEqual([])
    // A stripe that stands still combs in no proof.
    const stripes = drawn((_, y) => (y % 2 ? 200 : 40))
    expect(combsIn(stripes, stripes, stripes)).toEqual([])
    expect(combsIn(bar(80, 88), bar(96, 104), null)).toEqual([])
    expect(combsIn(null, bar(96, 104), bar(112, 120)).length).toBeGreaterThan(8)
  })

  it('of repeats are how far two frames are apart, and where', () => {
    const same = differenceOf(bar(80), bar(80))
    expect(same.codes).toBe(0)
    expect(Math.max(...same.picture.data)).toBe(0)
    const moved = differenceOf(bar(80), bar(96))
    expect(moved.codes).toBeGreaterThan(100)
    expect(moved.picture.data[100 * 320 + 84]).toBe(190)
    expect(moved.picture.data[100 * 320 + 20]).toBe(0)
  })

  it('of detail are spectra within the bars: what is blurred ends early', () => {
    let x = 7
    const noise = drawn(() => ((x = (Math.imul(x, 1103515245) + 12345) >>> 0) >>> 16) % 256, 512, 512)
    const blurred = drawn(
      (i, j) => {
        let sum = 0
        for (let k = 0; k < 8; k++) sum += noise.data[j * 512 + ((i + k) % 512)] ?? 0
        return sum / 8
      },
      512,
      512,
    )
    const [sharp, soft] = [spectrumOf(noise)!, spectrumOf(blurred)!]
    expect(sharp.across).toHaveLength(96)
    const fall = ({ across }: typeof sharp) => across[4]! - across[80]!
    expect(fall(sharp)).toBeLessThan(3)
    expect(fall(soft)).toBeGreaterThan(10)
    expect(soft.down[80]! - soft.down[4]!).toBeGreaterThan(-4)
    expect(spectrumOf(drawn(() => 0, 100, 100))).toBeNull()
  })
})
