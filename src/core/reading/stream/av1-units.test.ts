import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { read } from '../read'
import { av1FileOf, temporalUnits } from './av1-units'

const files = join(import.meta.dirname, '../../../../test/fixtures/files')
const fileOf = (name: string) => new Uint8Array(readFileSync(join(files, name)))
const plain = fileOf('mould_av1.obu')

/** A size as annex B writes it. */
const leb = (size: number): number[] => (size < 128 ? [size] : [(size % 128) | 128, ...leb(size >> 7)])

/** The stream of units in the layout of annex B, by its own reckoning: each unit of the file has one byte of header and its size. */
function asAnnexB(stream: Uint8Array): Uint8Array {
  const groups: number[][][] = []
  for (let at = 0; at < stream.length;) {
    let [size, shift, next] = [0, 0, at + 1]
    do size += (stream[next]! & 127) << shift
    while (((shift += 7), stream[next++]! & 128))
    const unit = [stream[at]! & ~2, ...stream.subarray(next, next + size)]
    if (stream[at]! >> 3 === 2) groups.push([])
    groups.at(-1)!.push(unit)
    at = next + size
  }
  const wrapped = (parts: number[][]) => parts.flatMap((part) => [...leb(part.length), ...part])
  return Uint8Array.from(wrapped(groups.map((units) => wrapped([wrapped(units)]))))
}
const sized = asAnnexB(plain)
const unitsOf = (bytes: Uint8Array) => [...temporalUnits(bytes, av1FileOf(bytes)!)]

describe('AV1 in a file of its own', () => {
  it('is known by its beginning, in all three layouts', () => {
    expect([plain, sized, fileOf('mould_av1.ivf')].map(av1FileOf)).toEqual(['units', 'sized units', 'IVF'])
    expect(av1FileOf(fileOf('bell.ivf'))).toBeNull()
    expect(av1FileOf(new Uint8Array(0))).toBeNull()
  })

  it('holds the same units, whichever way they are laid down', () => {
    const units = unitsOf(plain)
    expect(units).toHaveLength(4)
    expect(unitsOf(sized).map((unit) => unit.bytes())).toEqual(units.map((unit) => unit.bytes()))
    // The delimiter falls away: a sequence header comes first.
    expect(units[0]!.bytes()[0]! >> 3).toBe(1)
    expect([units[0]!.at, units.at(-1)!.end]).toEqual([0, plain.length])
  })

  it.each([
    ['units', plain],
    ['sized units', sized],
    ['IVF', fileOf('mould_av1.ivf')],
  ])('cut off anywhere gives the pictures that are whole: %s', (_, bytes) => {
    const ends = unitsOf(bytes).map(({ end }) => end)
    fc.assert(
      fc.property(fc.integer({ min: 44, max: bytes.length }), (length) => {
        const kind = av1FileOf(bytes)!
        const whole = [...temporalUnits(bytes.subarray(0, length), kind)].length
        expect(whole).toBe(ends.filter((end) => end <= length).length)
      }),
      {
        examples: ends.flatMap((end) => [[end - 1], [end], [Math.min(end + 1, bytes.length)]] as [number][]),
      },
    )
  })

  it('is read in the layout of annex B as in the plain one, its pictures counted', async () => {
    const facts = async (bytes: Uint8Array) => {
      const read1 = await read({ size: bytes.length, read: async (at, n) => bytes.slice(at, at + n) })
      if (!read1.ok) throw new Error(read1.error.message)
      return read1.reading.video
    }
    expect(await facts(sized)).toEqual(await facts(plain))
    expect(await facts(sized)).toMatchObject({ codec: 'AV1', width: 192, height: 108, frameCount: 4 })
  })

  it('counts the frames of an IVF whose writer could not go back to its head', async () => {
    const bytes = fileOf('mould_av1.ivf')
    bytes.fill(0, 24, 28)
    const ivf = await read({ size: bytes.length, read: async (at, n) => bytes.slice(at, at + n) })
    expect(ivf.ok && ivf.reading).toMatchObject({ durationSec: 0.16, video: { frameCount: 4 } })
  })
})
