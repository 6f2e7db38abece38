import { describe, expect, it } from 'vitest'
import { bitWriter } from '../bytes/bit-writer.fixture'
import { settleClaims } from '../claims'
import { claimsOfH264 } from './h264'
import { lengthPrefixedUnits, startCodeUnits, unescapeUnit } from './nal'

/** A Main profile parameter set of 720×576 with four bits of frame number. */
const sequence = (frameMbsOnly: boolean, picStruct = false) => {
  const w = bitWriter().u(0x67, 8).u(77, 8).u(0, 8).u(30, 8)
  w.ue(0).ue(0).ue(0).ue(0).ue(1).u(0, 1)
  w.ue(44)
    .ue(frameMbsOnly ? 35 : 17)
    .u(frameMbsOnly ? 1 : 0, 1)
  if (!frameMbsOnly) w.u(1, 1)
  w.u(0, 1).u(0, 1).u(1, 1)
  // Usability: pixel shape 16:11, nothing else but the structure of pictures.
  w.u(1, 1)
    .u(4, 8)
    .u(0, 1)
    .u(0, 1)
    .u(0, 1)
    .u(0, 1)
    .u(0, 1)
    .u(0, 1)
    .u(picStruct ? 1 : 0, 1)
    .u(0, 1)
  return w.bytes()
}
/** A slice header up to its field flags. */
const slice = (field: boolean, bottom = false) => {
  const w = bitWriter()
    .u(0x65, 8)
    .ue(0)
    .ue(7)
    .ue(0)
    .u(0, 4)
    .u(field ? 1 : 0, 1)
  if (field) w.u(bottom ? 1 : 0, 1)
  return w.bytes()
}
const timing = (structure: number) => Uint8Array.of(6, 1, 1, structure << 4, 0x80, 0, 0)
const facts = (...units: Uint8Array[]) => settleClaims(claimsOfH264(units).claims).facts

describe('H.264 headers', () => {
  it('state size, shape and progressive scan', () => {
    expect(facts(sequence(true))).toMatchObject({
      width: 720,
      height: 576,
      pixelAspect: { num: 16, den: 11 },
      scan: 'progressive',
      profile: 'Main',
      bitDepth: 8,
    })
  })
  it('state fields that are coded one by one, and which comes first', () => {
    expect(facts(sequence(false), slice(true, false), slice(true, true))).toMatchObject({
      height: 576,
      scan: 'interlaced',
      fieldOrder: 'top-first',
    })
    expect(facts(sequence(false), slice(true, true), slice(true, false))).toMatchObject({
      fieldOrder: 'bottom-first',
    })
    expect(claimsOfH264([sequence(false), slice(true), slice(true, true)]).fieldCoded).toBe(true)
  })
  it('state fields inside frames by the timing of pictures', () => {
    expect(facts(sequence(false, true), timing(3), slice(false))).toMatchObject({
      scan: 'interlaced',
      fieldOrder: 'top-first',
    })
    expect(facts(sequence(false, true), timing(4), slice(false))).toMatchObject({
      fieldOrder: 'bottom-first',
    })
    expect(facts(sequence(false, true), timing(0), slice(false))).toMatchObject({
      scan: 'progressive',
      fieldOrder: null,
    })
  })
  it('leave the scan open where nothing states it', () => {
    expect(facts(sequence(false), slice(false)).scan).toBeUndefined()
  })
})

describe('units', () => {
  it('are cut at start codes and by lengths, and unescaped', () => {
    const stream = Uint8Array.of(0, 0, 1, 9, 16, 0, 0, 0, 1, 7, 1, 2)
    expect([...startCodeUnits(stream)].map((u) => u[0])).toEqual([9, 7])
    expect([...lengthPrefixedUnits(Uint8Array.of(0, 2, 9, 16, 0, 9, 7, 1), 2)].map((u) => u.length)).toEqual([
      2, 2,
    ])
    expect([...unescapeUnit(Uint8Array.of(1, 0, 0, 3, 1, 0, 0, 3, 0))]).toEqual([1, 0, 0, 1, 0, 0, 0])
  })
})
