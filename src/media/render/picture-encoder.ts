import { colourOf } from './words'
import type { Planes } from '../../core/planes/planes'
import { type Profile, levelFor } from '../../core/dispatch/codecs'
import type { Deliverable } from '../../core/model/deliverable'
import type { Format } from '../../core/format/format'
import { toNumber } from '../../core/rational/rational'
import { reasonOf } from '../../core/words/reason'
import type { RingWriter } from '../decode/ring'
import { type StreamedCodec, ivfFrameHead, ivfHead } from './ivf'

/** Takes the frames of a picture, in order. */
export interface PictureEncoder {
  /** @throws Error where it cannot be encoded, or nobody takes it any more */
  add(planes: Planes, n: number): Promise<void>
  /** All frames were added. */
  end(): Promise<void>
  close(): void
}

/** Nobody takes what is made any more: the file could not be written. */
export class NotTaken extends Error {}

const gone = 'the file is not written any further'

/** Planes of a frame one after the other, as bytes. */
export function planesAsBytes({ luma, chroma }: Planes): Uint8Array {
  const planes = [luma, ...(chroma ? [chroma.cb, chroma.cr] : [])]
  const bytes = new Uint8Array(planes.reduce((sum, { byteLength }) => sum + byteLength, 0))
  let at = 0
  for (const { buffer, byteOffset, byteLength } of planes) {
    bytes.set(new Uint8Array(buffer, byteOffset, byteLength), at)
    at += byteLength
  }
  return bytes
}

/** Planes as they are: what writes the file encodes them. */
export const planesAsTheyAre = (out: RingWriter): PictureEncoder => ({
  async add(planes) {
    if (!(await out.put(planesAsBytes(planes)))) throw new NotTaken(gone)
  },
  end: async () => out.end(),
  close: () => out.end(),
})

/** What a codec of the browser is called, for a picture and an amount of data. */
function codecString(codec: string, profile: string, format: Format, bits: number): string | null {
  const rate = toNumber(format.rate)
  if (codec === 'H.264') {
    const level = levelFor(format, rate, bits, profile)
    if (!level) return null
    const byte = Math.round(Number(level) * 10)
      .toString(16)
      .padStart(2, '0')
    return `avc1.${profile === 'Main' ? '4d00' : '6400'}${byte}`
  }
  const blocks = (format.width * format.height * rate) / 1e6
  if (codec === 'VP9') return `vp09.00.${blocks > 250 ? '51' : blocks > 80 ? '50' : '41'}.08`
  return codec === 'AV1' ? `av01.0.${blocks > 250 ? '13' : '09'}M.08` : null
}

/** How a browser would have to encode a deliverable; null where browsers encode nothing of the kind. */
function configOf({ format, video }: Deliverable, profile: Profile): VideoEncoderConfig | null {
  const isPlain = format.scan === 'progressive' && profile.bitDepth === 8 && profile.chroma === '4:2:0'
  if (!isPlain || !video || video.rateControl?.kind !== 'bit-rate') return null
  const { bitsPerSecond } = video.rateControl
  const codec = codecString(video.codec, profile.name, format, bitsPerSecond)
  if (!codec) return null
  return {
    codec,
    width: format.width,
    height: format.height,
    bitrate: bitsPerSecond,
    framerate: toNumber(format.rate),
    latencyMode: 'quality',
    ...(video.codec === 'H.264' ? { avc: { format: 'annexb' as const } } : {}),
  }
}

/** What the samples of a format mean, as browsers say it: without a word they take every picture for BT.709. */
function colourSpaceOf(format: Format, codec: string | undefined): VideoColorSpaceInit {
  const { primaries, transfer, matrix } = colourOf(format)
  const named = { smpte2084: 'pq', 'arib-std-b67': 'hlg', bt2020nc: 'bt2020-ncl' } as Record<string, string>
  const name = (name: string) => named[name] ?? name
  return {
    // VP9 has one word for all, which browsers take from the primaries; the matrix is what is computed with.
    primaries: name(codec === 'VP9' && matrix !== 'bt2020nc' ? matrix : primaries),
    transfer: name(transfer),
    matrix: name(matrix),
    fullRange: false,
  } as VideoColorSpaceInit
}

/** So many frames wait at the encoder. */
const mostWaiting = 4
/** A key frame begins at least so often, in seconds. */
const keyEvery = 2

/** The browser’s own encoder; null where it has none for a deliverable. */
export async function browserEncoder(
  deliverable: Deliverable,
  profile: Profile,
  out: RingWriter,
): Promise<PictureEncoder | null> {
  if (typeof VideoEncoder === 'undefined') return null
  const config = configOf(deliverable, profile)
  const supported = config && (await VideoEncoder.isConfigSupported(config).catch(() => null))
  if (!config || !supported?.supported) return null
  const { format, video } = deliverable
  let trouble: Error | null = null
  /** What was encoded goes out in order. */
  let going: Promise<boolean> = out.put(ivfHead(video?.codec as StreamedCodec, format))
  const encoder = new VideoEncoder({
    output(chunk) {
      const bytes = new Uint8Array(chunk.byteLength)
      chunk.copyTo(bytes)
      const n = Math.round(chunk.timestamp * 1e-6 * toNumber(format.rate))
      going = going.then(async () => (await out.put(ivfFrameHead(bytes.length, n))) && out.put(bytes))
    },
    error: (error) => void (trouble = new Error(`the browser could not encode it: ${reasonOf(error)}`)),
  })
  encoder.configure(config)
  const keyFrames = Math.max(1, Math.round(keyEvery * toNumber(format.rate)))
  return {
    async add(planes, n) {
      while (encoder.encodeQueueSize > mostWaiting && !trouble)
        await new Promise((turn) => encoder.addEventListener('dequeue', turn, { once: true }))
      if (trouble) throw trouble
      if (!(await going)) throw new NotTaken(gone)
      const frame = new VideoFrame(planesAsBytes(planes), {
        format: 'I420',
        codedWidth: planes.width,
        codedHeight: planes.height,
        timestamp: Math.round((n * 1e6) / toNumber(format.rate)),
        colorSpace: colourSpaceOf(format, video?.codec),
      })
      encoder.encode(frame, { keyFrame: n % keyFrames === 0 })
      frame.close()
    },
    async end() {
      await encoder.flush()
      if (trouble) throw trouble
      if (!(await going)) throw new NotTaken(gone)
      out.end()
    },
    close() {
      if (encoder.state !== 'closed') encoder.close()
      out.end()
    },
  }
}
