import type { Format } from '../../format/format'
import { type Fit, fitPicture } from '../../framing/framing'
import type { Picture } from '../../picture/picture'
import { type Rotation, isQuarterTurn } from '../../picture/turn'
import type { Sides, Treatment } from '../../treatment/treatment'
import { factor, percent, pixels } from '../../words/figures'
import { type Priced, gradeBy } from '../grade'
import type { Weights } from '../policy'
import type { WordsOf } from '../words'

/** What frame size, pixel shape and turn cost. */
export type SizeFigures =
  | { readonly kind: 'enlarge'; readonly scaleX: number; readonly scaleY: number }
  | {
      readonly kind: 'reduce'
      readonly scaleX: number
      readonly scaleY: number
      readonly headroom: number
      /** What is in it, where it was enlarged before. */
      readonly detail?: { readonly width: number; readonly height: number }
    }
  | { readonly kind: 'bars'; readonly share: number; readonly bars: Sides }
  | { readonly kind: 'crop'; readonly share: number; readonly crop: Sides }
  | { readonly kind: 'distort'; readonly ratio: number }
  | { readonly kind: 'turn'; readonly degrees: Rotation }
  /** Moved by a part of a pixel: every pixel is made anew. */
  | { readonly kind: 'between-pixels' }

type SizeCharge = SizeFigures & Priced

/** Below this, a share or a departure is rounding, not a charge. */
const dust = 1e-9

/** Share of the output's pixels that an enlargement invents; an axis that shrinks invents none. */
export const inventedShare = (scaleX: number, scaleY: number): number =>
  1 - 1 / (Math.max(1, scaleX) * Math.max(1, scaleY))

/** What the frame size and pixel shape cost: enlargement, reduction, bars, crop, distortion. */
export function framingCharges(
  picture: Picture,
  format: Format,
  treatment: Treatment,
  weights: Weights,
): { charges: SizeCharge[]; fit: Fit } {
  const fit = fitPicture(picture, format, treatment.framing)
  const charges: SizeCharge[] = []
  const { scaleX, scaleY, barsShare, cropShare } = fit
  const largest = Math.max(scaleX, scaleY)
  if (largest > 1 + dust) {
    const loss = weights.invented * inventedShare(scaleX, scaleY)
    charges.push({ kind: 'enlarge', scaleX, scaleY, grade: gradeBy(largest, 1.1, 1.5), loss })
  } else if (Math.min(scaleX, scaleY) < 1 - dust) {
    const [across, down] = trueShares(picture)
    const loss = weights.unused * (1 - Math.min(1, scaleX / across) * Math.min(1, scaleY / down))
    const detail = picture.detail ? { detail: picture.detail } : {}
    charges.push({ kind: 'reduce', scaleX, scaleY, headroom: fit.headroom, ...detail, grade: 'light', loss })
  }
  const partly = (share: number, weight: number) => ({
    share,
    grade: gradeBy(share, 0.05, 0.35),
    loss: weight * share,
  })
  if (barsShare > dust) charges.push({ kind: 'bars', bars: fit.bars, ...partly(barsShare, weights.bars) })
  if (cropShare > dust) charges.push({ kind: 'crop', crop: fit.crop, ...partly(cropShare, weights.crop) })
  const departure = Math.abs(Math.log(fit.distortion))
  if (departure > dust) {
    const grade = gradeBy(Math.abs(fit.distortion - 1), 0.01, 0.03)
    const loss = Math.min(1, weights.distortion * departure)
    charges.push({ kind: 'distort', ratio: fit.distortion, grade, loss })
  }
  // A quarter turn keeps every pixel: it is told, and free.
  if (picture.rotation !== 0)
    charges.push({ kind: 'turn', degrees: picture.rotation, grade: 'free', loss: 0 })
  else if (!fit.untouched && charges.every(({ kind }) => kind === 'bars' || kind === 'crop') && offGrid(fit))
    charges.push({ kind: 'between-pixels', grade: 'light', loss: 0 })
  return { charges, fit }
}

/** The shares of its pixels, across and down as it stands upright, that a picture truly has: all, unless it was enlarged before. */
function trueShares({ width, height, rotation, detail }: Picture): readonly [across: number, down: number] {
  if (!detail) return [1, 1]
  const [x, y] = [detail.width / width, detail.height / height].map((share) => Math.min(1, share)) as [
    number,
    number,
  ]
  return isQuarterTurn(rotation) ? [y, x] : [x, y]
}

const offGrid = ({ left, top }: Fit) => !Number.isInteger(left) || !Number.isInteger(top)

/** Both sides of an axis in one breath where they are alike, each alone where they are not. */
function axis(before: number, after: number, names: readonly [string, string]): string[] {
  const seen = 0.005
  if (before < seen && after < seen) return []
  if (Math.abs(before - after) < seen) return [`${pixels(before)} px ${names[0]} and ${names[1]}`]
  return [
    before >= seen && `${pixels(before)} px ${names[0]}`,
    after >= seen && `${pixels(after)} px ${names[1]}`,
  ].filter((part) => part !== false)
}
const sides = ({ left, right, top, bottom }: Sides) =>
  [...axis(left, right, ['left', 'right']), ...axis(top, bottom, ['above', 'below'])].join(', ')

/** Scales under 1, as one figure where both are alike, and only what shrinks where they are not. */
function reduction(across: number, down: number): string {
  if (Math.abs(across - down) < 0.005) return percent(across)
  return [across < 0.995 && `${percent(across)} across`, down < 0.995 && `${percent(down)} down`]
    .filter((part) => part !== false)
    .join(', ')
}

export const sizeWords: WordsOf<SizeFigures> = {
  enlarge: {
    aspect: 'size',
    sentence({ scaleX, scaleY }) {
      const share = percent(inventedShare(scaleX, scaleY))
      return Math.abs(scaleX - scaleY) < 0.005
        ? `enlarged ${factor(scaleX)}: ${share} of the pixels invented`
        : `enlarged ${factor(scaleX)} across, ${factor(scaleY)} down: ${share} of the pixels invented`
    },
    short: ({ scaleX, scaleY }) => `enlarged ${factor(Math.max(scaleX, scaleY))}`,
  },
  reduce: {
    aspect: 'size',
    sentence({ scaleX, scaleY, headroom, detail }) {
      const room = headroom > 1.005 ? `room to zoom to ${percent(headroom)}` : 'no room to zoom'
      const real = detail ? `, though no more than ${detail.width}×${detail.height} is in it` : ''
      return `reduced to ${reduction(scaleX, scaleY)}: ${room}${real}`
    },
    short: ({ scaleX, scaleY }) => `reduced to ${percent(Math.min(scaleX, scaleY))}`,
  },
  bars: {
    aspect: 'size',
    sentence: ({ bars, share }) => `bars of ${sides(bars)} (${percent(share)} of the frame)`,
    short: ({ share }) => `bars ${percent(share)}`,
  },
  crop: {
    aspect: 'size',
    sentence: ({ crop, share }) => `loses ${sides(crop)} (${percent(share)} of the picture)`,
    short: ({ share }) => `crop ${percent(share)}`,
  },
  distort: {
    aspect: 'size',
    sentence: ({ ratio }) =>
      ratio > 1
        ? `distortion: ${percent(ratio - 1)} too wide`
        : `distortion: ${percent(1 / ratio - 1)} too tall`,
    short: () => 'distorted',
  },
  turn: {
    aspect: 'size',
    sentence: ({ degrees }) => `turned by ${degrees}°: every pixel kept`,
    short: ({ degrees }) => `turned ${degrees}°`,
  },
  'between-pixels': {
    aspect: 'size',
    sentence: () => 'moved by a part of a pixel: every pixel made anew',
    short: () => 'between pixels',
  },
}
