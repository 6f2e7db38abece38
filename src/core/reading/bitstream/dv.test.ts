import { describe, expect, it } from 'vitest'
import { claimsOfDv } from './dv'

interface Dv {
  readonly is625?: boolean
  /** Signal type: 0 DV25, 4 DV50, 0x14 DV100 of 1080 lines, 0x18 of 720. */
  readonly type?: number
  readonly aspect?: number
  readonly interlaced?: boolean
  /** Frames, seconds, minutes, hours as binary coded decimals; the drop flag is 0x40 of the frames. */
  readonly timecode?: readonly [number, number, number, number]
}

/** The header, subcode and auxiliary blocks of a first DIF sequence. */
function frame({ is625 = true, type = 0, aspect = 0, interlaced = true, timecode }: Dv) {
  const bytes = new Uint8Array(80 * 6).fill(0xff)
  bytes.set([0x1f, 0x07, 0x00, is625 ? 0xbf : 0x3f])
  for (const block of [1, 2]) bytes[block * 80] = 0x3f
  for (const block of [3, 4, 5]) bytes[block * 80] = 0x5f
  if (timecode) bytes.set([0x13, ...timecode], 80 + 3 + 3)
  bytes.set([0x60, 0xff, 0xff, type, 0xff], 3 * 80 + 3)
  bytes.set([0x61, 0xff, aspect, interlaced ? 0xff : 0xef, 0xff], 3 * 80 + 8)
  return bytes
}
const read = (dv: Dv) => claimsOfDv(frame(dv))!
const facts = (dv: Dv) => read(dv).claims[0]!.facts

describe('DV frames', () => {
  it.each<[string, Dv, object]>([
    [
      '625 lines',
      {},
      { width: 720, height: 576, pixelAspect: { num: 16, den: 15 }, chroma: '4:2:0', profile: 'DV25' },
    ],
    ['625 lines, wide', { aspect: 2 }, { pixelAspect: { num: 64, den: 45 } }],
    ['525 lines', { is625: false }, { height: 480, pixelAspect: { num: 8, den: 9 }, chroma: '4:1:1' }],
    ['525 lines, wide', { is625: false, aspect: 7 }, { pixelAspect: { num: 32, den: 27 } }],
    ['50 Mbit/s', { type: 4 }, { profile: 'DV50', chroma: '4:2:2', fieldOrder: 'bottom-first' }],
    [
      '1080 at 50',
      { type: 0x14 },
      { width: 1440, height: 1080, pixelAspect: { num: 4, den: 3 }, fieldOrder: 'top-first' },
    ],
    ['1080 at 60', { type: 0x14, is625: false }, { width: 1280, pixelAspect: { num: 3, den: 2 } }],
    ['720', { type: 0x18 }, { width: 960, height: 720, scan: 'progressive', fieldOrder: null }],
  ])('of %s state their raster', (_, dv, expected) => expect(facts(dv)).toMatchObject(expected))
  it('state their rate; 720 lines run at twice the system’s', () => {
    expect(read({}).rate).toEqual({ num: 25, den: 1 })
    expect(read({ is625: false }).rate).toEqual({ num: 30000, den: 1001 })
    expect(read({ type: 0x18, is625: false }).rate).toEqual({ num: 60000, den: 1001 })
  })
  it('are interlaced unless their source says otherwise', () => {
    expect(facts({})).toMatchObject({ scan: 'interlaced', fieldOrder: 'bottom-first' })
    expect(facts({ interlaced: false })).toMatchObject({ scan: 'progressive', fieldOrder: null })
  })
  it('carry a timecode in their subcode, where it is one', () => {
    expect(read({ timecode: [0x12, 0x34, 0x56, 0x10] }).timecode).toEqual({
      text: '10:56:34:12',
      dropFrame: false,
    })
    expect(read({ is625: false, timecode: [0x42, 0x00, 0x01, 0x01] }).timecode).toEqual({
      text: '01:01:00;02',
      dropFrame: true,
    })
    expect(read({ timecode: [0x0b, 0x00, 0x00, 0x00] }).timecode).toBeNull()
    expect(read({ timecode: [0x00, 0x00, 0x00, 0x29] }).timecode).toBeNull()
    expect(read({}).timecode).toBeNull()
  })
  it('are not there in other bytes', () => {
    expect(claimsOfDv(new Uint8Array(480))).toBeNull()
    expect(claimsOfDv(frame({}).subarray(0, 400))).toBeNull()
  })
})
