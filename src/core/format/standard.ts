import { present } from '../assert'
import { type FrameSize, sameSize, square } from '../picture/size'
import { type Rate, isStandardRate, rateName, standardRates } from '../rate/rate'
import { equal, rational, toNumber } from '../rational/rational'
import { type Format, tradeName } from './format'

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
  name: present(tradeName({ width, height, pixelAspect }), 'every standard size has a trade name'),
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

const [r25, r30, r29] = [rational(25), rational(30), rational(30000, 1001)]
const isOneOf = (rate: Rate, rates: readonly Rate[]) => rates.some((known) => equal(known, rate))

/** The rates at which a size is interlaced: 625 lines at 25, 525 at 30000/1001 (BT.601), HD at these and 30 (ST 274). */
const interlacedRates = ({ height }: FrameSize): readonly Rate[] =>
  height === 576 ? [r25] : height === 1080 ? [r25, r29, r30] : [r29]

/** Whether a standard has this size, its pixel shape with it, interlaced at this rate. */
export const hasInterlacedStandard = (size: FrameSize, rate: Rate): boolean =>
  standardSizes.some((known) => known.interlaced && sameSize(known, size)) &&
  isOneOf(rate, interlacedRates(size))

/** Groups of sizes that no published standard has: rasters of screens that stand or are wide. */
const unpublished: ReadonlySet<StandardSize['group']> = new Set(['portrait', 'square', '21:9'])

/**
 * Whether a published standard has this format: size, pixel shape, rate and scan together. SD and HD go up to 60 frames
 * (BT.1358, ST 274, ST 296), UHD to 120 (BT.2020); HD on tape to 30; DCI has rates of its own (ST 428-11).
 */
export function isStandardFormat({ rate, scan, ...format }: Format): boolean {
  const size = standardSizes.find((known) => sameSize(known, format))
  if (!size || unpublished.has(size.group)) return false
  if (scan === 'interlaced') return hasInterlacedStandard(size, rate)
  return isStandardRate(rate) && isOneOf(rate, progressiveRates(size))
}

function progressiveRates({ group, height }: StandardSize): readonly Rate[] {
  const upTo = (most: number) => standardRates.filter((rate) => toNumber(rate) <= most)
  switch (group) {
    case 'UHD':
      return upTo(120)
    case 'DCI':
      return [24, 25, 30, 48, 50, 60].map((whole) => rational(whole))
    case 'HD anamorphic':
      return upTo(height === 720 ? 60 : 30)
    case 'SD 625':
      return [r25, rational(50)]
    case 'SD 525':
      return [r29, rational(60000, 1001)]
    default:
      return upTo(60)
  }
}

/** Lines that standards interlace although a field of them is odd. */
const interlacedHeights = new Set([486])

/** What stands against a format, in sentences; nothing where it can be used. Chroma of 4:2:0 is assumed, as most codecs have it. */
export function objections(format: Format): string[] {
  const { width, height, scan, rate } = format
  const said: string[] = []
  if (width % 2 || height % 2)
    said.push(`${width}×${height} has an odd side: with 4:2:0 chroma, width and height are even.`)
  if (scan === 'interlaced' && height % 4 && !interlacedHeights.has(height))
    said.push(`${height} lines cannot be interlaced in 4:2:0: each field needs an even number of lines.`)
  if (width < 16 || height < 16) said.push(`${width}×${height} is smaller than a block of any codec (16×16).`)
  if (width * height > 16384 * 8640) said.push(`${width}×${height} is more than any codec carries.`)
  if (scan === 'interlaced' && rate.num / rate.den > 30)
    said.push(
      `Interlaced formats have at most 30 frames a second; write ${rateName(rate)}i for that many fields.`,
    )
  return said
}
