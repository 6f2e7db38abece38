import { type ColourStep, differencesOf } from '../../format/compare'
import type { Format } from '../../format/format'
import type { Picture } from '../../picture/picture'
import type { Priced } from '../charge'
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
  | { readonly kind: 'depth'; readonly from: number; readonly to: number }

/** What colour and depth cost. A clip that does not state its colour is taken to be as the format. */
export function colourCharges(
  picture: Picture,
  format: Format,
  weights: Weights,
): (ColourFigures & Priced)[] {
  return differencesOf(picture, format).flatMap((difference): (ColourFigures & Priced)[] => {
    switch (difference.about) {
      case 'colour': {
        const { step, from, to } = difference
        if (step === 'matrix') return []
        const price = {
          'dynamic-range': { grade: 'heavy', loss: weights.dynamicRange },
          transfer: { grade: 'light', loss: weights.transfer },
          primaries: { grade: 'light', loss: weights.primaries },
        } as const
        return [{ kind: 'colour', from, to, step, ...price[step] }]
      }
      case 'depth':
        return [
          { kind: 'depth', from: difference.from, to: difference.to, grade: 'light', loss: weights.depth },
        ]
      default:
        return []
    }
  })
}

const stepWords = { 'dynamic-range': 'dynamic range', transfer: 'transfer', primaries: 'colour' } as const

export const colourWords: WordsOf<ColourFigures> = {
  colour: {
    aspect: 'colour',
    sentence: ({ step, from, to }) => `${stepWords[step]} converted, ${from} to ${to}`,
    short: () => 'colour',
  },
  depth: {
    aspect: 'colour',
    sentence: ({ from, to }) => `${from} bit brought to ${to} bit`,
    short: ({ to }) => `${to} bit`,
  },
}
