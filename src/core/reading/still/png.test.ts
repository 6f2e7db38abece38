import { describe, expect, it } from 'vitest'
import { countingSource, memorySource } from '../bytes/source'
import { read } from '../read'

/** The chunks of a PNG; their checksums say nothing here, but for the last one's. */
function png(chunks: readonly (readonly [kind: string, length: number])[], behind = 0): Uint8Array {
  const parts: number[][] = [[0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]]
  for (const [kind, length] of chunks) {
    const body = new Array<number>(length).fill(0)
    if (kind === 'IHDR') body.splice(0, 13, 0, 0, 16, 0, 0, 0, 8, 112, 16, 6, 0, 0, 0)
    if (kind === 'pHYs') body.splice(0, 9, 0, 0, 0, 1, 0, 0, 0, 2, 0)
    const size = [length >>> 24, (length >>> 16) & 255, (length >>> 8) & 255, length & 255]
    const sum = kind === 'IEND' ? [0xae, 0x42, 0x60, 0x82] : [0, 0, 0, 0]
    parts.push([...size, ...[...kind].map((letter) => letter.charCodeAt(0)), ...body, ...sum])
  }
  parts.push(new Array<number>(behind).fill(7))
  return Uint8Array.from(parts.flat())
}
const samples = (count: number) => Array.from({ length: count }, () => ['IDAT', 512] as const)

describe('a PNG', () => {
  it('of thousands of chunks is read in few requests, to its end', async () => {
    const source = countingSource(
      memorySource(png([['IHDR', 13], ['pHYs', 9], ...samples(3000), ['IEND', 0]])),
    )
    const result = await read(source)
    expect(result.ok).toBe(true)
    expect(result.reading?.video).toMatchObject({
      width: 4096,
      height: 2160,
      bitDepth: 16,
      alpha: true,
      pixelAspect: { num: 2, den: 1 },
    })
    expect(source.reads).toBeLessThan(12)
  })
  it('that goes on behind its end is whole, and one that has none is cut off', async () => {
    expect((await read(memorySource(png([['IHDR', 13], ...samples(5), ['IEND', 0]], 900)))).ok).toBe(true)
    const cut = await read(memorySource(png([['IHDR', 13], ...samples(5)])))
    expect(cut).toMatchObject({ ok: false, error: { code: 'truncated' } })
  })
})
