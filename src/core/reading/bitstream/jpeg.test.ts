import { describe, expect, it } from 'vitest'
import { claimsOfStream } from './frame-claims'
import { factsOfJpeg } from './jpeg'

const word = (n: number) => [n >> 8, n & 255]
const letters = (text: string) => [...text].map((c) => c.charCodeAt(0))
const marker = (code: number, body: number[]) => [0xff, code, ...word(body.length + 2), ...body]
/** A frame header with the sampling factors of its parts, ITU-T T.81 §B.2.2. */
const frame = (factors: number[], code = 0xc0, depth = 8, size: [number, number] = [1920, 1080]) =>
  marker(code, [
    depth,
    ...word(size[1]),
    ...word(size[0]),
    factors.length,
    ...factors.flatMap((f, i) => [i + 1, f, 0]),
  ])
const jfif = (x: number, y: number, units = 0) =>
  marker(0xe0, [...letters('JFIF\0'), 1, 2, units, ...word(x), ...word(y), 0, 0])
const picture = (...markers: number[][]) => Uint8Array.from([0xff, 0xd8, ...markers.flat(), 0xff, 0xda, 0, 2])
const facts = (...markers: number[][]) => factsOfJpeg(picture(...markers))

/** EXIF data with an orientation, a camera and a date, in either byte order. */
function exif(orientation: number, le: boolean) {
  const u16 = (n: number) => (le ? word(n).reverse() : word(n))
  const u32 = (n: number) =>
    le ? [...u16(n & 0xffff), ...u16(n >>> 16)] : [...u16(n >>> 16), ...u16(n & 0xffff)]
  const name = letters('Foundry\0')
  const date = letters('2026:05:01 09:30:00\0')
  const texts = 8 + 2 + 3 * 12 + 4
  return marker(0xe1, [
    ...letters('Exif\0\0'),
    ...letters(le ? 'II' : 'MM'),
    ...u16(42),
    ...u32(8),
    ...u16(3),
    ...[...u16(0x112), ...u16(3), ...u32(1), ...u16(orientation), 0, 0],
    ...[...u16(0x110), ...u16(2), ...u32(name.length), ...u32(texts)],
    ...[...u16(0x132), ...u16(2), ...u32(date.length), ...u32(texts + name.length)],
    ...u32(0),
    ...name,
    ...date,
  ])
}

describe('JPEG markers', () => {
  it.each([
    [[0x22, 0x11, 0x11], '4:2:0'],
    [[0x21, 0x11, 0x11], '4:2:2'],
    [[0x11, 0x11, 0x11], '4:4:4'],
    [[0x41, 0x11, 0x11], '4:1:1'],
    [[0x11], '4:0:0'],
    [[0x12, 0x11, 0x11], null],
    [[0x22, 0x00, 0x11], null],
  ])('with factors %o are %s', (factors, chroma) =>
    expect(facts(frame(factors))).toMatchObject({ width: 1920, height: 1080, bitDepth: 8, chroma }),
  )
  it('of progressive and twelve-bit pictures are read too, tables are not taken for frames', () => {
    expect(facts(marker(0xc4, [0, 0, 0, 0, 0, 0, 0]), frame([0x11], 0xc2, 12))).toMatchObject({
      bitDepth: 12,
    })
  })
  it('state the pixel shape by densities, and fields by the marker that AVI writes', () => {
    expect(facts(jfif(3, 4), frame([0x11]))!.pixelAspect).toEqual({ num: 3, den: 4 })
    expect(facts(jfif(72, 96, 1), frame([0x11]))!.pixelAspect).toEqual({ num: 4, den: 3 })
    expect(facts(jfif(0, 4), frame([0x11]))!.pixelAspect).toBeUndefined()
    const avi = (polarity: number) => marker(0xe0, [...letters('AVI1'), polarity, 0, 0, 0])
    expect(facts(avi(1), frame([0x11]))).toMatchObject({ scan: 'interlaced', fieldOrder: 'bottom-first' })
    expect(facts(avi(2), frame([0x11]))).toMatchObject({ scan: 'interlaced', fieldOrder: 'top-first' })
    expect(facts(avi(0), frame([0x11]))!.scan).toBeUndefined()
  })
  it.each([true, false])('tell orientation, camera and date from EXIF, little-endian %s', (le) => {
    expect(facts(exif(6, le), frame([0x22, 0x11, 0x11]))).toMatchObject({
      rotation: 90,
      camera: 'Foundry',
      takenAt: '2026-05-01T09:30:00',
      width: 1920,
    })
    expect(facts(exif(3, le), frame([0x11]))!.rotation).toBe(180)
    expect(facts(exif(8, le), frame([0x11]))!.rotation).toBe(270)
    expect(facts(exif(1, le), frame([0x11]))!.rotation).toBe(0)
  })
  it('that point outside of their data say nothing more', () => {
    const broken = exif(6, true)
    broken.splice(4 + 6 + 4, 4, 255, 255, 0, 0)
    expect(facts(broken, frame([0x11]))).toMatchObject({ rotation: 0, camera: null, takenAt: null })
  })
  it('give nothing where no frame follows', () => {
    expect(facts(jfif(1, 1))).toBeNull()
    expect(facts(frame([0x11], 0xc0, 8, [0, 1080]))).toBeNull()
    expect(factsOfJpeg(Uint8Array.of(0xff, 0xd8, 0xff, 0xe0, 0x40, 0))).toBeNull()
    expect(factsOfJpeg(Uint8Array.of(1, 2, 3, 4, 5))).toBeNull()
  })
  it('of motion pictures are whole frames unless a marker tells of fields', () => {
    const { claims } = claimsOfStream('Motion JPEG', picture(exif(6, true), frame([0x21, 0x11, 0x11])))
    expect(claims[0]!.facts).toMatchObject({ scan: 'progressive', chroma: '4:2:2' })
    expect(claims[0]!.facts).not.toHaveProperty('rotation')
  })
})
