import type { PictureClaim } from '../claims'
import { colourFromCodes } from '../colour'
import { Cursor } from '../bytes/cursor'

/**
 * What the first frame of a ProRes stream says (SMPTE RDD 36 §5.1): size, chroma, scan and field order, colour, alpha.
 * @returns null where the bytes are no ProRes frame.
 */
export function claimOfProRes(frame: Uint8Array): PictureClaim | null {
  if (frame.length < 28) return null
  const cursor = new Cursor(frame)
  cursor.skip(4)
  if (cursor.code() !== 'icpf') return null
  cursor.skip(8)
  const width = cursor.u16()
  const height = cursor.u16()
  const flags = cursor.u8()
  cursor.skip(1)
  const [primaries, transfer, matrix] = [cursor.u8(), cursor.u8(), cursor.u8()]
  const alpha = cursor.u8() & 15
  const interlaceMode = (flags >> 2) & 3
  if (!width || !height) return null
  return {
    layer: 'stream',
    origin: 'frame header',
    facts: {
      width,
      height,
      chroma: flags >> 6 === 3 ? '4:4:4' : '4:2:2',
      scan: interlaceMode === 0 ? 'progressive' : 'interlaced',
      fieldOrder: interlaceMode === 0 ? null : interlaceMode === 1 ? 'top-first' : 'bottom-first',
      alpha: alpha > 0,
      ...colourFromCodes(primaries, transfer, matrix),
    },
  }
}
