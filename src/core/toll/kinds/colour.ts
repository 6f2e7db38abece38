import { type ColourStep, differencesOf, matrixDifference, primariesDifference } from '../../format/compare'
import type { Format } from '../../format/format'
import { type NotForDisplay, isHdr, isNotForDisplay } from '../../picture/colour'
import type { Picture } from '../../picture/picture'
import { arePrimariesKnown } from '../../planes/primaries'
import { isMatrixKnown } from '../../planes/screen'
import type { ColourConversion } from '../../treatment/treatment'
import type { Priced } from '../grade'
import type { Weights } from '../policy'
import type { WordsOf } from '../words'

/** What colour and depth cost. */
export type ColourFigures =
  | {
      readonly kind: 'colour'
      readonly from: string
      readonly to: string
      /** What is converted; a matrix alone costs nothing and is no charge. */
      readonly step: Exclude<ColourStep, 'matrix'>
    }
  | {
      readonly kind: 'colour-wrong'
      readonly from: string
      readonly to: string
      /** What is not converted although it differs. */
      readonly step: ColourStep
      /** Whether nobody chose it: it is not computed here. */
      readonly cannot: boolean
    }
  | { readonly kind: 'depth'; readonly from: number; readonly to: number }
  | { readonly kind: 'not-for-display'; readonly samples: NotForDisplay }

type ColourCharge = ColourFigures & Priced

/** What has to be asked for by name so that a step between ranges is made; `auto` makes whatever is needed. */
const nameOfStep = (from: string, to: string): ColourConversion =>
  !isHdr(to) ? 'hdr-to-sdr' : !isHdr(from) ? 'sdr-to-hdr' : from === 'pq' ? 'pq-to-hlg' : 'hlg-to-pq'

/**
 * What colour and depth cost: what is converted, and what would have to be and is not, since it was chosen so or cannot be. A clip that
 * does not state its colour is taken to be as the format.
 */
export function colourCharges(
  picture: Picture,
  format: Format,
  asked: ColourConversion,
  weights: Weights,
): ColourCharge[] {
  return [
    ...notForDisplay(picture, weights),
    ...ofColour(picture, format, asked, weights),
    ...ofDepth(picture, format, weights),
  ]
}

/** In every format alike: it is told, and ranks nothing. */
function notForDisplay({ transfer }: Picture, weights: Weights): ColourCharge[] {
  if (!isNotForDisplay(transfer)) return []
  const price =
    transfer === 'linear'
      ? ({ grade: 'light', loss: weights.linear } as const)
      : ({ grade: 'heavy', loss: weights.undeveloped } as const)
  return [{ kind: 'not-for-display', samples: transfer, ...price }]
}

function ofColour(
  picture: Picture,
  format: Format,
  asked: ColourConversion,
  weights: Weights,
): ColourCharge[] {
  const colour = differencesOf(picture, format).find(({ about }) => about === 'colour')
  if (colour?.about !== 'colour') return []
  const { step, from, to } = colour
  const wrong = (
    colourStep: ColourStep,
    [a, b]: readonly [string, string],
    cannot: boolean,
  ): ColourCharge => ({
    ...{ kind: 'colour-wrong', step: colourStep, from: a, to: b, cannot },
    grade: colourStep === 'dynamic-range' || colourStep === 'transfer' ? 'severe' : 'heavy',
    loss:
      colourStep === 'primaries'
        ? weights.primariesWrong
        : colourStep === 'matrix'
          ? weights.matrixWrong
          : weights.dynamicRangeWrong,
  })
  if (step === 'dynamic-range' || step === 'transfer') {
    if (asked !== 'auto' && asked !== nameOfStep(from, to)) return [wrong(step, [from, to], false)]
    const price =
      step === 'transfer'
        ? ({ grade: 'light', loss: weights.transfer } as const)
        : ({ grade: 'heavy', loss: weights.dynamicRange } as const)
    return [{ kind: 'colour', from, to, step, ...price }]
  }
  const charges: ColourCharge[] = []
  const primaries = primariesDifference(picture, format)
  if (primaries) {
    const cannot = !arePrimariesKnown(primaries.from, primaries.to)
    if (cannot || asked !== 'auto') charges.push(wrong('primaries', [primaries.from, primaries.to], cannot))
    else
      charges.push({
        ...{ kind: 'colour', from: primaries.from, to: primaries.to, step: 'primaries' },
        ...{ grade: 'light', loss: weights.primaries },
      })
  }
  const matrix = matrixDifference(picture, format)
  if (matrix) {
    const cannot = !isMatrixKnown(matrix.from)
    if (cannot || asked === 'none') charges.push(wrong('matrix', [matrix.from, matrix.to], cannot))
  }
  return charges
}

const ofDepth = (picture: Picture, format: Format, weights: Weights): ColourCharge[] =>
  picture.bitDepth !== null && picture.bitDepth > format.colour.bitDepth
    ? [
        {
          ...{ kind: 'depth', from: picture.bitDepth, to: format.colour.bitDepth },
          ...{ grade: 'light', loss: weights.depth },
        },
      ]
    : []

const stepWords = {
  'dynamic-range': 'dynamic range',
  transfer: 'transfer',
  primaries: 'colour primaries',
  matrix: 'matrix',
} as const

export const colourWords: WordsOf<ColourFigures> = {
  colour: {
    aspect: 'colour',
    sentence: ({ step, from, to }) =>
      `${step === 'primaries' ? 'colour' : stepWords[step]} converted, ${from} to ${to}`,
    short: () => 'colour',
  },
  'colour-wrong': {
    aspect: 'colour',
    sentence: ({ step, from, to, cannot }) =>
      `${stepWords[step]} ${cannot ? 'cannot be converted here' : 'not converted'}: ${from} is shown as ${to}`,
    short: ({ step }) => `wrong ${stepWords[step]}`,
  },
  'not-for-display': {
    aspect: 'colour',
    sentence: ({ samples }) =>
      samples === 'linear'
        ? 'linear light, shown by the curve of BT.709 at exposure 0: brighter than white is cut off'
        : samples === 'log'
          ? 'logarithmic, shown as recorded: a grade makes a picture of it, elsewhere'
          : 'raw, not developed: the preview in the file is shown',
    short: ({ samples }) => samples,
  },
  depth: {
    aspect: 'colour',
    sentence: ({ from, to }) => `${from} bit brought to ${to} bit`,
    short: ({ to }) => `${to} bit`,
  },
}
