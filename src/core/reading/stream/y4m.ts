import { readY4mHead } from '../../planes/y4m'
import { rational, toNumber } from '../../rational/rational'
import { type WrapperReading, assemblePicture, makeReading } from '../assemble'
import type { FileWindow } from '../bytes/source'
import { ReadingFault } from '../fault'

const headLength = 1024
/** Each frame has a head of its own: at least its mark and a line end. */
const markLength = 6

/** Reads the head of a YUV4MPEG2 stream (mjpegtools, yuv4mpeg(5)): everything stands in its first line; frames are counted by their length. */
export async function readY4m(file: FileWindow): Promise<WrapperReading> {
  const head = readY4mHead(await file.some(0, headLength))
  if ('wrong' in head) throw new ReadingFault('damaged', head.wrong, 0)
  const { width, height, bitDepth, rate, order, across, down, planeCount, range } = head
  const frames = Math.floor((file.size - head.headBytes) / (head.frameBytes + markLength))
  const chroma =
    planeCount === 1
      ? '4:0:0'
      : across === 4
        ? '4:1:1'
        : across === 1
          ? down === 2
            ? '4:4:0'
            : '4:4:4'
          : down === 2
            ? '4:2:0'
            : '4:2:2'
  const picture = assemblePicture({
    codec: 'uncompressed',
    claims: [
      {
        layer: 'stream',
        origin: 'stream header',
        facts: {
          width,
          height,
          bitDepth,
          chroma,
          alpha: planeCount === 4,
          pixelAspect: head.pixelAspect ?? rational(1),
          ...(order === null
            ? {}
            : order === 'progressive'
              ? { scan: order }
              : { scan: 'interlaced', fieldOrder: order }),
          ...(range ? { range } : {}),
        },
      },
    ],
    rate: rate ? { rate, rateMode: 'constant' } : { rate: null, rateMode: 'unknown' },
    rateOrigin: 'stream header',
    frameCount: frames,
  })
  return {
    reading: makeReading({
      kind: 'video',
      container: 'YUV4MPEG2',
      sizeBytes: file.size,
      durationSec: rate ? frames / toNumber(rate) : null,
      video: picture.video,
      notes: picture.notes,
    }),
    origins: { ...picture.origins, 'video.frameCount': 'size' },
    fault:
      frames > 0
        ? null
        : { code: 'truncated', message: 'Not one whole frame is there. Copy it again.', offset: file.size },
  }
}
