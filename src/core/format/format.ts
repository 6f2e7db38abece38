import { figure } from '../words/figures'
import * as z from 'zod'
import type { Picture } from '../picture/picture'
import { FrameSize, displayAspect, sizeKey, square } from '../picture/size'
import { type Rational, equal } from '../rational/rational'
import { Rate, rateWithScan } from '../rate/rate'
import { FieldOrder } from '../picture/scan'

/** The colour of a format: H.273 names, and the bits of one sample. Its matrix is the one that its size and primaries mean. */
export const FormatColour = z
  .object({
    primaries: z.string(),
    transfer: z.string(),
    bitDepth: z.number().int().min(1).max(32),
  })
  .readonly()
export type FormatColour = z.infer<typeof FormatColour>

/** Frame size, pixel shape, rate, scan and colour: what a project or a timeline runs in. */
export const Format = FrameSize.unwrap()
  .extend({
    rate: Rate,
    scan: z.enum(['progressive', 'interlaced']),
    /** Null when progressive. */
    fieldOrder: FieldOrder.nullable(),
    colour: FormatColour,
  })
  // Fields that are not there have no order.
  .transform((format) => (format.scan === 'progressive' ? { ...format, fieldOrder: null } : format))
  .readonly()
export type Format = z.infer<typeof Format>

export const rec709: FormatColour = { primaries: 'bt709', transfer: 'bt709', bitDepth: 8 }

/** A progressive or interlaced format with square pixels and BT.709 colour unless told otherwise. */
export function makeFormat(
  size: { width: number; height: number; pixelAspect?: Rational },
  rate: Rational,
  scan: Format['scan'] = 'progressive',
  colour: FormatColour = rec709,
): Format {
  return {
    width: size.width,
    height: size.height,
    pixelAspect: size.pixelAspect ?? square,
    rate,
    scan,
    fieldOrder: scan === 'interlaced' ? defaultFieldOrder(size) : null,
    colour,
  }
}

/** SD with 480 or 486 lines is bottom first (SMPTE ST 125 pictures as recorded by DV); everything else is top first. */
const defaultFieldOrder = (size: { height: number }): FieldOrder =>
  size.height === 480 || size.height === 486 ? 'bottom-first' : 'top-first'

/** The same in everything, colour and field order too. */
export const sameFormat = (a: Format, b: Format): boolean => formatKey(a) === formatKey(b)

/** A format as if it were a clip: what stands in another format when a timeline is carried to it. */
export const pictureOfFormat = (format: Format): Picture => ({
  width: format.width,
  height: format.height,
  pixelAspect: format.pixelAspect,
  rotation: 0,
  rate: format.rate,
  scan: format.scan,
  fieldOrder: format.fieldOrder,
  firstLine: 0,
  offNominalShare: null,
  minRate: null,
  maxRate: null,
  leftOutShare: 0,
  primaries: format.colour.primaries,
  transfer: format.colour.transfer,
  matrix: null,
  bitDepth: format.colour.bitDepth,
  combs: false,
  pulldownPhase: null,
  pulldownOut: false,
  detail: null,
})

/** The trade names that stand for exactly one size with one pixel shape (SMPTE ST 2048, ST 2036, DCI). */
const tradeNames: Record<string, string> = {
  '8192x4320': 'DCI 8K',
  '7680x4320': 'UHD-2',
  '4096x2160': 'DCI 4K',
  '3996x2160': 'DCI 4K flat',
  '4096x1716': 'DCI 4K scope',
  '3840x2160': 'UHD',
  '2048x1080': 'DCI 2K',
  '1998x1080': 'DCI 2K flat',
  '2048x858': 'DCI 2K scope',
  '1920x1080': 'HD',
  '1280x720': 'HD 720',
  '1440x1080/4:3': 'HD anamorphic',
  '1280x1080/3:2': 'HD anamorphic',
  '960x720/4:3': 'HD 720 anamorphic',
  '720x576/16:15': 'SD 625, 4:3',
  '720x576/64:45': 'SD 625, 16:9',
  '720x480/8:9': 'SD 525, 4:3',
  '720x480/32:27': 'SD 525, 16:9',
  '1080x1080': 'HD square',
  '2560x1080': 'wide HD',
  '5120x2160': 'wide UHD',
}

/** The trade name of a size, or null. UHD is never DCI 4K, nor 1440×1080 with 4:3 pixels HD. */
export const tradeName = (size: FrameSize): string | null =>
  tradeNames[sizeText(size)] ??
  (size.height > size.width && equal(size.pixelAspect, square)
    ? withSuffix(tradeNames[`${size.height}x${size.width}`], ' portrait')
    : null)

const withSuffix = (name: string | undefined, suffix: string) => (name ? name + suffix : null)

/** A size as it is typed: `1920x1080`, `1440x1080/4:3`. */
export const sizeText = (size: FrameSize): string =>
  `${size.width}x${size.height}` +
  (equal(size.pixelAspect, square) ? '' : `/${size.pixelAspect.num}:${size.pixelAspect.den}`)

/** A size for the eye: `1920×1080`. The pixel shape, where not square, is told beside it. */
export const sizeName = (size: { width: number; height: number }): string => `${size.width}×${size.height}`

/** A format as it is typed and printed: `3840x2160@23.976p`, `1440x1080/4:3@50i`. */
export const formatText = (format: Format): string =>
  `${sizeText(format)}@${rateWithScan(format.rate, format.scan)}`

/** Equal for formats that are the same in everything, colour and field order too: a format's identity. */
export const formatKey = (format: Format): string =>
  [
    sizeKey(format),
    `${format.rate.num}/${format.rate.den}`,
    format.scan,
    format.fieldOrder,
    format.colour.primaries,
    format.colour.transfer,
    format.colour.bitDepth,
  ].join(' ')

/** A format for the eye: `1440×1080 (4:3) · 50i`. */
export const formatName = (format: Format): string =>
  `${pixelSizeName(format)} · ${rateWithScan(format.rate, format.scan)}`

/** A size for the eye with its pixel shape where that is not square. */
export const pixelSizeName = (size: FrameSize): string =>
  sizeName(size) +
  (equal(size.pixelAspect, square) ? '' : ` (${size.pixelAspect.num}:${size.pixelAspect.den})`)

/** The display aspect in the words of the trade: `16:9`, `256:135`, `1.33:1` where the terms get long. */
export function aspectName(size: FrameSize): string {
  const { num, den } = displayAspect(size)
  return num <= 256 && den <= 256 ? `${num}:${den}` : `${figure(num / den, 2)}:1`
}

/** A size by its trade name and its shape, the shape once: `UHD, 16:9`, `SD 625, 16:9`, `2.39:1`. */
export function shapeName(size: FrameSize): string {
  const trade = tradeName(size)
  if (!trade) return aspectName(size)
  return trade.includes(':') ? trade : `${trade}, ${aspectName(size)}`
}
