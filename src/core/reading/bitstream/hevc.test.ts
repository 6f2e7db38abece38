import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { bitWriter, escapedUnit } from '../bytes/bit-writer.fixture'
import { settleClaims } from '../claims'
import { ReadingFault } from '../fault'
import { claimsOfStream } from './frame-claims'
import { claimsOfHevc } from './hevc'

interface Sequence {
  readonly subLayers?: number
  readonly profile?: number
  /** The source flags: progressive, interlaced. */
  readonly source?: readonly [0 | 1, 0 | 1]
  readonly chroma?: number
  readonly size?: readonly [number, number]
  readonly window?: readonly [number, number, number, number]
  readonly depth?: number
  /** Writes the reference picture sets; none where left out. */
  readonly references?: (w: ReturnType<typeof bitWriter>) => void
  readonly scalingLists?: boolean
  readonly pcm?: boolean
  readonly longTerm?: number
  readonly vui?: (w: ReturnType<typeof bitWriter>) => void
}

/** A sequence parameter set, ITU-T H.265 §7.3.2.2. */
function sequence(s: Sequence): Uint8Array {
  const { subLayers = 0, source = [1, 0], chroma = 1, size = [1920, 1088], depth = 8 } = s
  const w = bitWriter()
    .u(33 << 1, 8)
    .u(1, 8)
  w.u(0, 4).u(subLayers, 3).u(1, 1)
  w.u(0, 3)
    .u(s.profile ?? 1, 5)
    .u(0x60000000, 32)
    .flags(...source)
    .u(0x3fffffffff, 46)
    .u(120, 8)
  for (let i = 0; i < subLayers; i++) w.flags(1, 1)
  if (subLayers > 0) w.u(0, 2 * (8 - subLayers))
  for (let i = 0; i < subLayers; i++) w.u(0x7fffff, 44).u(0x7fffff, 44).u(93, 8)
  w.ue(0, chroma)
  if (chroma === 3) w.flags(0)
  w.ue(...size)
  if (s.window) w.flags(1).ue(...s.window)
  else w.flags(0)
  w.ue(depth - 8, depth - 8, 4)
  w.flags(1)
  for (let i = 0; i <= subLayers; i++) w.ue(4, 2, 0)
  w.ue(0, 3, 0, 3, 0, 0)
  if (s.scalingLists) {
    w.flags(1, 1)
    for (let list = 0; list < 20; list++) {
      // Every other list is told by reference, the rest coefficient by coefficient.
      if (list % 2) w.flags(0).ue(1)
      else {
        w.flags(1)
        if (list >= 12) w.se(8)
        for (let i = 0; i < (list < 6 ? 16 : 64); i++) w.se(i % 3 ? 1 : -1)
      }
    }
  } else w.flags(0)
  w.flags(1, 1)
  if (s.pcm) w.flags(1).u(7, 4).u(7, 4).ue(0, 1).flags(1)
  else w.flags(0)
  if (s.references) s.references(w)
  else w.ue(0)
  if (s.longTerm) {
    w.flags(1).ue(s.longTerm)
    for (let i = 0; i < s.longTerm; i++) w.u(i, 8).flags(1)
  } else w.flags(0)
  w.flags(1, 1)
  if (s.vui) {
    w.flags(1)
    s.vui(w)
  } else w.flags(0)
  return escapedUnit(w.bytes())
}

const read = (s: Sequence) => {
  const { claims, statedRate } = claimsOfHevc([sequence(s)])
  return { ...settleClaims(claims).facts, statedRate }
}
/** Pixel shape 4:3, BT.2020 PQ in full range, and a rate of 50. */
const usability = (w: ReturnType<typeof bitWriter>, fields: 0 | 1 = 0) =>
  w
    .flags(1)
    .u(255, 8)
    .u(4, 16)
    .u(3, 16)
    .flags(1, 0)
    .flags(1)
    .u(5, 3)
    .flags(1, 1)
    .u(9, 8)
    .u(16, 8)
    .u(9, 8)
    .flags(1)
    .ue(0, 0)
    .flags(0, fields, 0)
    .flags(1)
    .ue(0, 0, 0, 4)
    .flags(1)
    .u(1000, 32)
    .u(50000, 32)

describe('HEVC headers', () => {
  it('state the size behind the conformance window, in the units of the chroma', () => {
    expect(read({ window: [0, 0, 0, 4] })).toMatchObject({ width: 1920, height: 1080, chroma: '4:2:0' })
    expect(read({ chroma: 2, window: [1, 2, 0, 8] })).toMatchObject({ width: 1914, height: 1080 })
    expect(read({ chroma: 3, window: [1, 2, 0, 8] })).toMatchObject({ width: 1917, chroma: '4:4:4' })
    expect(read({ chroma: 0, window: [1, 2, 0, 8] })).toMatchObject({ width: 1917, chroma: '4:0:0' })
  })
  it.each([
    [{ profile: 1 }, 'Main', 8],
    [{ profile: 2, depth: 10 }, 'Main 10', 10],
    [{ profile: 4, chroma: 2, depth: 10 }, 'Main 4:2:2 10', 10],
    [{ profile: 4, chroma: 3 }, 'Main 4:4:4', 8],
    [{ profile: 4, depth: 12 }, 'Main 12', 12],
  ])('name the profile of %o %s', (s, profile, bitDepth) =>
    expect(read(s)).toMatchObject({ profile, bitDepth }),
  )
  it('name no profile that is not known', () => expect(read({ profile: 30 }).profile).toBeUndefined())
  it('tell scan only where exactly one source flag is set', () => {
    expect(read({ source: [1, 0] }).scan).toBe('progressive')
    expect(read({ source: [0, 1] }).scan).toBe('interlaced')
    expect(read({ source: [1, 1] }).scan).toBeUndefined()
    expect(read({ source: [0, 0] }).scan).toBeUndefined()
  })
  it('state pixel shape, colour, fields and the rate in the usability information', () => {
    expect(read({ vui: (w) => usability(w) })).toMatchObject({
      pixelAspect: { num: 4, den: 3 },
      primaries: 'bt2020',
      transfer: 'pq',
      matrix: 'bt2020',
      range: 'full',
      scan: 'progressive',
      statedRate: 50,
    })
    expect(read({ source: [0, 0], vui: (w) => usability(w, 1) }).scan).toBe('interlaced')
  })
  it('are read through sub-layers, scaling lists, PCM, reference sets and long-term pictures', () => {
    const references = (w: ReturnType<typeof bitWriter>) => {
      w.ue(3)
      // Two pictures before, one behind.
      w.ue(2, 1)
      for (let i = 0; i < 3; i++) w.ue(0).flags(1)
      // The next as a change of it: of four, one is not used and dropped, one not used and kept.
      w.flags(1, 0).ue(0).flags(1).flags(0, 0).flags(0, 1).flags(1)
      // So the last has three to tell about, and one more.
      w.flags(1, 1).ue(1).flags(1, 1, 1, 1)
    }
    const s = { subLayers: 2, scalingLists: true, pcm: true, longTerm: 2, references }
    expect(read({ ...s, vui: (w) => usability(w) })).toMatchObject({ transfer: 'pq', statedRate: 50 })
  })
  it('are found among other units, in a configuration record, and behind start codes', () => {
    const unit = sequence({ window: [0, 0, 0, 4] })
    const other = Uint8Array.of(32 << 1, 1, 12, 1)
    expect(claimsOfHevc([other, unit]).claims).toHaveLength(1)
    expect(claimsOfHevc([other]).claims).toEqual([])
    const stream = Uint8Array.of(0, 0, 0, 1, ...other, 0, 0, 1, ...unit)
    expect(claimsOfStream('HEVC', stream).claims[0]!.facts).toMatchObject({ height: 1080 })
    const lengths = (bytes: Uint8Array) => [bytes.length >> 8, bytes.length & 255]
    const arrays = [32, 0, 1, ...lengths(other), ...other, 33, 0, 1, ...lengths(unit), ...unit]
    const record = Uint8Array.of(1, ...Array.from({ length: 20 }, () => 0), 3, 2, ...arrays)
    expect(claimsOfStream('HEVC', new Uint8Array(0), record).claims[0]!.facts).toMatchObject({ height: 1080 })
  })
  it('that end too early are a fault, wherever they end', () => {
    const whole = sequence({ scalingLists: true, vui: (w) => usability(w) })
    fc.assert(
      fc.property(fc.integer({ min: 3, max: whole.length - 16 }), (length) => {
        expect(() => claimsOfHevc([whole.subarray(0, length)])).toThrow(ReadingFault)
        const { fault } = claimsOfStream('HEVC', Uint8Array.of(0, 0, 1, ...whole.subarray(0, length)))
        expect(fault?.code).toBe('damaged')
      }),
    )
  })
})
