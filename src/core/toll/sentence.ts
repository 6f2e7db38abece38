import type { Charge, ChargeFigures, ChargeKind, Toll } from './charge'
import { colourWords } from './kinds/colour'
import { fieldWords } from './kinds/fields'
import { motionWords } from './kinds/motion'
import { sizeWords } from './kinds/size'
import type { Aspect, WordsOf } from './words'

/** Every kind of charge in words: the one place where charges become sentences. */
const words: WordsOf<ChargeFigures> = { ...sizeWords, ...motionWords, ...fieldWords, ...colourWords }

/** The words of one charge; each kind's take their own figures. */
const wordsOf = (charge: Pick<Charge, 'kind'>) =>
  words[charge.kind] as {
    readonly aspect: Aspect
    readonly sentence: (charge: ChargeFigures) => string
    readonly short: (charge: ChargeFigures) => string
  }

/** What a charge means for the footage, short and with its figures. */
export const sentence = (charge: ChargeFigures): string => wordsOf(charge).sentence(charge)

/** A charge in two or three words, for labels on a line. */
export const shortWords = (charge: ChargeFigures): string => wordsOf(charge).short(charge)

/** Which part of a loss a kind of charge belongs to. */
export const aspectOfCharge = (kind: ChargeKind): Aspect => words[kind].aspect

/** Whether a word is a kind of charge. */
export const isChargeKind = (kind: string): kind is ChargeKind => Object.hasOwn(words, kind)

/** A whole toll in one line. */
export const tollSentence = (toll: Toll): string =>
  toll.charges.length === 0
    ? toll.untouched
      ? 'untouched'
      : 'its colour computed by another matrix, no value lost'
    : toll.charges.map(sentence).join('; ')
