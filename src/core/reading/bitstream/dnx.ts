import { byteAt } from '../bytes/byte-at'
import { Cursor } from '../bytes/cursor'
import type { PictureClaim } from '../claims'

const profiles: Record<number, string> = { 1270: '444', 1271: 'HQX', 1272: 'HQ', 1273: 'SQ', 1274: 'LB' }

/**
 * What the first frame of a DNxHD or DNxHR stream says (SMPTE ST 2019-1 §6): raster, scan, depth, compression id.
 * @returns null where the bytes are no such frame.
 */
export function claimOfDnx(frame: Uint8Array): { codec: 'DNxHD' | 'DNxHR'; claim: PictureClaim } | null {
  if (frame.length < 0x30) return null
  const cursor = new Cursor(frame)
  // Large rasters have longer headers: four bytes more for each row of macroblocks.
  const headerLength = cursor.u32()
  if (headerLength < 0x280 || headerLength > 0x2170 || headerLength % 4 !== 0) return null
  const version = cursor.u8()
  if (version < 1 || version > 3) return null
  const control = cursor.u8()
  const interlaced = (control & 2) !== 0
  const alpha = (byteAt(frame, 7) & 1) !== 0
  cursor.at = 0x18
  const height = cursor.u16()
  const width = cursor.u16()
  const bitDepth = { 1: 8, 2: 10, 3: 12 }[byteAt(frame, 0x21) >> 5] ?? null
  cursor.at = 0x28
  const id = cursor.u32()
  const codec = id >= 1270 && id <= 1274 ? 'DNxHR' : 'DNxHD'
  if (!width || !height) return null
  return {
    codec,
    claim: {
      layer: 'stream',
      origin: 'frame header',
      facts: {
        width,
        // Each field has a header of its own, with the lines of the field.
        height: interlaced ? height * 2 : height,
        profile: profiles[id] ?? null,
        scan: interlaced ? 'interlaced' : 'progressive',
        fieldOrder: interlaced ? ((control & 1) === 0 ? 'top-first' : 'bottom-first') : null,
        bitDepth,
        chroma: (byteAt(frame, 0x2c) >> 6) & 1 ? '4:4:4' : '4:2:2',
        alpha,
      },
    },
  }
}
