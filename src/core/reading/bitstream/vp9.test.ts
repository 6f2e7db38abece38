import { describe, expect, it } from 'vitest'
import { bitWriter } from '../bytes/bit-writer.fixture'
import { claimOfVp8, claimOfVp9 } from './vp9'

/** An uncompressed header of a key frame, bitstream specification §6.2. */
function keyFrame(profile: 0 | 1 | 2 | 3, colour: (w: ReturnType<typeof bitWriter>) => void, key: 0 | 1 = 0) {
  const w = bitWriter()
    .u(2, 2)
    .u(profile & 1, 1)
    .u(profile >> 1, 1)
  if (profile === 3) w.flags(0)
  w.flags(0).u(key, 1).flags(1, 0).u(0x498342, 24)
  colour(w)
  return w.u(1919, 16).u(1079, 16).bytes()
}
const read = (...args: Parameters<typeof keyFrame>) => claimOfVp9(keyFrame(...args))?.facts

describe('VP9 headers', () => {
  it('state size, depth, matrix and range', () => {
    expect(read(0, (w) => w.u(2, 3).flags(0))).toEqual({
      profile: '0',
      width: 1920,
      height: 1080,
      bitDepth: 8,
      chroma: '4:2:0',
      matrix: 'bt709',
      range: 'limited',
      scan: 'progressive',
    })
    expect(read(2, (w) => w.flags(0).u(5, 3).flags(1))).toMatchObject({
      bitDepth: 10,
      matrix: 'bt2020',
      range: 'full',
    })
    expect(read(2, (w) => w.flags(1).u(0, 3).flags(0))).toMatchObject({ bitDepth: 12, matrix: null })
  })
  it.each([
    [[1, 1], '4:2:0'],
    [[1, 0], '4:2:2'],
    [[0, 1], '4:4:0'],
    [[0, 0], '4:4:4'],
  ] as [[0 | 1, 0 | 1], string][])('with subsampling %o are %s', (across, chroma) => {
    expect(read(1, (w) => w.u(1, 3).flags(0, ...across, 0))).toMatchObject({
      chroma,
      width: 1920,
      profile: '1',
    })
    expect(
      read(3, (w) =>
        w
          .flags(0)
          .u(3, 3)
          .flags(0, ...across, 0),
      ),
    ).toMatchObject({ chroma, matrix: 'bt601-525' })
  })
  it('of RGB are 4:4:4 in full range', () => {
    expect(read(1, (w) => w.u(7, 3).flags(0))).toMatchObject({
      matrix: 'rgb',
      chroma: '4:4:4',
      range: 'full',
      height: 1080,
    })
  })
  it('are not there in frames between, or in other bytes', () => {
    expect(read(0, (w) => w.u(2, 3).flags(0), 1)).toBeUndefined()
    expect(claimOfVp9(new Uint8Array(20))).toBeNull()
    expect(claimOfVp9(new Uint8Array(3))).toBeNull()
  })
})

describe('VP8 headers', () => {
  const frame = (...start: number[]) =>
    Uint8Array.of(...start, 0x9d, 0x01, 0x2a, 0x80, 0x47, 0x38, 0x04, 0, 0)
  it('state the size without its scale', () => {
    expect(claimOfVp8(frame(0x10, 0, 0))!.facts).toMatchObject({ width: 1920, height: 1080, chroma: '4:2:0' })
  })
  it('are not there in frames between', () => {
    expect(claimOfVp8(frame(0x11, 0, 0))).toBeNull()
    expect(claimOfVp8(new Uint8Array(9))).toBeNull()
  })
})
