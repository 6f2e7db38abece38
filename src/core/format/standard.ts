import { type Rate, rateName } from '../rate/rate'
import { equal, rational } from '../rational/rational'
import { type Format, type FrameSize, square, tradeName } from './format'

/** A frame size that a published standard defines, with what it is called and where it belongs. */
export interface StandardSize extends FrameSize {
  readonly name: string
  readonly group:
    'SD 525' | 'SD 625' | 'HD' | 'HD anamorphic' | 'UHD' | 'DCI' | 'portrait' | 'square' | '21:9'
  /** Whether the standard knows it interlaced (BT.601, SMPTE ST 274). */
  readonly interlaced: boolean
}

const size = (
  group: StandardSize['group'],
  width: number,
  height: number,
  pixelAspect = square,
  interlaced = false,
): StandardSize => ({
  group,
  name: tradeName({ width, height, pixelAspect })!,
  width,
  height,
  pixelAspect,
  interlaced,
})

/**
 * The standard sizes: ITU-R BT.601 and SMPTE ST 125 (SD), ST 296 and ST 274 (HD), ST 2036-1 and BT.2020 (UHD), DCI DCSS (2K, 4K).
 * Portrait, square and 21:9 are the same rasters as they are used for screens that stand or are wide.
 */
export const standardSizes: readonly StandardSize[] = [
  size('UHD', 3840, 2160),
  size('UHD', 7680, 4320),
  size('HD', 1920, 1080, square, true),
  size('HD', 1280, 720),
  size('HD anamorphic', 1440, 1080, rational(4, 3), true),
  size('HD anamorphic', 1280, 1080, rational(3, 2), true),
  size('HD anamorphic', 960, 720, rational(4, 3)),
  size('DCI', 4096, 2160),
  size('DCI', 3996, 2160),
  size('DCI', 4096, 1716),
  size('DCI', 2048, 1080),
  size('DCI', 1998, 1080),
  size('DCI', 2048, 858),
  size('SD 625', 720, 576, rational(64, 45), true),
  size('SD 625', 720, 576, rational(16, 15), true),
  size('SD 525', 720, 480, rational(32, 27), true),
  size('SD 525', 720, 480, rational(8, 9), true),
  size('portrait', 1080, 1920),
  size('portrait', 2160, 3840),
  size('square', 1080, 1080),
  size('21:9', 2560, 1080),
  size('21:9', 5120, 2160),
]

/** The rasters that are squeezed on tape (ITU-R BT.601, SMPTE ST 125; HD as tapes hold it); no other format has pixels that are not square. */
const tapeRasters = [
  ...[720, 704].flatMap((width) => [480, 486, 576].map((height) => `${width}x${height}`)),
  '1440x1080',
  '1280x1080',
  '960x720',
]
export const isTapeRaster = ({ width, height }: FrameSize): boolean =>
  tapeRasters.includes(`${width}x${height}`)

const interlacedLines = [480, 486, 576, 1080]
const interlacedRates = [rational(25), rational(30000, 1001), rational(30)]

/** Whether an interlaced standard has these lines at this rate (ITU-R BT.601, SMPTE ST 274). */
export const hasInterlacedStandard = (height: number, rate: Rate): boolean =>
  interlacedLines.includes(height) && interlacedRates.some((r) => equal(r, rate))

/** A size turned on its side: landscape to portrait and back. The pixels turn with it. */
export const turned = ({ width, height, pixelAspect }: FrameSize): FrameSize => ({
  width: height,
  height: width,
  pixelAspect: rational(pixelAspect.den, pixelAspect.num),
})

/** What stands against a format, in sentences; nothing where it can be used. Chroma of 4:2:0 is assumed, as most codecs have it. */
export function objections(format: Format): string[] {
  const { width, height, scan, rate } = format
  const said: string[] = []
  if (width % 2 || height % 2)
    said.push(`${width}×${height} has an odd side: with 4:2:0 chroma, width and height are even.`)
  if (scan === 'interlaced' && height % 4 && !hasInterlacedStandard(height, rate))
    said.push(`${height} lines cannot be interlaced in 4:2:0: each field needs an even number of lines.`)
  if (width < 16 || height < 16) said.push(`${width}×${height} is smaller than a block of any codec (16×16).`)
  if (width * height > 16384 * 8640) said.push(`${width}×${height} is more than any codec carries.`)
  if (scan === 'interlaced' && rate.num / rate.den > 30)
    said.push(
      `Interlaced formats have at most 30 frames a second; write ${rateName(rate)}i for that many fields.`,
    )
  return said
}
