import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { straightened } from './straight'

const share = fc.integer({ min: 0, max: 255 })

describe('colours that were multiplied by alpha', () => {
  it('come back to within what multiplying rounded away, in either range', () => {
    fc.assert(
      fc.property(share, share, share, share, fc.boolean(), (y, cb, cr, a, isFull) => {
        const black = isFull ? 0 : 16
        const times = (value: number, from: number) => Math.round(from + ((value - from) * a) / 255)
        const planes = straightened(
          {
            ...{ width: 1, height: 1, bitDepth: 8, across: 1, down: 1 },
            luma: Uint8Array.of(times(y, black)),
            chroma: { cb: Uint8Array.of(times(cb, 128)), cr: Uint8Array.of(times(cr, 128)) },
            alpha: Uint8Array.of(a),
          },
          { range: isFull ? 'full' : 'limited' },
        )
        if (a === 0) return
        const near = 0.5 + 127.5 / a
        const seen = [planes.luma[0]!, planes.chroma!.cb[0]!, planes.chroma!.cr[0]!]
        ;[y, cb, cr].forEach((value, i) =>
          expect(Math.abs(seen[i]! - value)).toBeLessThanOrEqual(near + 1e-9),
        )
      }),
    )
  })

  it('take for chroma the alpha of the sample that it stands with, and leave what is not seen', () => {
    const planes = straightened(
      {
        ...{ width: 4, height: 2, bitDepth: 10, across: 2, down: 2 },
        luma: Uint16Array.of(64, 504, 504, 504, 64, 64, 64, 64),
        chroma: { cb: Uint16Array.of(612, 612), cr: Uint16Array.of(512, 412) },
        alpha: Uint16Array.of(1023, 512, 0, 1023, 1023, 1023, 1023, 1023),
      },
      { range: 'limited' },
    )
    expect([...planes.luma]).toEqual([64, 943, 504, 504, 64, 64, 64, 64])
    expect([...planes.chroma!.cb, ...planes.chroma!.cr]).toEqual([612, 612, 512, 412])
    const opaque = { ...planes, alpha: null }
    expect(straightened(opaque, { range: 'full' })).toBe(opaque)
  })
})
