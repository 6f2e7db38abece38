import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { dpxLayout } from './dpx-samples'

const headerLength = 2048
const partsOf = { 6: 1, 50: 3, 51: 4, 52: 4, 102: 3 } as const

/** Bits as words of 32 hold them, by writing each bit by itself. */
class Words {
  readonly bits = new Map<number, number>()
  constructor(readonly isLittle: boolean) {}
  /** @param lowest the place of the sample's lowest bit in its word */
  put(word: number, lowest: number, count: number, value: number) {
    for (let i = 0; i < count; i++) {
      const [w, bit] = lowest + i < 32 ? [word, lowest + i] : [word + 1, lowest + i - 32]
      this.bits.set(w * 32 + bit, Math.floor(value / 2 ** i) % 2)
    }
  }
  bytes(words: number): Uint8Array {
    const bytes = new Uint8Array(4 * words)
    for (const [at, bit] of this.bits) {
      const [word, place] = [Math.floor(at / 32), at % 32]
      const byte = Math.floor(place / 8)
      bytes[4 * word + (this.isLittle ? byte : 3 - byte)]! |= bit << (place % 8)
    }
    return bytes
  }
}

/** A line laid down by the tables of the standard. */
function laid(samples: readonly number[], bits: number, packing: number, isLittle: boolean): Uint8Array {
  if (bits === 8) return Uint8Array.from(samples)
  if (bits === 16 || (bits === 12 && packing > 0)) {
    const view = new DataView(new ArrayBuffer(2 * samples.length))
    samples.forEach((value, i) =>
      view.setUint16(2 * i, packing === 1 && bits === 12 ? value * 16 : value, isLittle),
    )
    return new Uint8Array(view.buffer)
  }
  const words = new Words(isLittle)
  if (packing === 0)
    samples.forEach((value, i) => words.put(Math.floor((i * bits) / 32), (i * bits) % 32, bits, value))
  else
    samples.forEach((value, i) =>
      words.put(Math.floor(i / 3), (2 - (i % 3)) * 10 + (packing === 1 ? 2 : 0), 10, value),
    )
  return words.bytes(packing === 0 ? Math.ceil((samples.length * bits) / 32) : Math.ceil(samples.length / 3))
}

function headerOf(
  { width, height }: { readonly width: number; readonly height: number },
  descriptor: number,
  bits: number,
  packing: number,
  isLittle: boolean,
) {
  const view = new DataView(new ArrayBuffer(headerLength))
  new Uint8Array(view.buffer).set([...(isLittle ? 'XPDS' : 'SDPX')].map((c) => c.charCodeAt(0)))
  view.setUint32(4, headerLength, isLittle)
  view.setUint16(770, 1, isLittle)
  view.setUint32(772, width, isLittle)
  view.setUint32(776, height, isLittle)
  view.setUint8(800, descriptor)
  view.setUint8(803, bits)
  view.setUint16(804, packing, isLittle)
  return new Uint8Array(view.buffer)
}

const kinds = fc.record({
  width: fc.integer({ min: 1, max: 40 }),
  height: fc.integer({ min: 1, max: 4 }),
  descriptor: fc.constantFrom<keyof typeof partsOf>(6, 50, 51, 52, 102),
  depth: fc.constantFrom([8, 0], [10, 0], [10, 1], [10, 2], [12, 0], [12, 1], [12, 2], [16, 0]),
  isLittle: fc.boolean(),
  inWords: fc.boolean(),
})

describe('the samples of a DPX', () => {
  it('come back as they were laid down, in both orders of bytes, filled by either method and packed', () => {
    fc.assert(
      fc.property(kinds, fc.infiniteStream(fc.nat(65_535)), (kind, chance) => {
        const { width, height, descriptor, isLittle } = kind
        const [bits, packing] = kind.depth as [number, number]
        const lines = Array.from({ length: height }, () =>
          Array.from({ length: width * partsOf[descriptor] }, () => (chance.next().value ?? 0) % 2 ** bits),
        )
        const stored = lines.map((line) => laid(line, bits, packing, isLittle))
        const length = stored[0]!.length
        const each = kind.inWords ? 4 * Math.ceil(length / 4) : length
        const header = headerOf({ width, height }, descriptor, bits, packing, isLittle)
        const layout = dpxLayout(header, headerLength + each * height)!
        expect([layout.bitDepth, layout.lineBytes]).toEqual([bits, each])
        lines.forEach((line, i) => {
          const bytes = new Uint8Array(each)
          bytes.set(stored[i]!)
          const into = new Uint16Array(line.length)
          layout.unpack(new DataView(bytes.buffer), into)
          expect([...into]).toEqual(line)
        })
      }),
      { numRuns: 300 },
    )
  })

  it('are left to others where they are coded, signed, in several elements, cut off or of another kind', () => {
    const header = (change: (view: DataView) => void) => {
      const bytes = headerOf({ width: 8, height: 4 }, 50, 10, 1, false)
      change(new DataView(bytes.buffer))
      return dpxLayout(bytes, headerLength + 8 * 4 * 4)
    }
    expect(header(() => {})).not.toBeNull()
    expect(header((view) => view.setUint16(806, 1))).toBeNull()
    expect(header((view) => view.setUint32(780, 1))).toBeNull()
    expect(header((view) => view.setUint16(770, 2))).toBeNull()
    expect(header((view) => view.setUint8(800, 4))).toBeNull()
    expect(header((view) => view.setUint8(803, 32))).toBeNull()
    expect(header((view) => view.setUint32(776, 5))).toBeNull()
    expect(dpxLayout(new Uint8Array(100), 100)).toBeNull()
  })
})
