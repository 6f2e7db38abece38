import { present } from '../../core/assert'
import { lumaOf, type Planes } from '../../core/planes/planes'
import { type Meaning, toScreen } from '../../core/planes/screen'
import type { DecodedFrame } from './engine'

/** What browsers call the matrices of H.273. */
const matrices: Readonly<Record<string, VideoMatrixCoefficients>> = {
  bt709: 'bt709',
  'bt601-625': 'bt470bg',
  'bt601-525': 'smpte170m',
}

/** Whether a browser shows such a picture as it is meant, and fast: 8 bits, no high dynamic range, no wide primaries. */
const isPlain = ({ bitDepth, chroma, alpha }: Planes, { transfer, matrix, primaries }: Meaning): boolean =>
  bitDepth === 8 &&
  chroma !== null &&
  alpha === null &&
  transfer !== 'pq' &&
  transfer !== 'hlg' &&
  primaries !== 'bt2020' &&
  matrix in matrices

/** The browser's name of a layout that it takes; undefined for others. */
const formatOf = ({ across, down }: Planes): VideoPixelFormat | undefined =>
  (({ '2 2': 'I420', '2 1': 'I422', '1 1': 'I444' }) as const)[`${across} ${down}` as '2 2']

/** Decoded planes as a frame; they are held in memory, and closing lets nothing go. */
export function planesFrame(index: number, planes: Planes, meaning: Meaning): DecodedFrame {
  const { width, height } = planes
  return {
    index,
    meaning,
    width,
    height,
    planes: async () => planes,
    lend: async (work) => work(planes),
    luma: async (into) => lumaOf(planes, into),
    draw: async (context, w, h) => drawPlanes(context, planes, meaning, w, h),
    close: () => {},
  }
}

/**
 * A small picture of a large one is drawn from every second, third … pixel, twice as many as are seen: a browser would make the
 * large one first, and keep several of them.
 */
export const strideFor = (from: number, to: number): number => Math.max(1, Math.floor(from / (2 * to)))

/** Draws planes for the screen into a rectangle at the origin. */
export function drawPlanes(
  context: OffscreenCanvasRenderingContext2D,
  planes: Planes,
  meaning: Meaning,
  width: number,
  height: number,
): void {
  const stride = strideFor(planes.width, width)
  const format = formatOf(planes)
  if (stride === 1 && format && planes.chroma && isPlain(planes, meaning)) {
    const frame = asVideoFrame(planes, planes.chroma, format, meaning)
    try {
      context.drawImage(frame, 0, 0, width, height)
    } finally {
      frame.close()
    }
    return
  }
  const screen = toScreen(planes, meaning, stride)
  const canvas = new OffscreenCanvas(screen.width, screen.height)
  const onto = present(canvas.getContext('2d'), 'a canvas of this worker is drawn on in two dimensions')
  onto.putImageData(new ImageData(screen.data, screen.width, screen.height), 0, 0)
  context.drawImage(canvas, 0, 0, width, height)
}

function asVideoFrame(
  { width, height, luma, across }: Planes,
  { cb, cr }: NonNullable<Planes['chroma']>,
  format: VideoPixelFormat,
  { matrix, range }: Meaning,
): VideoFrame {
  const bytes = new Uint8Array(luma.length + cb.length + cr.length)
  bytes.set(luma)
  bytes.set(cb, luma.length)
  bytes.set(cr, luma.length + cb.length)
  const chromaWidth = Math.ceil(width / across)
  return new VideoFrame(bytes, {
    format,
    codedWidth: width,
    codedHeight: height,
    timestamp: 0,
    layout: [
      { offset: 0, stride: width },
      { offset: luma.length, stride: chromaWidth },
      { offset: luma.length + cb.length, stride: chromaWidth },
    ],
    colorSpace: { matrix: matrices[matrix] ?? 'bt709', fullRange: range === 'full' },
    transfer: [bytes.buffer],
  } as VideoFrameBufferInit)
}
