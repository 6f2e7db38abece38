/** What a loss is made of, in the words that an editor thinks in; `delivery` is all that comes after the timeline. */
export const aspects = ['size', 'motion', 'fields', 'colour', 'delivery'] as const
export type Aspect = (typeof aspects)[number]

/** How the charges of one aspect are worded, by kind: a sentence with figures, and two or three words for a label. */
export type WordsOf<Figures extends { readonly kind: string }> = {
  readonly [Kind in Figures['kind']]: {
    readonly aspect: Aspect
    readonly sentence: (charge: Extract<Figures, { readonly kind: Kind }>) => string
    readonly short: (charge: Extract<Figures, { readonly kind: Kind }>) => string
  }
}
