/** A frame of an IVF: where its own head of twelve bytes begins, then its bytes. */
export interface IvfFrame {
  readonly at: number
  readonly begin: number
  readonly end: number
}

/** Whole frames of a stretch from the beginning of an IVF: behind the head of the file, each with its length in front. */
export function* ivfFrames(bytes: Uint8Array): Generator<IvfFrame> {
  if (bytes.length < 32) return
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.length)
  for (let at = view.getUint16(6, true); at + 12 <= bytes.length;) {
    const [begin, end] = [at + 12, at + 12 + view.getUint32(at, true)]
    if (end > bytes.length) return
    yield { at, begin, end }
    at = end
  }
}
