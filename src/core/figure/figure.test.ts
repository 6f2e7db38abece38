import { describe, expect, it } from 'vitest'
import { rational } from '../rational/rational'
import { dotsAcross, dotsDown, isLit } from './digits'
import { type FigureKind, figureOf } from './figure'

const kind = (
  width: number,
  height: number,
  aspect = rational(1),
  scan: FigureKind['scan'] = 'progressive',
) => ({
  size: { width, height, pixelAspect: aspect },
  rate: rational(25),
  scan,
})
/** How far the ring reaches from the middle, across and down, in pixels. */
function ring(figureKind: FigureKind) {
  const { width, height, luma } = figureOf(figureKind)(0)
  const middle = Math.floor(height / 2)
  let [left, top] = [0, 0]
  while (luma[middle * width + left] !== 225) left++
  while (luma[top * width + Math.floor(width / 2)] !== 225) top++
  return { across: width / 2 - left, down: height / 2 - top }
}

describe('the test figure', () => {
  it('has a circle that is round in square units, whatever the pixels', () => {
    const hd = ring(kind(1920, 1080))
    expect(Math.abs(hd.across - hd.down)).toBeLessThanOrEqual(2)
    const tape = ring(kind(720, 576, rational(64, 45)))
    expect(tape.across * (64 / 45)).toBeCloseTo(tape.down, -0.5)
  })

  it('has lines of one pixel across and down', () => {
    const { width, luma } = figureOf(kind(960, 540))(0)
    const at = (x: number, y: number) => luma[y * width + x]
    expect([at(320, 270), at(321, 270), at(322, 270)]).toEqual([32, 210, 32])
    expect([at(600, 270), at(600, 271), at(600, 272)]).toEqual([32, 210, 32])
  })

  it('writes its number, which can be read again', () => {
    const { width, height, luma } = figureOf(kind(960, 540))(20731)
    const square = 45
    const dot = square / dotsDown
    const text = [...'020731']
    const left = width / 2 - (text.length * dotsAcross * dot) / 2
    for (let row = 0; row < dotsDown; row++)
      for (let column = 0; column < text.length * dotsAcross; column++) {
        const x = Math.floor(left + (column + 0.5) * dot)
        const y = Math.floor(height / 2 + 1.3 * square + (row + 0.5) * dot)
        expect(luma[y * width + x] === 225).toBe(isLit('020731', column, row))
      }
  })

  it('moves from frame to frame, and from field to field where it is interlaced', () => {
    const rows = (scan: FigureKind['scan'], index: number, parity: number) => {
      const { width, height, luma } = figureOf(kind(320, 240, rational(1), scan))(index)
      return Array.from({ length: height / 2 }, (_, y) =>
        luma.subarray((2 * y + parity) * width, (2 * y + parity + 1) * width).join(),
      )
    }
    expect(rows('progressive', 1, 0)).not.toEqual(rows('progressive', 0, 0))
    // The first field is the moment of the frame, the second half a frame later.
    expect(rows('interlaced', 3, 0)).toEqual(rows('progressive', 3, 0))
    expect(rows('interlaced', 3, 1)).not.toEqual(rows('progressive', 3, 1))
  })
})
