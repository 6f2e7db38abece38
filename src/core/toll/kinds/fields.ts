import type { WordsOf } from '../words'
import type { Priced } from '../grade'

/** What fields cost. */
export type FieldFigures =
  | { readonly kind: 'deinterlace'; readonly doubleRate: boolean; readonly both: boolean }
  | { readonly kind: 'weave' }
  | { readonly kind: 'fields-from-frames' }
  | { readonly kind: 'field-order' }
  | { readonly kind: 'field-rescale' }

export type FieldCharge = FieldFigures & Priced

export const fieldWords: WordsOf<FieldFigures> = {
  deinterlace: {
    aspect: 'fields',
    sentence: ({ doubleRate, both }) =>
      both
        ? 'deinterlaced: both fields averaged, what moves is soft and double'
        : doubleRate
          ? 'deinterlaced to double rate: all motion kept'
          : 'deinterlaced: one motion sample in two kept',
    short: ({ doubleRate, both }) =>
      both ? 'fields averaged' : doubleRate ? 'fields to frames' : '1 field in 2',
  },
  weave: {
    aspect: 'fields',
    sentence: () => 'fields woven: combs on everything that moves',
    short: () => 'combs',
  },
  'fields-from-frames': {
    aspect: 'fields',
    sentence: () => 'one field from each frame: all motion kept, half of the lines',
    short: () => 'a field from each',
  },
  'field-order': {
    aspect: 'fields',
    sentence: () => 'field order turned: one line of shift',
    short: () => 'field order',
  },
  'field-rescale': {
    aspect: 'fields',
    sentence: () => 'fields rescaled: deinterlaced, scaled, interlaced again',
    short: () => 'fields rescaled',
  },
}
