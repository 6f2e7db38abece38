import { rational } from '../../rational/rational'
import { Cursor } from '../bytes/cursor'
import type { ClaimedFacts } from '../claims'
import { type Rotation } from '../../picture/turn'

/** What the markers of a JPEG say (ITU-T T.81 Annex B, JFIF, EXIF). */
export interface JpegFacts extends ClaimedFacts {
  readonly rotation: Rotation
  readonly takenAt: string | null
  readonly camera: string | null
}

const turns: Record<number, Rotation> = { 3: 180, 4: 180, 5: 90, 6: 90, 7: 270, 8: 270 }

/** Reads markers up to the frame header. @returns null where there is none in these bytes */
export function factsOfJpeg(bytes: Uint8Array): JpegFacts | null {
  const cursor = new Cursor(bytes)
  if (cursor.left < 4 || cursor.u16() !== 0xffd8) return null
  let exif: ReturnType<typeof readExif> = { rotation: 0, takenAt: null, camera: null }
  let facts: ClaimedFacts = {}
  while (cursor.left >= 4) {
    if (cursor.u8() !== 0xff) return null
    let marker = cursor.u8()
    while (marker === 0xff && cursor.left > 2) marker = cursor.u8()
    if (marker === 0xd8 || (marker >= 0xd0 && marker <= 0xd7) || marker === 1) continue
    const length = cursor.u16() - 2
    if (length < 0 || length > cursor.left) return null
    const body = cursor.sub(length)
    const isFrame = marker >= 0xc0 && marker <= 0xcf && marker !== 0xc4 && marker !== 0xc8 && marker !== 0xcc
    if (marker === 0xe0) facts = { ...facts, ...readApplication0(body) }
    else if (marker === 0xe1 && body.left > 14 && body.text(6) === 'Exif\0\0')
      exif = readExif(new Cursor(body.slice(body.left)))
    else if (isFrame) {
      const frame = readFrame(body)
      return frame ? { ...facts, ...frame, ...exif } : null
    } else if (marker === 0xda || marker === 0xd9) return null
  }
  return null
}

/** JFIF states the pixel's shape; the marker that AVI writes states fields. */
function readApplication0(body: Cursor): ClaimedFacts {
  if (body.left < 5) return {}
  const name = body.text(4)
  if (name === 'JFIF' && body.left >= 8) {
    body.skip(3)
    const units = body.u8()
    const [x, y] = [body.u16(), body.u16()]
    if (x === 0 || y === 0) return {}
    // Without units the two are the shape itself; with them they count pixels on a length.
    return { pixelAspect: units === 0 ? rational(x, y) : rational(y, x) }
  }
  if (name === 'AVI1') {
    const polarity = body.u8()
    if (polarity === 1) return { scan: 'interlaced', fieldOrder: 'bottom-first' }
    if (polarity === 2) return { scan: 'interlaced', fieldOrder: 'top-first' }
  }
  return {}
}

function readFrame(body: Cursor): ClaimedFacts | null {
  if (body.left < 6) return null
  const bitDepth = body.u8()
  const height = body.u16()
  const width = body.u16()
  const components = body.u8()
  if (!width || !height || body.left < components * 3) return null
  const sampling = Array.from({ length: components }, () => {
    body.skip(1)
    const factors = body.u8()
    body.skip(1)
    return { h: factors >> 4, v: factors & 15 }
  })
  return { width, height, bitDepth, chroma: chromaOf(sampling) }
}

function chromaOf(sampling: readonly { h: number; v: number }[]): string | null {
  const [luma, chroma] = sampling
  if (sampling.length === 1) return '4:0:0'
  if (!luma || !chroma || !chroma.h || !chroma.v) return null
  const [across, down] = [luma.h / chroma.h, luma.v / chroma.v]
  if (across === 2 && down === 2) return '4:2:0'
  if (across === 2 && down === 1) return '4:2:2'
  if (across === 1 && down === 1) return '4:4:4'
  if (across === 4 && down === 1) return '4:1:1'
  return null
}

/** What is taken of EXIF data stands in so many bytes of its beginning. */
export const exifLength = 4096

/** What is taken of EXIF data. */
export interface ExifFacts {
  readonly rotation: Rotation
  readonly takenAt: string | null
  readonly camera: string | null
}

/** The first directory of EXIF data: orientation, camera, date. */
export function readExif(tiff: Cursor): ExifFacts {
  const found = { rotation: 0 as Rotation, takenAt: null as string | null, camera: null as string | null }
  if (tiff.left < 8) return found
  const le = tiff.text(2) === 'II'
  tiff.skip(2)
  const start = tiff.u32(le)
  if (start + 2 > tiff.length) return found
  tiff.at = start
  for (let n = Math.min(tiff.u16(le), 200); n > 0 && tiff.left >= 12; n--) {
    const tag = tiff.u16(le)
    const type = tiff.u16(le)
    const count = tiff.u32(le)
    const value = tiff.sub(4)
    const text = () => {
      const at = value.u32(le)
      return type === 2 && count > 4 && count < 200 && at + count <= tiff.length
        ? new Cursor(tiff.bytes.subarray(at, at + count)).text(count).replace(/\0.*$/s, '').trim()
        : null
    }
    if (tag === 0x112) found.rotation = turns[value.u16(le)] ?? 0
    else if (tag === 0x110) found.camera = text()
    else if (tag === 0x132) found.takenAt = text()?.replace(/^(\d{4}):(\d\d):(\d\d) /, '$1-$2-$3T') ?? null
  }
  return found
}
