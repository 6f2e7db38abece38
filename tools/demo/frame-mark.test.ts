import { describe, expect, it } from 'vitest'
import { mark, markBlocks, readMark } from './frame-mark'

const painted = (frame: number, flip = -1) => ({
  left: 100,
  top: 50,
  width: 960,
  height: 540,
  luma: (x: number) => {
    const block = Math.floor(((x - 100) / 960 - mark.left) / mark.blockWidth)
    return (markBlocks(frame)[block] !== (block === flip) ? 235 : 16) as number
  },
})

describe('frame mark', () => {
  it('is read back for any number', () => {
    for (const n of [0, 1, 2, 299, 4095, 65535]) expect(readMark(painted(n))).toBe(n)
  })
  it('is refused when one block is wrong or nothing is there', () => {
    for (let block = 0; block < 20; block++) expect(readMark(painted(299, block))).toBeNull()
    expect(readMark({ ...painted(1), luma: () => 128 })).toBeNull()
  })
})
