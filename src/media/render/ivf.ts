/** Encoded frames one after the other with their times, as the toolkit reads them: the file of the VP8 project, of any codec. */

const codes = { 'H.264': 'H264', VP9: 'VP90', AV1: 'AV01' } as const
/** Codecs that browsers encode and that lie in such a stream. */
export type StreamedCodec = keyof typeof codes

/** The head of a stream of frames. */
export function ivfHead(
  codec: StreamedCodec,
  {
    width,
    height,
    rate,
  }: {
    readonly width: number
    readonly height: number
    readonly rate: { readonly num: number; readonly den: number }
  },
): Uint8Array {
  const bytes = new Uint8Array(32)
  const view = new DataView(bytes.buffer)
  bytes.set(new TextEncoder().encode('DKIF'))
  view.setUint16(6, 32, true)
  bytes.set(new TextEncoder().encode(codes[codec]), 8)
  view.setUint16(12, width, true)
  view.setUint16(14, height, true)
  view.setUint32(16, rate.num, true)
  view.setUint32(20, rate.den, true)
  return bytes
}

/** What stands before each frame: its length, and its number. */
export function ivfFrameHead(length: number, n: number): Uint8Array {
  const bytes = new Uint8Array(12)
  const view = new DataView(bytes.buffer)
  view.setUint32(0, length, true)
  view.setBigUint64(4, BigInt(n), true)
  return bytes
}
