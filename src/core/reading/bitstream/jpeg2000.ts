import { Cursor } from '../bytes/cursor'
import type { PictureClaim } from '../claims'

/** What the size marker of a JPEG 2000 codestream says (ITU-T T.800 A.5.1). The codestream may stand behind boxes. */
export function claimOfJpeg2000(bytes: Uint8Array): PictureClaim | null {
  const start = findCodestream(bytes)
  if (start < 0) return null
  const cursor = new Cursor(bytes.subarray(start + 4))
  if (cursor.left < 41) return null
  cursor.skip(4)
  const [x1, y1, x0, y0] = [cursor.u32(), cursor.u32(), cursor.u32(), cursor.u32()]
  cursor.skip(16)
  const count = cursor.u16()
  if (x1 <= x0 || y1 <= y0 || count === 0 || cursor.left < count * 3) return null
  const parts = Array.from({ length: count }, () => ({
    depth: (cursor.u8() & 0x7f) + 1,
    across: cursor.u8(),
    down: cursor.u8(),
  }))
  const [first, second] = parts
  const chroma =
    count < 3 ? '4:0:0' : second?.across === 2 ? (second.down === 2 ? '4:2:0' : '4:2:2') : '4:4:4'
  return {
    layer: 'stream',
    origin: 'size marker',
    facts: { width: x1 - x0, height: y1 - y0, bitDepth: first?.depth ?? null, chroma, alpha: count === 4 },
  }
}

function findCodestream(bytes: Uint8Array): number {
  for (let i = 0; i + 4 <= Math.min(bytes.length, 4096); i++) {
    if (bytes[i] === 0xff && bytes[i + 1] === 0x4f && bytes[i + 2] === 0xff && bytes[i + 3] === 0x51) return i
  }
  return -1
}
