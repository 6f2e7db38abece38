import { rateName, rateWithScan } from '../rate/rate'
import { equal, rational, toNumber } from '../rational/rational'
import { percent, ratio, spaced, upTo } from '../words/figures'
import type { Condition } from './rule'
import type { Fields, FramingOverride, Motion, Override } from './treatment'
import type { Run } from './run'

/** How a placement runs, in a few words. */
export function wayWords({ passing, taking }: Run): string {
  const pace = passing.kind === 'step-by-step' ? 'every frame once' : null
  switch (taking.kind) {
    case 'frames':
      return pace ?? (taking.mixed ? 'neighbouring frames mixed' : 'frames held as they land')
    case 'deinterlaced': {
      const method =
        taking.method === 'blend'
          ? 'both fields averaged'
          : taking.keep === 'each'
            ? 'each field made a frame'
            : `the ${taking.keep} field of each frame`
      return [method, pace, taking.mixed && 'mixed'].filter(Boolean).join(', ')
    }
    case 'fields':
      return taking.outOf === 'frames' ? 'a field from each frame' : 'fields stay fields'
    case 'pulldown':
      return '2:3 pulldown'
    case 'remove-pulldown':
      return '2:3 pulldown removed'
  }
}

const methodNames = { adaptive: 'adaptive', interpolate: 'interpolate', single: 'single field' } as const

function motionWords(motion: Motion): string {
  switch (motion.kind) {
    case 'auto':
      return 'frames as they land'
    case 'hold':
    case 'blend':
      return motion.kind
    case 'speed':
      return motion.pace.kind === 'every-frame'
        ? `every frame once${motion.wanted ? ', wanted' : ''}`
        : `${percent(toNumber(motion.pace.factor))} speed${motion.wanted ? ', wanted' : ''}`
    case 'pulldown':
      return `2:3 pulldown, phase ${motion.phase}`
    case 'remove-pulldown':
      return `2:3 pulldown out, phase ${motion.phase}`
  }
}

function fieldsWords(fields: Fields): string {
  switch (fields.kind) {
    case 'auto':
      return 'fields as costs least'
    case 'from-frames':
      return 'a field from each frame'
    case 'deinterlace': {
      const { rate } = fields
      const pace =
        rate.kind === 'double' ? 'double rate' : `same rate${rate.keep === 'second' ? ', second field' : ''}`
      return `${methodNames[fields.method]}, ${pace}`
    }
    default:
      return fields.kind
  }
}

function framingWords({ mode, zoom, position, crop, reduction, filter, sharpen }: FramingOverride): string[] {
  const cut = crop && Object.values(crop).some((side) => side > 0)
  return [
    mode && spaced(mode.kind),
    zoom && `zoom ${percent(toNumber(zoom))}`,
    position && `moved by ${upTo(toNumber(position.x), 2)}, ${upTo(toNumber(position.y), 2)}`,
    cut && `crop ${[crop.left, crop.right, crop.top, crop.bottom].map((side) => upTo(side, 2)).join(', ')}`,
    crop && !cut && 'no crop',
    reduction && `${reduction} reduction`,
    filter && (filter === 'lanczos' ? 'Lanczos' : filter),
    sharpen && `sharpened ${sharpen.amount} at ${sharpen.radius} px`,
    sharpen === null && 'not sharpened',
  ].filter((part) => typeof part === 'string')
}

/** What is set of a treatment, in a few words: `interpolate, double rate; fill`. Nothing set: `nothing`. */
export function overrideWords({ framing, motion, fields, shiftOrder, colour }: Override): string {
  const parts = [
    fields && fieldsWords(fields),
    motion && motionWords(motion),
    ...(framing ? framingWords(framing) : []),
    shiftOrder !== undefined && (shiftOrder ? 'a line lower' : 'not a line lower'),
    colour && (colour === 'auto' ? 'colour as needed' : `colour: ${spaced(colour)}`),
  ]
  return parts.filter((part) => typeof part === 'string').join('; ') || 'nothing'
}

/** Which clips a rule is for: `every 50i clip`, `every 3840×2160 clip of high dynamic range`. */
export function conditionWords({ size, rate, scan, hdr }: Condition): string {
  const rated =
    rate && (scan === 'interlaced' || scan === 'progressive')
      ? rateWithScan(rate, scan)
      : rate && rateName(rate)
  const words = [
    size &&
      `${size.width}×${size.height}${equal(size.pixelAspect, rational(1)) ? '' : ` (${ratio(size.pixelAspect)})`}`,
    rated,
    !rate && scan && spaced(scan),
  ].filter((part) => typeof part === 'string')
  const range = hdr === undefined ? '' : hdr ? ' of high dynamic range' : ' of standard range'
  return `every ${[...words, 'clip'].join(' ')}${range}`
}
