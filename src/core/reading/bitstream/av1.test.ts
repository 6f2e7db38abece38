import { describe, expect, it } from 'vitest'
import { bitWriter } from '../bytes/bit-writer.fixture'
import { claimOfAv1, claimsOfAv1Configuration } from './av1'

interface Sequence {
  readonly profile?: 0 | 1 | 2
  readonly reduced?: boolean
  /** With timing and decoder model, as streams for broadcast have it. */
  readonly timed?: boolean
  readonly frameIds?: boolean
  readonly colour: (w: ReturnType<typeof bitWriter>) => void
}

/** A sequence header of 3840×2160, AV1 bitstream specification §5.5. */
function sequence({ profile = 0, reduced, timed, frameIds, colour }: Sequence): Uint8Array {
  const w = bitWriter().u(profile, 3).flags(0)
  if (reduced) w.flags(1).u(8, 5)
  else {
    w.flags(0)
    if (timed) w.flags(1).u(1001, 32).u(60000, 32).flags(1).ue(0).flags(1).u(9, 5).u(1001, 32).u(9, 5).u(9, 5)
    else w.flags(0)
    w.flags(1).u(1, 5)
    for (let point = 0; point < 2; point++) {
      w.u(0, 12).u(point ? 5 : 13, 5)
      if (!point) w.flags(1)
      if (timed) w.flags(1).u(0, 20).flags(0)
      w.flags(1).u(3, 4)
    }
  }
  w.u(11, 4).u(11, 4).u(3839, 12).u(2159, 12)
  if (!reduced) {
    if (frameIds) w.flags(1).u(0, 7)
    else w.flags(0)
  }
  w.flags(1, 1, 1)
  if (!reduced) w.flags(1, 1, 1, 1).flags(1).flags(1, 1).flags(0).u(1, 1).flags(0).u(0, 1).u(6, 3)
  w.flags(1, 1, 1)
  colour(w)
  return w.bytes()
}
/** The header as an open bitstream unit with its size. */
const unit = (bytes: Uint8Array) =>
  Uint8Array.of(0x0a, (bytes.length & 0x7f) | 0x80, bytes.length >> 7, ...bytes)
const read = (s: Sequence) => claimOfAv1(unit(sequence(s)))!.facts

describe('AV1 headers', () => {
  it('state size, depth, chroma and colour', () => {
    const hdr = (w: ReturnType<typeof bitWriter>) =>
      w.flags(1, 0, 1).u(9, 8).u(16, 8).u(9, 8).flags(0).u(0, 2)
    const facts = {
      profile: 'Main',
      width: 3840,
      height: 2160,
      bitDepth: 10,
      chroma: '4:2:0',
      transfer: 'pq',
      range: 'limited',
      scan: 'progressive',
    }
    expect(read({ colour: hdr })).toMatchObject(facts)
    expect(read({ colour: hdr, timed: true, frameIds: true })).toMatchObject(facts)
    expect(read({ colour: hdr, reduced: true })).toMatchObject(facts)
  })
  it.each<[string, Sequence, object]>([
    [
      'High, 4:4:4',
      { profile: 1, colour: (w) => w.flags(0, 0, 1) },
      { profile: 'High', chroma: '4:4:4', bitDepth: 8, range: 'full' },
    ],
    ['one plane', { colour: (w) => w.flags(0, 1, 0, 1) }, { chroma: '4:0:0', range: 'full' }],
    [
      'RGB',
      { profile: 1, colour: (w) => w.flags(0, 1).u(1, 8).u(13, 8).u(0, 8) },
      { chroma: '4:4:4', matrix: 'rgb', range: 'full' },
    ],
    [
      'Professional 10 bit',
      { profile: 2, colour: (w) => w.flags(1, 0, 0, 0, 0) },
      { profile: 'Professional', chroma: '4:2:2', bitDepth: 10 },
    ],
    [
      '12 bit 4:2:0',
      { profile: 2, colour: (w) => w.flags(1, 1, 0, 0, 0, 1, 1) },
      { chroma: '4:2:0', bitDepth: 12 },
    ],
    [
      '12 bit 4:2:2',
      { profile: 2, colour: (w) => w.flags(1, 1, 0, 0, 0, 1, 0) },
      { chroma: '4:2:2', bitDepth: 12 },
    ],
    [
      '12 bit 4:4:4',
      { profile: 2, colour: (w) => w.flags(1, 1, 0, 0, 0, 0) },
      { chroma: '4:4:4', bitDepth: 12 },
    ],
  ])('of %s', (_, s, facts) => expect(read(s)).toMatchObject(facts))
  it('are found behind a delimiter, and in a configuration record', () => {
    const header = unit(sequence({ colour: (w) => w.flags(0, 0, 0, 0) }))
    expect(claimOfAv1(Uint8Array.of(0x12, 0, ...header))!.facts.width).toBe(3840)
    expect(claimsOfAv1Configuration(Uint8Array.of(0x81, 8, 12, 0, ...header))[0]!.facts.height).toBe(2160)
    expect(claimsOfAv1Configuration(Uint8Array.of(0x81, 8, 12, 0))).toEqual([])
  })
  it('are not there in other bytes', () => {
    expect(claimOfAv1(Uint8Array.of(0x12, 0, 0x12, 0))).toBeNull()
    expect(claimOfAv1(new Uint8Array(0))).toBeNull()
  })
})
